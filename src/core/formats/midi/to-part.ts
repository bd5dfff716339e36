import { fail, ok, stableId, type Result, type Semitones, type Finding, finding } from '../../base';
import { openPitch, fretsLeft, stringNumbers, type Setup } from '../../instrument';
import { quantise, type Grid, type Quantised } from '../../rhythm';
import {
  LIMITS,
  makeEvent,
  makeNote,
  makePart,
  makeRiff,
  type Note,
  type Part,
  type Piece,
  type RiffEvent,
} from '../../score';
import {
  add,
  barLength,
  cmp,
  mul,
  parseQuarter,
  quarter,
  sub,
  toNumber,
  type MeterChange,
  type Quarter,
} from '../../time';
import type { MidiNote, MidiPart, MidiSong } from './read';

export interface ImportOptions {
  readonly grid: Grid;
  /** Octaves as semitones, added to every pitch. */
  readonly shift: Semitones;
}

export interface Imported {
  readonly part: Part;
  readonly tempo: Piece['context']['tempo'];
  /** The furthest an onset was moved by the grid, in milliseconds at the first tempo, and the mean. */
  readonly worstMs: number;
  readonly meanMs: number;
  readonly remarks: readonly Finding[];
}

/** How many notes of a part lie within a set-up's range after a shift. */
export function notesInRange(part: MidiPart, setup: Setup, shift: Semitones): number {
  const opens = stringNumbers(setup).map((string) => openPitch(setup, string));
  const low = Math.min(...opens);
  const high = Math.max(...opens) + fretsLeft(setup);
  return part.notes.filter((note) => note.pitch + shift >= low && note.pitch + shift <= high).length;
}

/** The octave shift that puts most notes on the neck, the smallest such. */
export function bestShift(part: MidiPart, setup: Setup): Semitones {
  return [0, -12, 12, -24, 24].reduce(
    (best, s) => (notesInRange(part, setup, s) > notesInRange(part, setup, best) ? s : best),
    0,
  );
}

/** A part of a file as a part of a piece: one riff, pitches known, no places yet. */
export function midiToPart(
  song: MidiSong,
  part: MidiPart,
  setup: Setup,
  options: ImportOptions,
  partId = 'p0',
): Result<Imported> {
  const drawn = quantise(
    part.notes.map((note) => note.at),
    options.grid,
  );
  const groups = grouped(part.notes, drawn, options);
  if (groups.length > LIMITS.events)
    return fail('too-many-events', `The part has ${groups.length} onsets; ${LIMITS.events} at most.`, part.name);
  const remarks: Finding[] = [];
  const events = toEvents(groups, remarks);
  if (events.length === 0)
    return fail('no-notes', 'No note of this part is left: the octave puts all of them out of range.', part.name);
  const meters = toMeters(song);
  const bpm = song.tempo[0]?.bpm ?? 120;
  const moved = drawn.map((one) => (Math.abs(one.moved) * 60_000) / bpm);
  const last = events.at(-1);
  const bars = Math.max(
    1,
    last ? Math.ceil(toNumber(add(last.at, last.dur)) / toNumber(barLength(meters[0] ?? { beats: 4, unit: 4 }))) : 1,
  );
  const riff = makeRiff(`${partId}r0`, part.name.slice(0, 120) || 'Imported', {
    bars: Math.min(bars, LIMITS.bars),
    meters,
    events,
  });
  return ok({
    part: makePart(partId, part.name || 'Imported', setup, { role: 'imported', riffs: [riff] }),
    tempo: toTempo(song),
    worstMs: moved.reduce((a, b) => Math.max(a, b), 0),
    meanMs: moved.reduce((a, b) => a + b, 0) / Math.max(1, moved.length),
    remarks,
  });
}

interface Group {
  readonly at: Quarter;
  readonly notes: Map<number, Quarter>;
}

/** Notes by drawn onset; each pitch once, with the later of its ends. */
function grouped(notes: readonly MidiNote[], drawn: readonly Quantised[], { grid, shift }: ImportOptions): Group[] {
  const groups = new Map<Quarter, Group>();
  notes.forEach((note, i) => {
    const at = drawn[i]?.at ?? quarter(0);
    const pitch = note.pitch + shift;
    if (pitch < 0 || pitch > 127) return;
    const group = groups.get(at) ?? { at, notes: new Map<number, Quarter>() };
    groups.set(at, group);
    const end = drawnEnd(at, note, grid);
    const known = group.notes.get(pitch);
    group.notes.set(pitch, known && cmp(known, end) > 0 ? known : end);
  });
  return [...groups.values()].sort((a, b) => cmp(a.at, b.at));
}

