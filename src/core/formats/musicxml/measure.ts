import type { Midi } from '../../base';
import { fromFifths, parsePitch, type Key } from '../../pitch';
import { add, cmp, maxQuarter, parseMeter, quarter, sub, ZERO, type Quarter } from '../../time';
import { chordOf } from './harmony-xml';
import { MUSICXML_LIMITS } from './limits';
import { dynamicIn, readNote, writtenLength, type ReadNote } from './note';
import { child, childrenOf, has, numberOf, textOf, type Element } from './xml';

/** More lines than this has no staff of any instrument here. */
const MOST_LINES = 24;

/** What a measure says beside its notes; times from its beginning. */
export interface ReadMeasure {
  readonly number: string;
  readonly implicit: boolean;
  /** How far its voices reach. */
  readonly length: Quarter;
  readonly notes: readonly ReadNote[];
  readonly meter: { readonly beats: number; readonly unit: number } | null;
  readonly key: Key | null;
  readonly tempo: readonly { readonly at: Quarter; readonly bpm: number | null; readonly change: boolean }[];
  readonly swing: readonly { readonly at: Quarter; readonly swing: number; readonly unit: '1/2' | '1/4' }[];
  readonly chords: readonly { readonly at: Quarter; readonly chord: string }[];
  readonly mark: string | null;
  /** Words that name a section as people do, where no sign does. */
  readonly named: string | null;
  readonly cue: string | null;
  readonly forward: boolean;
  /** How often what ends here is played; null where nothing is repeated. */
  readonly backward: number | null;
  readonly endingStart: readonly number[] | null;
  readonly endingStop: boolean;
  readonly jump: { readonly to: 'start' | 'sign'; readonly until: 'end' | 'fine' | 'coda' } | null;
  readonly sign: boolean;
  readonly fine: boolean;
  readonly toCoda: boolean;
  readonly coda: boolean;
  /** The measures before are played again instead, so many. */
  readonly again: number | null;
}

/** What goes on from measure to measure of a part. */
export interface PartState {
  divisions: number;
  transpose: number;
  readonly byStaff: Map<number, number>;
  readonly tabStaves: Set<number>;
  /** By staff: open strings by line from the thickest, and how many lines. */
  readonly tunings: Map<number, Map<number, Midi>>;
  readonly lines: Map<number, number>;
  capo: number;
  percussion: boolean;
  again: number | null;
  mode: 'none' | 'ring' | 'palm';
  concert: boolean;
}

export const newState = (concert: boolean): PartState => ({
  ...{ divisions: 1, transpose: 0, byStaff: new Map(), tabStaves: new Set(), tunings: new Map(), lines: new Map() },
  ...{ capo: 0, percussion: false, again: null, mode: 'none', concert },
});

/** A measure that can't be read, in words without its place. */
export class BadMeasure extends Error {}

/** What is left out, said with what it is. */
export type LeaveOut = (what: string) => void;

type Growing = { -readonly [Name in keyof ReadMeasure]: ReadMeasure[Name] } & {
  notes: ReadNote[];
  tempo: ReadMeasure['tempo'][number][];
  swing: ReadMeasure['swing'][number][];
  chords: ReadMeasure['chords'][number][];
};

