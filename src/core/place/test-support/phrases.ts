import { must } from '../../base';
import { fretsLeft, makeSetup, nutOf, openPitch, stringNumbers, type Setup, type SetupRequest } from '../../instrument';
import { quarter, ZERO } from '../../time';
import { DEFAULT_OPTIONS } from '../profile';
import type { PlaceEvent, PlaceLink, Problem, Way } from '../types';

/** What the placement tests and benchmarks share: random phrases, and a judge that knows nothing of the solver. */

export const setupFor = (instrument: string, tuning?: string, capo: SetupRequest['capo'] = 0): Setup => must(makeSetup({ instrument, tuning, capo })).setup;

export const TEST_SETUPS = (): Setup[] => [
  setupFor('guitar-6'), setupFor('guitar-6', 'drop-c'), setupFor('guitar-6', 'standard', 4), setupFor('guitar-6', 'x G2 D3 G3 B3 D4'),
  setupFor('guitar-6', 'standard', [{ fret: 2, strings: [5, 4, 3] }]), setupFor('guitar-6', 'drop-d', [{ fret: 2, strings: [5, 4, 3, 2, 1] }, { fret: 5, strings: [2, 1] }]),
  setupFor('bass-4'), setupFor('bass-5'), setupFor('baritone-27'), setupFor('guitar-7'), setupFor('tenor-4'),
];

export const event = (id: string, at: number, pitches: readonly number[], extra: Partial<PlaceEvent> = {}): PlaceEvent => ({
  id, at: quarter(at, 4), dur: quarter(1, 4), link: null, ring: false, notes: pitches.map((pitch) => ({ pitch, lock: null, dur: null })), ...extra,
});

export const problem = (setup: Setup, events: readonly PlaceEvent[], extra: Partial<Problem> = {}): Problem => ({
  setup, events, tempo: [{ at: ZERO, bpm: 100 }], meters: [{ bar: 0, beats: 4, unit: 4 }], options: DEFAULT_OPTIONS, ...extra,
});

/** A random short phrase that exists on the neck: chords, joins, rings, overlaps, locks. `pick(n)` is an integer in [0, n). */
export function randomPhrase(setup: Setup, length: number, pick: (n: number) => number): PlaceEvent[] {
  const strings = stringNumbers(setup);
  const frets = Math.min(12, ...strings.map((s) => fretsLeft(setup, s)));
  return Array.from({ length }, (_, i) => {
    const count = [1, 1, 1, 2, 3][pick(5)] ?? 1;
    const from = pick(Math.max(1, strings.length - count));
    const base = pick(frets - 3);
    const notes = strings.slice(from, from + count).map((string) => {
      const fret = pick(6) === 0 ? 0 : base + pick(4);
      const lock = pick(8) === 0 ? { string, fret, finger: null } : null;
      return { pitch: openPitch(setup, string) + fret, lock, dur: pick(6) === 0 ? quarter(1, 2) : null };
    });
    const link: PlaceLink | null = pick(5) === 0 ? ((['hammer', 'pull', 'slide'] as const)[pick(3)] ?? null) : null;
    return { id: `e${i}`, at: quarter(i, 4), dur: pick(4) === 0 ? quarter(1, 2) : quarter(1, 4), notes, link: i === length - 1 ? null : link, ring: pick(6) === 0 };
  });
}

/** Everything wrong with a way that a teacher would see at once: written against the rules, not against the solver. */
export function complaints(setup: Setup, way: Way): string[] {
  const out: string[] = [];
  const press = (nut: number): number => {
    const wire = (n: number): number => setup.instrument.scaleMm * (1 - 2 ** (-n / 12));
    return wire(nut - 1) + 0.75 * (wire(nut) - wire(nut - 1));
  };
  const limits: Record<string, number> = { '12': 65, '23': 50, '34': 55, '13': 100, '24': 95, '14': 135 };
  for (const e of way.events) {
    const notes = e.notes.filter((n) => n !== null);
    if (new Set(notes.map((n) => n.string)).size < notes.length) out.push(`${e.id}: two notes on one string`);
    for (const n of notes) {
      if (openPitch(setup, n.string) + n.fret !== n.pitch) out.push(`${e.id}: wrong pitch`);
      if (setup.absent.includes(n.string)) out.push(`${e.id}: string taken off`);
      if (n.fret < 0 || n.fret > fretsLeft(setup, n.string)) out.push(`${e.id}: no such fret`);
      if ((n.fret === 0) !== (n.finger === 0)) out.push(`${e.id}: finger ${n.finger} at fret ${n.fret}`);
    }
    const nut = (n: { string: number; fret: number }): number => n.fret + nutOf(setup, n.string);
    const stopped = notes.filter((n) => n.finger > 0);
    for (const a of stopped) {
      for (const b of stopped) {
        if (a === b) continue;
        if (a.finger === b.finger && nut(a) !== nut(b)) out.push(`${e.id}: finger ${a.finger} at two frets`);
        if (a.finger < b.finger && nut(a) > nut(b)) out.push(`${e.id}: fingers crossed`);
        const limit = limits[`${a.finger}${b.finger}`];
        if (limit !== undefined && Math.abs(press(nut(a)) - press(nut(b))) > limit + 1e-9) out.push(`${e.id}: too wide`);
        if (a.finger === b.finger && a.string > b.string) {
          const under = notes.find((n) => n.string < a.string && n.string > b.string && nut(n) <= nut(a) && n.finger !== a.finger);
          if (under) out.push(`${e.id}: a note under the barre`);
        }
      }
    }
    if (new Set(stopped.map((n) => n.finger)).size > 4) out.push(`${e.id}: more than four fingers`);
  }
  return out;
}