/** Ends go to the step their onset belongs to (a triplet ends on triplets), at least one step later. */
function drawnEnd(at: Quarter, note: MidiNote, grid: Grid): Quarter {
  const parts =
    grid === 'triplet-eighths' || grid === 'triplet-sixteenths' || toThirds(at)
      ? grid === 'triplet-eighths'
        ? 3
        : 6
      : grid === 'eighths'
        ? 2
        : grid === 'sixteenths'
          ? 4
          : 8;
  const steps = Math.max(1, Math.round((note.end - note.at) * parts));
  return add(at, quarter(steps, parts));
}

const toThirds = (at: Quarter): boolean => Number(at.split('/')[1] ?? 1) % 3 === 0;

function toEvents(groups: readonly Group[], remarks: Finding[]): RiffEvent[] {
  let crowded = 0;
  const ids = new Set<string>();
  let count = 0;
  const fresh = (prefix: string): string => {
    const id = stableId(prefix, ids, count++);
    ids.add(id);
    return id;
  };
  const events = groups.map((group, index): RiffEvent => {
    const next = groups[index + 1];
    let pitches = [...group.notes].sort((a, b) => a[0] - b[0]);
    if (pitches.length > LIMITS.notes) {
      crowded++;
      pitches = pitches.slice(0, LIMITS.notes);
    }
    // A pitch struck again ends where it is struck; a hair of overlap is legato, not two voices.
    const lengths = pitches.map(([pitch, end]): Quarter => {
      const again = groups.slice(index + 1, index + 40).find((later) => later.notes.has(pitch));
      const until = again && cmp(again.at, end) < 0 ? again.at : end;
      const overlap = next ? sub(until, next.at) : quarter(0);
      return next && cmp(overlap, quarter(0)) > 0 && cmp(overlap, quarter(1, 8)) <= 0
        ? sub(next.at, group.at)
        : sub(until, group.at);
    });
    const longest = lengths.reduce((a, b) => (cmp(a, b) >= 0 ? a : b));
    // A silence up to an eighth is how the note was cut off, not a rest to be counted.
    const silence = next ? sub(next.at, add(group.at, longest)) : quarter(0);
    const filled = next && cmp(silence, quarter(0)) > 0 && cmp(silence, quarter(1, 2)) <= 0;
    const dur = filled ? sub(next.at, group.at) : longest;
    const notes = pitches.map(([pitch], i): Note =>
      makeNote(fresh('n'), pitch, 'import', { dur: lengths[i] === longest ? null : (lengths[i] ?? null) }),
    );
    return makeEvent(fresh('e'), group.at, dur, notes);
  });
  if (crowded > 0)
    remarks.push(
      finding(
        'crowded',
        'warning',
        `${crowded} onset${crowded === 1 ? '' : 's'} had more than ${LIMITS.notes} notes; the lowest ${LIMITS.notes} are kept.`,
      ),
    );
  return events;
}

/** Meter changes by bar; one that stands inside a bar takes effect at the next bar line. */
function toMeters(song: MidiSong): MeterChange[] {
  const meters: MeterChange[] = [{ bar: 0, beats: 4, unit: 4 }];
  let start = quarter(0);
  for (const one of song.meters) {
    if (one.beats < 1 || one.beats > 32 || ![1, 2, 4, 8, 16, 32].includes(one.unit)) continue;
    const last = meters[meters.length - 1] ?? { bar: 0, beats: 4, unit: 4 };
    const length = barLength(last);
    const bars = Math.ceil((one.at - toNumber(start)) / toNumber(length) - 1e-6);
    const bar = last.bar + Math.max(0, bars);
    start = add(start, mul(length, Math.max(0, bars)));
    const change = { bar, beats: one.beats, unit: one.unit };
    if (bar === last.bar) meters[meters.length - 1] = change;
    else if (one.beats !== last.beats || one.unit !== last.unit) meters.push(change);
    if (meters.length >= 200 || bar >= LIMITS.bars) break;
  }
  return meters;
}

function toTempo(song: MidiSong): Piece['context']['tempo'] {
  const steps = new Map<Quarter, number>([[quarter(0), song.tempo[0]?.bpm ?? 120]]);
  for (const step of song.tempo) steps.set(parseQuarter(`${Math.round(step.at * 96)}/96`) ?? quarter(0), step.bpm);
  const sorted = [...steps].map(([at, bpm]) => ({ at, bpm })).sort((a, b) => cmp(a.at, b.at));
  return sorted.slice(0, LIMITS.tempos);
}