/** Reads one measure. Throws `BadMeasure` where its numbers can't be. */
export function readMeasure(measure: Element, state: PartState, leftOut: LeaveOut): ReadMeasure {
  const out: Growing = {
    ...{ number: measure.attrs.number ?? '', implicit: measure.attrs.implicit === 'yes', length: ZERO, notes: [] },
    ...{ meter: null, key: null, tempo: [], swing: [], chords: [], mark: null, named: null, cue: null, forward: false },
    ...{ backward: null, endingStart: null, endingStop: false, jump: null, sign: false, fine: false, toCoda: false },
    ...{ coda: false, again: null },
  };
  let at = ZERO;
  let last = ZERO;
  let graces = 0;
  let dynamic: ReadNote['dynamic'] = null;
  for (const one of measure.children) {
    if (one.name === 'attributes') readAttributes(one, state, out, leftOut);
    else if (one.name === 'backup') at = maxQuarter(ZERO, sub(at, durationOf(one, state)));
    else if (one.name === 'forward') {
      at = add(at, durationOf(one, state));
      out.length = maxQuarter(out.length, at);
    } else if (one.name === 'direction') {
      const offset = numberOf(one, 'offset');
      const here = offset ? maxQuarter(ZERO, add(at, toQuarter(offset, state.divisions))) : at;
      dynamic = readDirection(one, here, state, out, leftOut) ?? dynamic;
    } else if (one.name === 'sound') readSound(one, at, out);
    else if (one.name === 'harmony') readHarmony(one, at, state, out, leftOut);
    else if (one.name === 'barline') readBarline(one, out);
    else if (one.name === 'figured-bass') leftOut('figured bass');
    else if (one.name === 'note') {
      const chord = has(one, 'chord');
      const isGrace = has(one, 'grace');
      const dur = isGrace ? quarter(1, 8) : durationOf(one, state);
      const start = chord ? last : at;
      if (isGrace && !chord) graces++;
      const staff = Math.max(1, Math.round(numberOf(one, 'staff') ?? 1));
      const transpose = state.concert ? 0 : (state.byStaff.get(staff) ?? state.transpose);
      const note = readNote(one, { at: start, dur, transpose, grace: isGrace ? graces - 1 : null }, leftOut);
      if (!isGrace && !chord) {
        last = at;
        at = add(at, dur);
        out.length = maxQuarter(out.length, at);
        graces = 0;
      }
      if (note.cue) leftOut('cue notes');
      else if (!note.rest && (isGrace || cmp(dur, ZERO) > 0)) {
        const told = note.dynamic ?? (isGrace ? null : dynamic);
        if (!isGrace) dynamic = null;
        out.notes.push(spoken(note, told, state));
      }
      if (childrenOf(one, 'lyric').length > 0) leftOut('lyrics');
      if (cmp(at, quarter(MUSICXML_LIMITS.measure)) > 0)
        throw new BadMeasure(`it is over ${MUSICXML_LIMITS.measure} quarters long`);
    }
  }
  out.again = state.again;
  return out;
}

/** A note with what words over the staff say of it. */
function spoken(note: ReadNote, dynamic: ReadNote['dynamic'], { mode }: PartState): ReadNote {
  const event = {
    ...note.event,
    ...(mode === 'palm' && !note.event.mute ? { mute: 'palm' as const } : {}),
    ...(dynamic ? { dynamic } : {}),
  };
  return { ...note, event, ringing: note.ringing || (mode === 'ring' && !note.technique.dead) };
}

/** A number of divisions as a length. Decimals are allowed by the format, and taken to a thousandth. */
function toQuarter(value: number, divisions: number): Quarter {
  if (Number.isInteger(value) && Number.isInteger(divisions)) return quarter(value, divisions);
  return quarter(Math.round(value * 1000), Math.max(1, Math.round(divisions * 1000)));
}

function durationOf(one: Element, { divisions }: PartState): Quarter {
  const value = numberOf(one, 'duration');
  const written = one.name === 'note' ? writtenLength(one) : null;
  if (value === null) return written ? quarter(written.n, written.d) : ZERO;
  if (value < 0) throw new BadMeasure(`a duration of ${value} stands in it, below nothing`);
  if (value / divisions > MUSICXML_LIMITS.measure)
    throw new BadMeasure(`a duration of ${value} stands in it, ${Math.round(value / divisions)} quarters`);
  const told = toQuarter(value, divisions);
  // Tuplets whose divisions don't come out even are told exactly by their signs.
  if (written && has(one, 'time-modification')) {
    const exact = written.n / written.d;
    if (Math.abs(exact - value / divisions) * divisions < 0.75) return quarter(written.n, written.d);
  }
  return told;
}

