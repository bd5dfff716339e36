import { stringCount } from '../instrument';
import { joinsInto, noteEnd, type Riff } from '../score';
import { barOf, barStart, cmp, type TempoStep } from '../time';
import { eventSound, noteSound } from './technique-sound';
import { DEAD_SECONDS, firstBend, movements, SLIDE, sounds, USUAL, VOLUMES } from './actions';
import { clockOf, type RenderOptions } from './clock';

/** One string sounding once: what a player does, in seconds, without saying how it is made to sound. */
export interface PlayedNote {
  readonly event: string;
  readonly string: number;
  readonly at: number;
  readonly end: number;
  /** The pitch written, in MIDI with cents as a fraction. */
  readonly midi: number;
  /** Where the pitch begins, in semitones from `midi`, and how it moves from there: when, to where, over how long. */
  readonly from: number;
  readonly moves: readonly { readonly at: number; readonly by: number; readonly over: number }[];
  /** 0 to 1. */
  readonly strength: number;
  /** Whether the string is struck; otherwise a finger makes it sound on. */
  readonly struck: boolean;
  /** 1 rings free; less under a hand. */
  readonly sustain: number;
}

/** The notes of a stretch of a riff as they are played, by onset. Lets rung strings on until they are struck again. */
export function playedNotes(
  riff: Riff,
  setup: Parameters<typeof stringCount>[0],
  tempo: readonly TempoStep[],
  options: Pick<RenderOptions, 'from' | 'to' | 'speed'>,
): PlayedNote[] {
  const clock = clockOf(riff, tempo, options as RenderOptions, 0);
  const out: PlayedNote[] = [];
  let volume: number = VOLUMES.f;
  riff.events.forEach((event, index) => {
    if (event.dynamic) volume = VOLUMES[event.dynamic];
    if (!sounds(riff, index, options.from, options.to)) return;
    const before = riff.events[index - 1];
    const into = before && sounds(riff, index - 1, options.from, options.to) ? joinsInto(before, event) : null;
    event.notes.forEach((note, one) => {
      const string = note.place?.string ?? stringCount(setup) + 1 + one;
      const join = into?.get(note.id);
      const at = clock(event.at);
      const written = clock(noteEnd(event, note));
      const cut = event.gate ? at + ((written - at) * event.gate) / 100 : written;
      const under =
        note.technique?.letRing || event.letRing
          ? clock(barStart(riff.meters, barOf(riff.meters, event.at).bar + 1))
          : cut;
      const again = riff.events.find(
        (other) => cmp(other.at, event.at) > 0 && other.notes.some((note) => note.place?.string === string),
      );
      const until = Math.max(cut, under);
      const end = note.technique?.dead ? at + DEAD_SECONDS : Math.min(until, again ? clock(again.at) : until);
      const midi = note.pitch.midi + note.pitch.cents / 100 + noteSound(note.technique).above;
      const from = note.technique?.slideIn
        ? (note.technique.slideIn === 'lower' ? -1 : 1) * (note.technique.slideInBy ?? SLIDE.semitones)
        : join?.how === 'slide'
          ? join.from.pitch.midi - note.pitch.midi
          : firstBend(note.technique);
      const moves = [
        ...(from !== 0 && !note.technique?.bendCurve ? [{ at: 0, by: 0, over: SLIDE.joined }] : []),
        ...movements(note.technique, end - at),
      ];
      out.push({
        event: event.id,
        string,
        at,
        end: Math.max(at + 0.02, end),
        midi,
        from,
        moves,
        strength: Math.min(1, USUAL * (volume / VOLUMES.f) * eventSound(event).strength),
        struck: (!join || join.how === 'shift') && !note.technique?.hammered,
        sustain: event.mute === 'palm' ? 0.12 : event.mute === 'choked' ? 0.04 : 1,
      });
    });
  });
  return out.sort((a, b) => a.at - b.at);
}
