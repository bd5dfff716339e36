import type { Midi } from '../base';
import { barOf, cmp, add, type MeterChange } from '../time';
import type { PlaceEvent } from '../place';

/** What of a phrase tells about open strings, counted once for all candidates. */
export interface Digest {
  readonly notes: number;
  readonly lowest: Midi;
  /** Strokes per pitch, those that are bent or damped left out. */
  readonly pitches: ReadonlyMap<Midi, number>;
  /** Of those, the ringing ones. */
  readonly ringing: ReadonlyMap<Midi, number>;
  /** The pitch struck most often, where it comes at every fifth stroke or oftener. */
  readonly pedal: Midi | null;
  /** Sets of pitches that sound together, each with how often it comes. */
  readonly sets: readonly { readonly pitches: readonly Midi[]; readonly times: number }[];
}

/** At most so many sets are tried on every candidate: the commonest. */
const MOST_SETS = 24;
const PEDAL_SHARE = 0.2;

export function digestOf(events: readonly PlaceEvent[], meters: readonly MeterChange[]): Digest {
  const pitches = new Map<Midi, number>();
  const ringing = new Map<Midi, number>();
  const sets = new Map<string, { pitches: Midi[]; times: number }>();
  const count = (map: Map<Midi, number>, pitch: Midi): void => void map.set(pitch, (map.get(pitch) ?? 0) + 1);
  const addSet = (list: Midi[]): void => {
    const sorted = [...new Set(list)].sort((a, b) => a - b);
    if (sorted.length < 2) return;
    const key = sorted.join();
    const known = sets.get(key);
    if (known) known.times++;
    else sets.set(key, { pitches: sorted, times: 1 });
  };
  let notes = 0;
  let lowest = Infinity;
  let run: { pitches: Midi[]; bar: number } | null = null;
  const endRun = (): void => {
    if (run) addSet(run.pitches);
    run = null;
  };
  events.forEach((event, i) => {
    const sounding = event.notes.filter((note) => !note.dead);
    for (const note of sounding) {
      notes++;
      if (!note.harmonic) lowest = Math.min(lowest, note.pitch);
      if (note.bend || note.harmonic || (note.least ?? 0) > 0) continue;
      count(pitches, note.pitch);
      if (event.ring || lasts(event, note, events[i + 1])) count(ringing, note.pitch);
    }
    const { bar } = barOf(meters, event.at);
    if (event.ring) {
      if (run && run.bar !== bar) endRun();
      run ??= { pitches: [], bar };
      run.pitches.push(...sounding.map((note) => note.pitch));
      if (run.pitches.length > 12) endRun();
    } else endRun();
    addSet(sounding.map((note) => note.pitch));
  });
  endRun();
  const most = [...pitches].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0];
  return {
    ...{ notes, pitches, ringing, lowest: lowest === Infinity ? 0 : lowest },
    pedal: most && most[1] >= notes * PEDAL_SHARE ? most[0] : null,
    sets: [...sets.values()].sort((a, b) => b.times - a.times).slice(0, MOST_SETS),
  };
}

/** Whether a note sounds on under the event after it. */
const lasts = (event: PlaceEvent, note: PlaceEvent['notes'][number], next: PlaceEvent | undefined): boolean =>
  next !== undefined && cmp(add(event.at, note.dur ?? event.dur), next.at) > 0;