function readAttributes(attributes: Element, state: PartState, out: Growing, leftOut: LeaveOut): void {
  const divisions = numberOf(attributes, 'divisions');
  if (divisions !== null) {
    if (!(divisions > 0 && divisions <= 1_000_000))
      throw new BadMeasure(`it counts ${divisions} divisions to a quarter`);
    state.divisions = divisions;
  }
  for (const key of childrenOf(attributes, 'key')) {
    const fifths = numberOf(key, 'fifths');
    if (fifths === null || !Number.isInteger(fifths) || Math.abs(fifths) > 7) continue;
    const minor = textOf(key, 'mode') === 'minor';
    const tonic = fromFifths(fifths + (minor ? 4 : 1));
    out.key = {
      tonic: tonic.letter + (tonic.alteration >= 0 ? '#'.repeat(tonic.alteration) : 'b'.repeat(-tonic.alteration)),
      mode: minor ? 'minor' : 'major',
    };
  }
  const [time] = childrenOf(attributes, 'time');
  if (time && !has(time, 'senza-misura')) {
    const beats = (textOf(time, 'beats') ?? '').split('+').reduce((sum, n) => sum + Number(n), 0);
    const meter = parseMeter(`${beats}/${textOf(time, 'beat-type') ?? ''}`);
    if (meter) out.meter = meter;
    else leftOut(`a meter of ${beats}/${textOf(time, 'beat-type') ?? '?'}`);
  }
  for (const one of childrenOf(attributes, 'transpose')) {
    const by = (numberOf(one, 'chromatic') ?? 0) + 12 * (numberOf(one, 'octave-change') ?? 0);
    const steps = Math.abs(by) <= 48 ? Math.round(by) : 0;
    if (one.attrs.number) state.byStaff.set(Number(one.attrs.number), steps);
    else state.transpose = steps;
  }
  for (const one of childrenOf(attributes, 'clef')) {
    const sign = textOf(one, 'sign');
    if (sign === 'TAB') state.tabStaves.add(Number(one.attrs.number ?? 1));
    if (sign === 'percussion') state.percussion = true;
  }
  for (const one of childrenOf(attributes, 'staff-details')) {
    const staff = Number(one.attrs.number ?? 1);
    const lines = numberOf(one, 'staff-lines');
    if (lines !== null && Number.isInteger(lines) && lines >= 1 && lines <= MOST_LINES) state.lines.set(staff, lines);
    const capo = numberOf(one, 'capo');
    if (capo !== null && capo >= 0 && capo <= 24) state.capo = Math.round(capo);
    for (const string of childrenOf(one, 'staff-tuning')) {
      const alter = numberOf(string, 'tuning-alter') ?? 0;
      const natural = parsePitch(`${textOf(string, 'tuning-step') ?? ''}${textOf(string, 'tuning-octave') ?? ''}`);
      const line = Number(string.attrs.line);
      if (natural === null || !Number.isInteger(line) || line < 1 || line > 12) continue;
      const tuning = state.tunings.get(staff) ?? new Map<number, Midi>();
      tuning.set(line, natural + Math.round(alter));
      state.tunings.set(staff, tuning);
    }
  }
  for (const style of childrenOf(attributes, 'measure-style')) {
    const again = child(style, 'measure-repeat');
    if (again) state.again = again.attrs.type === 'start' ? Math.max(1, Math.round(Number(again.text) || 1)) : null;
    else if (has(style, 'slash')) leftOut('slashes instead of notes');
  }
}

const UNITS: Readonly<Record<string, number>> = { whole: 4, half: 2, quarter: 1, eighth: 0.5, '16th': 0.25 };

const SECTIONS = /^(intro|verse|pre-?chorus|chorus|refrain|bridge|solo|interlude|outro|ending|coda|theme)\b.{0,24}$/i;

function readDirection(
  one: Element,
  at: Quarter,
  state: PartState,
  out: Growing,
  leftOut: LeaveOut,
): ReadNote['dynamic'] {
  let dynamic: ReadNote['dynamic'] = null;
  const sound = child(one, 'sound');
  for (const type of childrenOf(one, 'direction-type'))
    for (const sign of type.children) {
      if (sign.name === 'rehearsal') out.mark = out.mark ?? (sign.text.trim().slice(0, 80) || null);
      else if (sign.name === 'words') readDirectionWords(sign.text.trim(), at, state, out, leftOut);
      else if (sign.name === 'dynamics') dynamic = dynamicIn([sign]) ?? dynamic;
      else if (sign.name === 'metronome' && sound?.attrs.tempo === undefined) readMetronome(sign, at, out);
      else if (sign.name === 'segno') out.sign = true;
      else if (sign.name === 'coda' && sound?.attrs.tocoda === undefined) out.coda = true;
      else if ((sign.name === 'dashes' || sign.name === 'bracket') && sign.attrs.type === 'stop') state.mode = 'none';
      else if (sign.name === 'wedge') leftOut('growing and fading marks');
      else if (sign.name === 'octave-shift') leftOut('octave signs (the pitches are as written)');
      else if (sign.name === 'pedal') leftOut('pedal marks');
    }
  if (sound) readSound(sound, at, out);
  return dynamic;
}

