import { expose, transfer } from 'comlink';
import { banded, forPictures, heardChannel, listenTo, onsetsIn, overviewOf, pictureOf, stretched, type Band, type Channels, type Listened, type ListenOptions, type PictureWindow, type Sound } from '@/core/listen';
import { StringVoice, seeded } from '@/core/synth';

/** The door to core/listen: holds one recording and answers about it. Ended by its owner, which is how long work is cancelled. */
let channels: readonly Float32Array[] = [];
let rate = 44_100;
let mono = new Float32Array(0);
let slow: Sound | null = null;
let strokes: { readonly of: string; readonly list: readonly number[] } | null = null;

export interface Cut {
  readonly from: number;
  readonly to: number;
  readonly speed: number;
  readonly semitones: number;
  readonly channels: Channels;
  readonly band: Band;
}

const part = (x: Float32Array, from: number, to: number): Float32Array => x.subarray(Math.max(0, Math.round(from * rate)), Math.min(x.length, Math.round(to * rate)));

const door = {
  load(sound: readonly Float32Array[], at: number): void {
    channels = sound;
    rate = at;
    mono = heardChannel(sound, 'middle') as Float32Array<ArrayBuffer>;
    slow = null;
    strokes = null;
  },

  overview(count: number): Uint8Array {
    return overviewOf(mono, count);
  },

  picture(window: PictureWindow): Uint8ClampedArray {
    slow ??= forPictures(mono, rate);
    const made = pictureOf(slow, window);
    return transfer(made, [made.buffer as ArrayBuffer]);
  },

  /** A stretch as it is to be heard: of some channels, in a band, at a speed and pitch. */
  cut({ from, to, speed, semitones, channels: which, band }: Cut): Float32Array {
    const sound = part(heardChannel(channels.map((c) => part(c, from, to)), which === 'both' ? 'middle' : which), 0, to - from);
    const kept = banded(sound, rate, band);
    if (Math.abs(speed - 1) < 1e-6 && semitones === 0) return transfer(kept, [kept.buffer as ArrayBuffer]);
    const key = `${from} ${to}`;
    if (strokes?.of !== key) strokes = { of: key, list: onsetsIn(part(mono, from, to), rate) };
    const made = stretched(kept, rate, speed, strokes.list, semitones);
    return transfer(made, [made.buffer as ArrayBuffer]);
  },

  /** Listens to a stretch; times are of the whole recording. */
  listen(from: number, to: number, which: Channels, options: ListenOptions, progress: (share: number) => void): Listened {
    const sound = part(which === 'both' || which === 'middle' ? mono : heardChannel(channels, which), from, to);
    let told = 0;
    const heard = listenTo(sound, rate, { ...options, progress: (share) => { if (share - told > 0.02) progress((told = share)); } });
    const at = (t: number): number => Math.round((t + from) * 1000) / 1000;
    return {
      ...heard,
      strokes: heard.strokes.map(at),
      beats: heard.beats && { ...heard.beats, beats: heard.beats.beats.map(at) },
      notes: heard.notes.map((n) => ({ ...n, at: at(n.at), until: at(n.until) })),
      sets: heard.sets.map((s) => ({ ...s, at: at(s.at), until: at(s.until) })),
    };
  },

  /** The program's own string sounding a pitch. */
  tone(midi: number, cents: number, seconds: number): Float32Array {
    const out = new Float32Array(Math.round(seconds * rate));
    const voice = new StringVoice(rate, Math.min(20, midi));
    voice.pluck(midi + cents / 100, 0.8, seeded(5));
    voice.render(out, 0, out.length, 0.8);
    const fade = Math.round(0.03 * rate);
    for (let i = 0; i < fade; i++) out[out.length - 1 - i] = ((out[out.length - 1 - i] as number) * i) / fade;
    return transfer(out, [out.buffer]);
  },
};

export type ListenDoor = typeof door;
expose(door);
