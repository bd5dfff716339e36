import { seeded, type PlayedNote } from '../../src/core/synth';

/** Lines and grips made up by chance, in the manner of parts for guitars and basses: what the ear is tried on. */
export interface Take {
  readonly name: string;
  readonly notes: readonly PlayedNote[];
  readonly beats: readonly number[];
  readonly bpm: number;
  readonly seconds: number;
  /** Open strings, thickest first. */
  readonly open: readonly number[];
  readonly frets: number;
}

const TUNINGS: readonly (readonly [string, readonly number[], number])[] = [
  ['guitar', [40, 45, 50, 55, 59, 64], 22],
  ['guitar, dropped and low', [36, 43, 48, 53, 57, 62], 22],
  ['baritone', [35, 40, 45, 50, 54, 59], 20],
  ['bass', [28, 33, 38, 43], 20],
  ['bass of five strings', [23, 28, 33, 38, 43], 20],
];
const SCALES = [
  [0, 3, 5, 7, 10],
  [0, 2, 3, 5, 7, 8, 10],
  [0, 2, 4, 5, 7, 9, 11],
  [0, 1, 3, 5, 6, 7, 10],
];
const LEAD = 0.35;

/** A line of about `bars` bars of four: one note at a time, each stopping the one before. */
export function line(seed: number, bars = 4): Take {
  const random = seeded(seed * 7919 + 11);
  const chance = (p: number): boolean => (random() + 1) / 2 < p;
  const pick = <T>(list: readonly T[]): T => list[Math.floor(((random() + 1) / 2) * list.length)] ?? (list[0] as T);
  const [name, open, frets] = pick(TUNINGS);
  const bpm = 76 + Math.floor(((random() + 1) / 2) * 96);
  const beat = 60 / bpm;
  const scale = pick(SCALES);
  const root = pick(open) + pick([0, 3, 5, 7]);
  const low = Math.min(...open);
  const reach = pick([12, 19]);
  const pitches = Array.from({ length: 60 }, (_, i) => low + i).filter(
    (p) => p <= low + 10 + reach && scale.includes((((p - root) % 12) + 12) % 12),
  );
  const palm = chance(0.25);
  const notes: PlayedNote[] = [];
  let at = 0;
  let index = Math.floor(((random() + 1) / 2) * Math.min(8, pitches.length));
  let before: PlayedNote | null = null;
  while (at < bars * 4) {
    const dur = pick(bpm > 130 ? [0.5, 0.5, 1, 0.5, 1.5] : [0.5, 0.25, 0.25, 0.5, 1, 0.75]);
    const span = Math.min(dur, bars * 4 - at);
    if (!chance(0.1)) {
      if (!chance(0.3)) index = Math.max(0, Math.min(pitches.length - 1, index + Math.round(random() * 3)));
      const midi = pitches[index] ?? low;
      const start = LEAD + at * beat + (before ? random() * 0.008 : 0);
      const gap = chance(0.3) ? 0.75 : 0.98;
      const joined =
        before !== null &&
        Math.abs(before.end - start) < 0.04 &&
        Math.abs(before.midi - midi) <= 3 &&
        before.midi !== midi &&
        chance(0.18);
      const end = start + span * beat * gap;
      const bend = !joined && end - start > 0.45 && midi > low + 17 && chance(0.25);
      const shake = !joined && !bend && end - start > 0.6 && chance(0.4);
      const moves = bend
        ? [{ at: 0.12, by: pick([1, 2]), over: 0.14 }]
        : shake
          ? Array.from({ length: Math.floor((end - start - 0.2) / 0.093) }, (_, i) => ({
              at: 0.15 + i * 0.093,
              by: i % 2 ? -0.25 : 0.25,
              over: 0.093,
            }))
          : [];
      const note: PlayedNote = {
        event: String(notes.length),
        string: 1,
        at: start,
        end,
        midi,
        from: 0,
        moves,
        strength: 0.6 + 0.3 * ((random() + 1) / 2),
        struck: !joined,
        sustain: palm && !joined ? 0.16 : 1,
      };
      if (before && before.end > start - 0.03) notes[notes.length - 1] = { ...before, end: start };
      notes.push(note);
      before = note;
    }
    at += span;
  }
  const seconds = LEAD + bars * 4 * beat + 0.6;
  return {
    name: `${seed}: ${name}, ${bpm} bpm${palm ? ', palm' : ''}`,
    notes,
    beats: Array.from({ length: bars * 4 }, (_, i) => LEAD + i * beat),
    bpm,
    seconds,
    open,
    frets,
  };
}

