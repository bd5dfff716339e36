import type { Hertz, Midi } from '../base';
import type { Setup } from '../instrument';
import { StringVoice } from './string-voice';

/** Voices of second strings are kept apart from the strings themselves. */
const COURSE_KEY = 100;

/** The strings of one instrument as they sound: one voice each, so that a new note on a string stops the old one. */
export class Strings {
  private readonly voices = new Map<number, StringVoice>();
  private readonly gain: number;

  /** @param a4 the reference it is tuned to */
  constructor(
    private readonly rate: number,
    private readonly setup: Setup,
    private readonly a4: Hertz = 440,
  ) {
    this.gain = setup.instrument.kind === 'bass' ? 0.9 : 0.75;
  }

  voice(key: number, pitch: Midi): StringVoice {
    let one = this.voices.get(key);
    if (!one) {
      one = new StringVoice(this.rate, Math.min(pitch, 28, ...this.setup.open), this.a4);
      this.voices.set(key, one);
    }
    return one;
  }

  /** What sounds when a string is played: a course is two strings under one finger, the second at its distance. */
  sounds(string: number, pitch: Midi): { readonly key: number; readonly sounding: Midi }[] {
    const course = this.setup.instrument.strings[this.setup.instrument.strings.length - string]?.course;
    return course
      ? [
          { key: string, sounding: pitch },
          { key: COURSE_KEY + string, sounding: pitch + course.semitones },
        ]
      : [{ key: string, sounding: pitch }];
  }

  /** Adds `count` samples of all strings to `out` from `from` on. */
  render(out: Float32Array, from: number, count: number): void {
    for (const one of this.voices.values()) one.render(out, from, count, this.gain);
  }

  /** Lays a hand on all strings. */
  damp(seconds: number): void {
    for (const one of this.voices.values()) one.damp(seconds);
  }
}
