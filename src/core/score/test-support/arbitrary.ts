import fc from 'fast-check';
import { must } from '../../base';
import { fretsLeft, HARMONIC_NODES, makeSetup, openPitch, stringNumbers, type Setup } from '../../instrument';
import { add, quarter, sub, ZERO, type Quarter } from '../../time';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff } from '../make';
import type { Finger } from '../../base';
import type { Link, Note, Part, Piece, Riff, RiffEvent, Tech } from '../schema';

/** Random documents for property tests: everything a riff can say, within the invariants. */

const SETUPS: readonly Setup[] = (
  [['guitar-6', 'standard', 0], ['guitar-6', 'drop-c', 0], ['guitar-6', 'x G2 D3 G3 B3 D4', 2], ['bass-4', 'bass-standard', 0], ['baritone-27', 'baritone-b', 0], ['guitar-7', 'seven-standard', 3]] as const
).map(([instrument, tuning, capo]) => must(makeSetup({ instrument, tuning, capo })).setup);

export const setupArbitrary: fc.Arbitrary<Setup> = fc.constantFrom(...SETUPS);

const GAPS: readonly Quarter[] = [quarter(1, 4), quarter(1, 2), quarter(1, 3), quarter(2, 3), quarter(3, 4), quarter(1), quarter(3, 2), quarter(5, 6)];

interface NoteSeed {
  readonly string: number;
  readonly fret: number;
  readonly how: number;
  readonly finger: number;
  readonly dur: number;
  readonly tech: number;
}

function noteFrom(setup: Setup, seed: NoteSeed, string: number, id: string): Note {
  const fret = seed.fret % (fretsLeft(setup) + 1);
  const pitch = openPitch(setup, string) + fret;
  const dur = seed.dur === 0 ? quarter(5, 2) : null;
  if (seed.how === 0) return makeNote(id, pitch, 'instructor', { dur });
  const locked = seed.how > 1;
  const finger = fret === 0 ? 0 : ((seed.finger % 5 === 0 ? null : seed.finger % 5) as Finger | null);
  const fingerBy = finger !== null && fret > 0 && seed.finger > 5 ? ('instructor' as const) : ('solver' as const);
  const place = makePlace(string, fret, locked ? 'instructor' : 'solver', { locked, finger, fingerBy });
  const node = HARMONIC_NODES[seed.finger];
  if (seed.tech === 7 && node && Math.round(node.fret) <= fretsLeft(setup, string)) {
    return makeNote(id, openPitch(setup, string) + node.semitones, 'instructor', { dur, place: makePlace(string, Math.round(node.fret), 'instructor', { locked: true, finger: null }), tech: { harmonic: true } });
  }
  if (seed.tech === 8) return makeNote(id, pitch, 'instructor', { dur, place: { ...place, finger: 0, fingerBy: 'solver' }, tech: { dead: true } });
  const tech = techFrom(seed, fret, fretsLeft(setup, string));
  return { ...makeNote(id, pitch, 'instructor', { dur, place, ...(tech ? { tech } : {}) }), pitch: { midi: pitch, cents: seed.tech === 9 ? 35 - seed.fret * 3 : 0, by: 'instructor' } };
}

function techFrom({ tech, finger }: NoteSeed, fret: number, last: number): Tech | null {
  if (tech === 4 && fret > 0) return { bend: [50, 100, 200, 130][finger % 4] ?? 100 };
  if (tech === 5 && fret + 1 + (finger % 3) <= last) return { trill: 1 + (finger % 3) };
  if (tech === 6) return { keep: quarter(5, 2), ...(fret > 0 ? { bend: 200 } : {}) };
  return null;
}

/** A riff on a set-up: chords, gaps, overlaps, joins, rings, tuplets, sometimes a pickup. */
export const riffArbitrary = (setup: Setup, id = 'r0'): fc.Arbitrary<Riff> => {
  const strings = stringNumbers(setup);
  const note = fc.record({ string: fc.nat({ max: 11 }), fret: fc.nat({ max: 24 }), how: fc.nat({ max: 2 }), finger: fc.nat({ max: 9 }), dur: fc.nat({ max: 8 }), tech: fc.nat({ max: 12 }) });
  const event = fc.record({
    gap: fc.nat({ max: 6 }), step: fc.constantFrom(...GAPS), held: fc.nat({ max: 9 }), notes: fc.array(note, { minLength: 1, maxLength: 3 }),
    link: fc.constantFrom<Link | null>(null, null, null, 'hammer', 'pull', 'slide'), ring: fc.boolean(), bar: fc.nat({ max: 9 }),
  });
  return fc.record({ events: fc.array(event, { maxLength: 24 }), pickup: fc.constantFrom(ZERO, quarter(1, 2), quarter(1)), beats: fc.constantFrom(3, 4, 7) }).map(({ events, pickup, beats }) => {
    let at: Quarter = sub(ZERO, pickup);
    const made: RiffEvent[] = [];
    events.forEach((seed, e) => {
      if (seed.gap === 0) at = add(at, quarter(1, 2));
      const taken = new Set<number>();
      const notes = seed.notes.flatMap((n, i) => {
        const string = strings[n.string % strings.length] ?? 1;
        if (taken.has(string)) return [];
        taken.add(string);
        return [noteFrom(setup, n, string, `n${e}-${i}`)];
      });
      const dur = seed.held === 0 ? add(seed.step, quarter(7, 4)) : seed.step;
      made.push(makeEvent(`e${e}`, at, dur, notes, { ring: seed.ring, ...(seed.bar === 0 ? { bar: true as const } : {}) }));
      at = add(at, seed.step);
    });
    // A link is kept only where the call line allows it: single notes, one string, the right way.
    const linked = made.map((e, i): RiffEvent => {
      const next = made[i + 1];
      const link = events[i]?.link ?? null;
      return next && link && linkFits(link, e, next) ? { ...e, link } : e;
    });
    return makeRiff(id, 'Generated', { pickup, meters: [{ bar: 0, beats, unit: 4 }], bars: 2, events: linked });
  });
};

function linkFits(link: Link, a: RiffEvent, b: RiffEvent): boolean {
  const [x] = a.notes;
  const [y] = b.notes;
  if (x?.tech || y?.tech) return false;
  if (!x?.place || !y?.place || a.notes.length > 1 || b.notes.length > 1 || x.place.string !== y.place.string) return false;
  if (link === 'hammer') return y.pitch.midi > x.pitch.midi;
  if (link === 'pull') return y.pitch.midi < x.pitch.midi;
  return x.place.fret > 0 && y.place.fret > 0 && x.place.fret !== y.place.fret;
}

export const partArbitrary = (id: string): fc.Arbitrary<Part> =>
  setupArbitrary.chain((setup) => fc.tuple(riffArbitrary(setup, `${id}r0`), riffArbitrary(setup, `${id}r1`)).map((riffs) => makePart(id, `Part ${id}`, setup, { riffs })));

export const pieceArbitrary: fc.Arbitrary<Piece> = fc.tuple(partArbitrary('p0'), partArbitrary('p1')).map((parts) => makePiece('piece-1', 'Generated piece', { parts }));
