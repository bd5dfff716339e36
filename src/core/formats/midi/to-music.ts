import { finding, type Finding } from '../../base';
import { fromFifths } from '../../pitch';
import { quantise, type Grid, type Quantised } from '../../rhythm';
import { LIMITS, type RiffEvent } from '../../score';
import {
  add,
  barLength,
  barOf,
  barStart,
  cmp,
  maxQuarter,
  mul,
  quarter,
  sub,
  toNumber,
  ZERO,
  type MeterChange,
  type Quarter,
} from '../../time';
import {
  eventsOfNotes,
  foundNote,
  type FoundNote,
  type LeftOut,
  type Music,
  type MusicPart,
  type Reading,
} from '../music';
import type { MidiNote, MidiPart, MidiSong } from './read';
import { stringTracks, type StringTrack } from './strings';
import { wheelOf } from './wheel';

export interface MidiChoice {
  readonly grid: Grid;
}

/** Parts of a beat that sequencers and engravers use. */
const EXACT = [1, 2, 3, 4, 6, 8, 5, 7, 12, 16, 24] as const;
/** A file is exact where so many of its onsets lie on one of those, to a tick. */
const EXACT_SHARE = 0.97;

/**
 * A song as music: times as they stand where the file was written by a machine, else drawn to a grid; bends, shakes and
 * slides from the pitch wheel; a track with a channel for each string with its strings. Drums are left out.
 */
export function midiToMusic(song: MidiSong, { grid }: MidiChoice): Reading {
  const remarks: Finding[] = [...song.remarks];
  const leftOut: LeftOut[] = [];
  const exact = grid === 'auto' && isExact(song);
  const meters = toMeters(song);
  const parts = stringTracks(song).map((one): MusicPart => {
    const lead = 'parts' in one ? one.parts[0] : one;
    if (lead?.drums) leftOut.push({ what: 'drums', count: lead.notes.length, where: lead.name });
    return partOf(one, grid, exact, song, remarks);
  });
  const end = song.parts.reduce(
    (last, part) => (part.drums ? last : part.notes.reduce((most, note) => Math.max(most, note.end), last)),
    0,
  );
  // A note held a hair over the last bar line is not another bar.
  const { bar, offset } = barOf(meters, rounded(Math.max(0, end - HAIR)));
  const bars = Math.min(LIMITS.bars, Math.max(1, offset === ZERO && bar > 0 ? bar : bar + 1));
  const music: Music = {
    ...{ title: song.title, credit: null, bars, pickup: ZERO, meters, tempo: toTempo(song) },
    keys: song.keys.map(({ at, fifths, minor }) => {
      const tonic = fromFifths(fifths + (minor ? 4 : 1));
      const sign = tonic.alteration >= 0 ? '#'.repeat(tonic.alteration) : 'b'.repeat(-tonic.alteration);
      return { at: rounded(at), tonic: tonic.letter + sign, mode: minor ? ('minor' as const) : ('major' as const) };
    }),
    ...{ feel: [], chords: [], bass: [] },
    marks: song.marks
      .map(({ at, name }) => ({ bar: barOf(meters, rounded(at)).bar, name }))
      .filter((mark) => mark.name !== '' && mark.bar >= 0 && mark.bar < bars),
    ...{ repeats: [], order: [{ from: 0, to: bars }], parts },
  };
  return { music, questions: [], leftOut, remarks };
}

const HAIR = 1 / 8;

/** The simplest part of a beat a time lies on to a tick; null where it lies on none. */
function exactTime(at: number, ppq: number): Quarter | null {
  for (const parts of EXACT) {
    const steps = Math.round(at * parts);
    if (Math.abs(steps / parts - at) <= 0.51 / ppq) return quarter(steps, parts);
  }
  return null;
}

function isExact({ parts, ppq }: MidiSong): boolean {
  let [all, fits] = [0, 0];
  for (const part of parts)
    for (const note of part.notes) {
      all++;
      if (exactTime(note.at, ppq) !== null) fits++;
    }
  return fits >= all * EXACT_SHARE && ppq >= 24;
}

interface Drawn {
  readonly note: MidiNote;
  readonly at: Quarter;
  readonly end: Quarter;
  readonly string: number | null;
  readonly fret: number | null;
}