/** Grips a guitar is taught with, as offsets from a fret on strings thickest first; null is not sounded. */
const SHAPES: readonly (readonly (number | null)[])[] = [
  [0, 2, 2, null, null, null],
  [0, 2, 2, 1, 0, 0],
  [0, 2, 2, 0, 0, 0],
  [null, 0, 2, 2, 2, 0],
  [null, 0, 2, 2, 1, 0],
  [null, 0, 2, 0, 2, 0],
  [null, null, 0, 2, 3, 2],
  [null, 0, 2, 2, null, null],
  [0, 2, 2, 1, 0, null],
  [null, null, 0, 2, 2, 2],
  [0, 2, 0, 1, 0, 0],
];
const OPEN_SHAPES: readonly (readonly (number | null)[])[] = [
  [3, 2, 0, 0, 0, 3],
  [null, 3, 2, 0, 1, 0],
  [0, 2, 2, 1, 0, 0],
  [0, 2, 2, 0, 0, 0],
  [null, 0, 2, 2, 2, 0],
  [null, 0, 2, 2, 1, 0],
  [null, null, 0, 2, 3, 2],
  [null, null, 0, 2, 3, 1],
];

/** Grips on six strings, strummed, with double stops between them. */
export function grips(seed: number, bars = 4): Take {
  const random = seeded(seed * 6151 + 3);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(((random() + 1) / 2) * list.length)] ?? (list[0] as T);
  const [name, open, frets] = pick(TUNINGS.slice(0, 1));
  const bpm = 70 + Math.floor(((random() + 1) / 2) * 60);
  const beat = 60 / bpm;
  const notes: PlayedNote[] = [];
  for (let at = 0; at < bars * 4;) {
    const dur = pick([1, 1, 2, 0.5]);
    const openShape = (random() + 1) / 2 < 0.4;
    const shape = openShape ? pick(OPEN_SHAPES) : pick(SHAPES);
    const fret = openShape ? 0 : pick([1, 2, 3, 5, 7, 8, 10]);
    const start = LEAD + at * beat;
    const thin = (random() + 1) / 2 < 0.25 ? 2 : 6;
    let sounded = 0;
    shape.forEach((offset, i) => {
      if (offset === null || sounded >= thin) return;
      notes.push({
        event: String(at),
        string: 6 - i,
        at: start + sounded * 0.009,
        end: start + dur * beat * 0.97,
        midi: (open[i] ?? 40) + fret + offset,
        from: 0,
        moves: [],
        strength: 0.62 + 0.2 * ((random() + 1) / 2),
        struck: true,
        sustain: 1,
      });
      sounded++;
    });
    at += dur;
  }
  return {
    name: `${seed}: ${name}, ${bpm} bpm`,
    notes,
    beats: Array.from({ length: bars * 4 }, (_, i) => LEAD + i * beat),
    bpm,
    seconds: LEAD + bars * 4 * beat + 0.6,
    open,
    frets,
  };
}

export interface Score {
  readonly hit: number;
  readonly truth: number;
  readonly found: number;
}

/** Pairs heard notes with those played: within 50 ms and 50 cents, each once. */
export function scored(
  truth: readonly { readonly at: number; readonly midi: number }[],
  found: readonly { readonly at: number; readonly midi: number }[],
): Score & {
  readonly missed: readonly { at: number; midi: number }[];
  readonly wrong: readonly { at: number; midi: number }[];
} {
  const used = new Set<number>();
  const missed: { at: number; midi: number }[] = [];
  for (const one of truth) {
    let best = -1;
    found.forEach((other, i) => {
      if (used.has(i) || Math.abs(other.at - one.at) > 0.05 || Math.abs(other.midi - one.midi) > 0.5) return;
      if (best < 0 || Math.abs(other.at - one.at) < Math.abs((found[best]?.at ?? 99) - one.at)) best = i;
    });
    if (best >= 0) used.add(best);
    else missed.push(one);
  }
  return {
    hit: used.size,
    truth: truth.length,
    found: found.length,
    missed,
    wrong: found.filter((_, i) => !used.has(i)),
  };
}

export const f1 = ({ hit, truth, found }: Score): number => (2 * hit) / Math.max(1, truth + found);