function readDirectionWords(words: string, at: Quarter, state: PartState, out: Growing, leftOut: LeaveOut): void {
  const swing = /^swing(?:\s+(\d\d(?:\.\d+)?)\s*%?)?(?:,?\s*(16ths|sixteenths))?$/i.exec(words);
  if (swing) {
    const percent = Math.min(80, Math.max(50, Number(swing[1] ?? 67)));
    out.swing.push({ at, swing: percent, unit: swing[2] ? '1/4' : '1/2' });
  } else if (/^straight$/i.test(words)) out.swing.push({ at, swing: 50, unit: '1/2' });
  else if (/^(rit|rall|slow|accel)/i.test(words)) out.tempo.push({ at, bpm: null, change: true });
  else if (/^a tempo$/i.test(words)) leftOut('"a tempo" (say the tempo)');
  else if (/^let ring/i.test(words)) state.mode = 'ring';
  else if (/^(p\.?\s?m\.?|palm mut)/i.test(words)) state.mode = 'palm';
  else if (/^d\.?\s?c\.?/i.test(words)) out.jump = { to: 'start', until: untilOf(words) };
  else if (/^d\.?\s?s\.?/i.test(words)) out.jump = { to: 'sign', until: untilOf(words) };
  else if (/^fine$/i.test(words)) out.fine = true;
  else if (/^to coda/i.test(words)) out.toCoda = true;
  else if (words.startsWith('Cue: ')) out.cue = words.slice(5, 205);
  else if (SECTIONS.test(words)) out.named ??= words.slice(0, 80);
  else if (words !== '') leftOut(`the words "${words.slice(0, 40)}"`);
}

const untilOf = (words: string): 'end' | 'fine' | 'coda' =>
  /fine/i.test(words) ? 'fine' : /coda/i.test(words) ? 'coda' : 'end';

function readMetronome(sign: Element, at: Quarter, out: Growing): void {
  const unit = UNITS[textOf(sign, 'beat-unit') ?? ''];
  const dotted = has(sign, 'beat-unit-dot');
  const minute = Number.parseFloat(/[\d.]+/.exec(textOf(sign, 'per-minute') ?? '')?.[0] ?? '');
  if (unit && minute > 0) out.tempo.push({ at, bpm: unit * (dotted ? 1.5 : 1) * minute, change: false });
}

function readSound(sound: Element, at: Quarter, out: Growing): void {
  const { attrs } = sound;
  const tempo = Number(attrs.tempo);
  if (attrs.tempo !== undefined && tempo > 0) out.tempo.push({ at, bpm: tempo, change: false });
  const swing = child(sound, 'swing');
  if (swing) {
    const [first, second] = [numberOf(swing, 'first') ?? 1, numberOf(swing, 'second') ?? 1];
    const percent = has(swing, 'straight') ? 50 : Math.round((100 * first) / (first + second));
    out.swing.push({
      at,
      swing: Math.min(80, Math.max(50, percent)),
      unit: textOf(swing, 'swing-type') === '16th' ? '1/4' : '1/2',
    });
  }
  if (attrs.segno !== undefined) out.sign = true;
  if (attrs.coda !== undefined) out.coda = true;
  if (attrs.tocoda !== undefined) out.toCoda = true;
  if (attrs.fine !== undefined) out.fine = true;
  if (attrs.dacapo === 'yes') out.jump ??= { to: 'start', until: 'end' };
  if (attrs.dalsegno !== undefined) out.jump ??= { to: 'sign', until: 'end' };
}

function readHarmony(harmony: Element, at: Quarter, state: PartState, out: Growing, leftOut: LeaveOut): void {
  const offset = numberOf(harmony, 'offset');
  if (has(harmony, 'frame')) leftOut('chord diagrams');
  const chord = chordOf(harmony);
  if (chord === null) leftOut('a chord without a root');
  else out.chords.push({ at: offset && offset > 0 ? add(at, toQuarter(offset, state.divisions)) : at, chord });
}

function readBarline(barline: Element, out: Growing): void {
  const repeat = child(barline, 'repeat');
  if (repeat?.attrs.direction === 'forward') out.forward = true;
  if (repeat?.attrs.direction === 'backward') {
    const times = Math.round(Number(repeat.attrs.times ?? 2));
    out.backward = times >= 2 && times <= 99 ? times : 2;
  }
  const ending = child(barline, 'ending');
  if (ending?.attrs.type === 'start') out.endingStart = passesOf(ending.attrs.number ?? '1');
  if (ending && ending.attrs.type !== 'start') out.endingStop = true;
  if (has(barline, 'segno')) out.sign = true;
  if (has(barline, 'coda')) out.coda = true;
}

/** "1, 2" or "1-3" as passes. */
function passesOf(text: string): number[] {
  const passes = text.split(/[,\s.]+/).flatMap((part): number[] => {
    const [from, to] = part.split('-').map((n) => Math.round(Number(n)));
    if (!from || !(from >= 1) || from > 99) return [];
    const last = Math.min(99, to && to >= from ? to : from);
    return Array.from({ length: last - from + 1 }, (_, i) => from + i);
  });
  return passes.length > 0 ? passes : [1];
}