function partOf(
  one: MidiPart | StringTrack,
  grid: Grid,
  exact: boolean,
  song: MidiSong,
  remarks: Finding[],
): MusicPart {
  const track = 'parts' in one ? one : null;
  const parts = 'parts' in one ? one.parts : [one];
  const [lead] = parts as [MidiPart];
  const common = {
    ...{ name: lead.name, setup: null, tuning: track?.tuning ?? null, capo: 0, program: lead.program },
    kind: kindOf(lead),
  };
  if (lead.drums) return { ...common, placed: false, events: [] };
  const all = parts
    .flatMap((part) => part.notes.map((note) => ({ note, channel: part.channel })))
    .sort((a, b) => a.note.at - b.note.at || a.note.pitch - b.note.pitch);
  if (!exact) {
    const bpm = song.tempo[0]?.bpm ?? 120;
    const some = quantise(
      all.slice(0, LOOKED_AT).map(({ note }) => note.at),
      grid,
    );
    const worst = some.reduce((most, step) => Math.max(most, (Math.abs(step.moved) * 60_000) / bpm), 0);
    if (worst >= 1)
      remarks.push(
        finding(
          'drawn',
          'warning',
          `${lead.name}: notes were moved to the grid, by up to about ${Math.round(worst)} ms.`,
        ),
      );
  }
  let made: readonly RiffEvent[] | null = null;
  return {
    ...common,
    placed: track !== null && track.tuning !== null,
    stats: {
      notes: all.length,
      low: parts.reduce((least, part) => Math.min(least, part.low), 127),
      high: parts.reduce((most, part) => Math.max(most, part.high), 0),
      chord: parts.reduce((sum, part) => sum + part.chord, 0),
    },
    // A file may have many parts of which one is wanted: each is made when it is.
    get events() {
      return (made ??= eventsIn(all, track, grid, exact, song.ppq));
    },
  };
}

/** Notes looked at to say how far the grid moves them. */
const LOOKED_AT = 2000;

function eventsIn(
  all: readonly { readonly note: MidiNote; readonly channel: number }[],
  track: StringTrack | null,
  grid: Grid,
  exact: boolean,
  ppq: number,
): readonly RiffEvent[] {
  const onsets = all.map(({ note }) => note.at);
  const drawn: readonly Pick<Quantised, 'at'>[] = exact
    ? onsets.map((at) => ({ at: exactTime(at, ppq) ?? rounded(at) }))
    : quantise(onsets, grid);
  const notes = all.map(({ note, channel }, i): Drawn => {
    const at = drawn[i]?.at ?? ZERO;
    const string = track?.strings.get(channel) ?? null;
    const open = string === null ? undefined : track?.tuning?.[(track.tuning.length ?? 0) - string];
    const end = (exact ? exactTime(note.end, ppq) : null) ?? drawnEnd(at, note, grid);
    return {
      ...{ note, at, string, fret: open === undefined ? null : note.pitch - open },
      end: cmp(end, at) > 0 ? end : add(at, quarter(1, 8)),
    };
  });
  const begins = beginsOf(notes);
  return eventsOfNotes(tidied(notes, exact).flatMap((each) => foundNotes(each, begins)));
}

const kindOf = (part: MidiPart): MusicPart['kind'] => {
  if (part.drums) return 'drums';
  if (/\bbass\b/i.test(part.name) || (part.program >= 32 && part.program <= 39)) return 'bass';
  return /guitar|gtr/i.test(part.name) || (part.program >= 24 && part.program <= 31) ? 'guitar' : 'other';
};

/** How ends are read: cut where the pitch is struck again; a short silence is how a note was cut off, no rest. */
function tidied(notes: readonly Drawn[], exact: boolean): Drawn[] {
  const onsets = [...new Set(notes.map((one) => one.at))].sort(cmp);
  const place = new Map(onsets.map((at, i) => [at, i]));
  /** By pitch and string the onset that strikes it next, looking from the end. */
  const strikes = new Map<string, { at: Quarter; next: Quarter | null }>();
  const key = (one: Drawn): string => `${one.string ?? ''} ${one.note.pitch}`;
  const cut = [...notes]
    .reverse()
    .map((one) => {
      const known = strikes.get(key(one));
      const again = known && cmp(known.at, one.at) === 0 ? known.next : (known?.at ?? null);
      strikes.set(key(one), { at: one.at, next: again });
      return again && cmp(again, one.end) < 0 ? { ...one, end: again } : one;
    })
    .reverse();
  if (exact) return cut;
  const longest = new Map<Quarter, Quarter>();
  const legato = cut.map((one) => {
    const next = onsets[(place.get(one.at) ?? 0) + 1];
    const over = next ? sub(one.end, next) : ZERO;
    const end = next && cmp(over, ZERO) > 0 && cmp(over, quarter(1, 8)) <= 0 ? next : one.end;
    longest.set(one.at, maxQuarter(longest.get(one.at) ?? ZERO, end));
    return { ...one, end };
  });
  return legato.map((one) => {
    const next = onsets[(place.get(one.at) ?? 0) + 1];
    const last = longest.get(one.at) ?? one.end;
    const silence = next ? sub(next, last) : ZERO;
    const filled = next && one.end === last && cmp(silence, ZERO) > 0 && cmp(silence, quarter(1, 2)) <= 0;
    return filled ? { ...one, end: next } : one;
  });
}

