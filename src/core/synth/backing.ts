import { must } from '../base';
import { chordsUnder, voiced, type ChordUnder, type SoundingNote } from '../harmony';
import { makeSetup } from '../instrument';
import type { Key } from '../pitch';
import { barCount, makeEvent, makeNote, makeRiff, noteEnd, notesOf, riffEnd, type Riff } from '../score';
import { add, barStart, cmp, minQuarter, quarter, sub, toNumber, ZERO, type Quarter } from '../time';
import { goneRound } from './stream';
import type { Track } from './stream';

export const BACKINGS = ['bass', 'chords'] as const;
export type Backing = (typeof BACKINGS)[number];

/** Roots lie from E1 up on the bass, chords from C3 up. */
const LOWEST: Readonly<Record<Backing, number>> = { bass: 28, chords: 48 };
const SETUPS = {
  bass: must(makeSetup({ instrument: 'bass-4' })).setup,
  chords: must(makeSetup({ instrument: 'guitar-6' })).setup,
};
/** A bar line a chord may change at, told exactly: quarters as 96ths. */
const exact = (q: number): Quarter => quarter(Math.round(q * 96), 96);

/** The chords under riffs that sound together, by bars of the first. */
export function chordsOf(riffs: readonly Riff[], key: Key | null): ChordUnder[] {
  const [lead] = riffs;
  if (!lead) return [];
  const end = riffEnd(lead);
  const notes = riffs.flatMap((riff) =>
    [...notesOf(goneRound(riff, end))]
      .filter(({ note }) => !note.technique?.dead)
      .map(({ event, note }): SoundingNote => ({
        at: toNumber(event.at),
        until: toNumber(noteEnd(event, note)),
        midi: note.pitch.midi,
      })),
  );
  return chordsUnder(
    notes,
    Array.from({ length: barCount(lead) + 1 }, (_, bar) => toNumber(barStart(lead.meters, bar))),
    key,
  );
}

/** A plain accompaniment to play along with: roots on the bass, or chords held, struck anew with every bar. */
export function backingTrack(lead: Riff, chords: readonly ChordUnder[], what: Backing): Track {
  const bars = Array.from({ length: barCount(lead) + 1 }, (_, bar) => barStart(lead.meters, bar));
  const events = chords.flatMap((chord) => {
    const [from, to] = [exact(chord.from), exact(chord.to)];
    const starts = [from, ...bars.filter((b) => cmp(b, from) > 0 && cmp(b, to) < 0)];
    return starts.flatMap((at, i) => {
      const until = starts[i + 1] ?? to;
      // The bass plays the note under a slash.
      const root = what === 'bass' ? (chord.chord.bass ?? chord.chord.root) : chord.chord.root;
      const pitches = voiced({ ...chord.chord, root }, LOWEST[what]);
      const strikes = what === 'chords' ? [at] : halves(at, until);
      return strikes.map((start, index) =>
        makeEvent(
          `${toNumber(start)}`,
          start,
          sub(strikes[index + 1] ?? until, start),
          (what === 'bass' ? pitches.slice(0, 1) : pitches).map((midi, index) =>
            makeNote(`${toNumber(start)}.${index}`, midi, 'solver'),
          ),
        ),
      );
    });
  });
  return {
    setup: SETUPS[what],
    versions: [makeRiff(`backing-${what}`, what, { bars: lead.bars, meters: lead.meters, events })],
  };
}

/** A bass strikes again every two quarters. */
function halves(from: Quarter, to: Quarter): Quarter[] {
  const out: Quarter[] = [];
  for (let at = from; cmp(at, to) < 0 && out.length < 64; at = minQuarter(add(at, quarter(2)), to)) out.push(at);
  return out.length > 0 ? out : [ZERO];
}