const LATE = 0.6;

/** A note with what the wheel does; one that slides on its own is two, one that slides to the next leads there. */
function foundNotes({ note, at, end, string, fret }: Drawn, begins: Begins): FoundNote[] {
  const { technique, slide, cents, halfway } = wheelOf(note);
  const placed =
    string !== null && fret !== null && fret >= 0 && fret <= 24 ? { string, fret } : { string, fret: null };
  const length = sub(end, at);
  // A finger that bends is soon there; one that slides to the next note leaves late.
  const plainBend =
    technique.bend !== undefined && !technique.bendCurve && halfway > LATE ? technique.bend / 100 : null;
  const by = slide?.by ?? plainBend;
  if (by !== null && begins.get(`${end} ${string ?? ''}`)?.has(note.pitch + by))
    return [foundNote(at, length, note.pitch, { ...placed, join: 'slide' })];
  const target = note.pitch + (slide?.by ?? 0);
  if (!slide || target < 0 || target > 127)
    return [foundNote(at, length, note.pitch, { technique: slide ? {} : technique, cents, ...placed })];
  const from = mul(length, Math.min(7, Math.max(1, Math.round(slide.from * 8))), 8);
  const to = placed.fret === null ? null : placed.fret + slide.by;
  return [
    foundNote(at, from, note.pitch, { ...placed, join: 'slide' }),
    foundNote(add(at, from), sub(length, from), target, { string, fret: to !== null && to >= 0 ? to : null }),
  ];
}

/** By time and string the pitches that begin there. */
type Begins = ReadonlyMap<string, ReadonlySet<number>>;

function beginsOf(notes: readonly Drawn[]): Begins {
  const out = new Map<string, Set<number>>();
  for (const { at, string, note } of notes) {
    const key = `${at} ${string ?? ''}`;
    out.set(key, (out.get(key) ?? new Set()).add(note.pitch));
  }
  return out;
}

/** Ends go to the step their onset belongs to (a triplet ends on triplets), at least one step later. */
function drawnEnd(at: Quarter, note: MidiNote, grid: Grid): Quarter {
  const thirds = grid === 'triplet-eighths' || grid === 'triplet-sixteenths' || Number(at.split('/')[1] ?? 1) % 3 === 0;
  const parts = thirds ? (grid === 'triplet-eighths' ? 3 : 6) : grid === 'eighths' ? 2 : grid === 'sixteenths' ? 4 : 8;
  return add(at, quarter(Math.max(1, Math.round((note.end - note.at) * parts)), parts));
}

const rounded = (at: number): Quarter => quarter(Math.round(at * 96), 96);

/** Meter changes by bar; one that stands inside a bar takes effect at the next bar line. */
function toMeters(song: MidiSong): MeterChange[] {
  const meters: MeterChange[] = [{ bar: 0, beats: 4, unit: 4 }];
  for (const one of song.meters) {
    if (one.beats < 1 || one.beats > 32 || ![1, 2, 4, 8, 16, 32].includes(one.unit)) continue;
    const last = meters[meters.length - 1] ?? { bar: 0, beats: 4, unit: 4 };
    const length = toNumber(barLength(last));
    const bars = Math.ceil((one.at - toNumber(barStart(meters, last.bar))) / length - 1e-6);
    const bar = last.bar + Math.max(0, bars);
    const change = { bar, beats: one.beats, unit: one.unit };
    if (bar === last.bar) meters[meters.length - 1] = change;
    else if (one.beats !== last.beats || one.unit !== last.unit) meters.push(change);
    if (meters.length >= 200 || bar >= LIMITS.bars) break;
  }
  return meters;
}

function toTempo(song: MidiSong): Music['tempo'] {
  const steps = new Map<Quarter, number>([[ZERO, song.tempo[0]?.bpm ?? 120]]);
  for (const step of song.tempo) steps.set(rounded(step.at), step.bpm);
  const sorted = [...steps].map(([at, bpm]) => ({ at, bpm })).sort((a, b) => cmp(a.at, b.at));
  return sorted.slice(0, LIMITS.tempos);
}
