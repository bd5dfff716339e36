import { finding, type Finding, type Midi } from '../../base';
import type { Join, RiffEvent } from '../../score';
import { add, cmp, maxQuarter, minQuarter, sub, ZERO } from '../../time';
import { eventsOfNotes, type MusicPart } from '../music';
import type { PartState, ReadMeasure } from './measure';
import type { ReadNote } from './note';
import type { Bars } from './bars';
import type { LeftOutList } from './left-out';
import { child, childrenOf, numberOf, textOf, type Element } from './xml';

export interface PartAsRead {
  readonly raw: { readonly info: Element | undefined };
  readonly name: string;
  readonly state: PartState;
  readonly measures: readonly ReadMeasure[];
}

/** The part of a file as events: ties joined, tab and staff of one music laid together, voices by onset. */
export function partOf(
  { raw, name, state, measures }: PartAsRead,
  bars: Bars,
  left: LeftOutList,
  remarks: Finding[],
): MusicPart {
  const drums = isDrums(raw.info, name, state);
  const common = {
    ...{ name: name.slice(0, 120), setup: null, capo: state.capo, tuning: tuningOf(state) },
    program: programOf(raw.info),
  };
  if (drums) {
    const count = measures.reduce((sum, one) => sum + one.notes.length, 0);
    if (count > 0) left.add('drums', name, count);
    return { ...common, kind: 'drums', placed: false, events: [] };
  }
  const laid = measures.flatMap((measure, bar): ReadNote[] => {
    const start = bars.starts[bar] ?? ZERO;
    const end = add(start, bars.lengths[bar] ?? ZERO);
    return measure.notes.flatMap((note): ReadNote[] => {
      const at = add(start, note.at);
      if (!bars.cut.has(bar)) return [{ ...note, at }];
      if (cmp(at, end) >= 0) return [];
      return [{ ...note, at, dur: minQuarter(note.dur, sub(end, at)) }];
    });
  });
  const tied = joinTies(laid);
  const merged = mergeStaves(tied, state.tabStaves, left, name);
  const pitched = withPitches(merged, common.tuning, state.capo);
  const events = slurred(eventsOfNotes(pitched), pitched);
  const strings = common.tuning?.length ?? null;
  const beyond = strings === null ? 0 : pitched.filter((note) => note.string !== null && note.string > strings).length;
  if (beyond > 0)
    remarks.push(
      finding(
        'no-string',
        'warning',
        `${name}: ${beyond} ${beyond === 1 ? 'note stands' : 'notes stand'} on a string beyond the ${strings} the file tunes.`,
      ),
    );
  return {
    ...common,
    kind: kindOf(raw.info, name, common.program),
    placed: pitched.some((note) => note.string !== null && note.fret !== null),
    events: events.filter((event) => event.notes.every((note) => (note.place?.string ?? 1) <= 12)),
  };
}

/** Notes that are tied sound once, as long as all of them. */
function joinTies(notes: readonly ReadNote[]): ReadNote[] {
  const out: ReadNote[] = [];
  /** Places in `out` of notes that go on, by staff and pitch: they are looked for by voice and string first. */
  const open = new Map<string, number[]>();
  // In time; of the file's own order where two begin together.
  for (const note of [...notes].sort((a, b) => cmp(a.at, b.at))) {
    const key = `${note.staff}.${note.midi}`;
    const waiting = open.get(key) ?? [];
    open.set(key, waiting);
    const ready = waiting.filter((index) => {
      const one = out[index];
      return one !== undefined && add(one.at, one.dur) === note.at;
    });
    const same = (index: number, strict: boolean): boolean =>
      out[index]?.voice === note.voice && (!strict || out[index].string === note.string);
    const index =
      note.tieStop && note.grace === null
        ? (ready.find((one) => same(one, true)) ?? ready.find((one) => same(one, false)) ?? ready[0])
        : undefined;
    const before = index === undefined ? undefined : out[index];
    if (index === undefined || !before) {
      if (note.tieStart && note.grace === null) waiting.push(out.length);
      out.push(note);
      continue;
    }
    out[index] = {
      ...before,
      dur: add(before.dur, note.dur),
      join: note.join ?? before.join,
      slurred: note.slurred || before.slurred,
      ringing: before.ringing || note.ringing,
      technique: { ...note.technique, ...before.technique },
    };
    if (!note.tieStart) waiting.splice(waiting.indexOf(index), 1);
  }
  return out;
}

/** Of a part written as staff and as tab the tab's notes, with what the staff says of them beside. */
function mergeStaves(
  notes: readonly ReadNote[],
  tabs: ReadonlySet<number>,
  left: LeftOutList,
  name: string,
): ReadNote[] {
  const tab = notes.filter((note) => tabs.has(note.staff));
  const staff = notes.filter((note) => !tabs.has(note.staff));
  if (tab.length === 0 || staff.length === 0) return [...notes];
  const key = (note: ReadNote): string => `${note.at} ${note.grace ?? ''} ${note.midi}`;
  const byKey = new Map<string, ReadNote[]>();
  for (const note of staff) byKey.set(key(note), [...(byKey.get(key(note)) ?? []), note]);
  const times = new Set(tab.map((note) => `${note.at} ${note.grace ?? ''}`));
  const out = tab.map((note): ReadNote => {
    const same = byKey.get(key(note))?.shift();
    if (!same) return note;
    return {
      ...note,
      dur: maxQuarter(note.dur, same.dur),
      cents: note.cents || same.cents,
      finger: note.finger ?? same.finger,
      join: note.join ?? same.join,
      technique: { ...same.technique, ...note.technique },
      event: { ...same.event, ...note.event },
      ringing: note.ringing || same.ringing,
      slurred: note.slurred || same.slurred,
      voice: Math.min(note.voice, same.voice),
    };
  });
  // What the staff alone has at times the tab is silent is played too; beside the tab it is the same told otherwise.
  const alone = [...byKey.values()].flat();
  const kept = alone.filter((note) => !times.has(`${note.at} ${note.grace ?? ''}`));
  const doubled = alone.length - kept.length;
  if (doubled > 0) left.add('notes of the staff that the tab under it has otherwise', name, doubled);
  return [...out, ...kept];
}

/** A dead note of a tab may stand without a pitch: it is that of its place. */
function withPitches(notes: readonly ReadNote[], tuning: readonly Midi[] | null, capo: number): ReadNote[] {
  return notes.map((note): ReadNote => {
    if (note.midi !== null || note.string === null || note.fret === null || !tuning) return note;
    const open = tuning[tuning.length - note.string];
    if (open === undefined) return note;
    const { kind: _, ...event } = note.event;
    return { ...note, midi: open + capo + note.fret, event, technique: { ...note.technique, dead: true } };
  });
}

/** A slur from one note to the next on its string is a hammer-on or a pull-off where the file has no sign for it. */
function slurred(events: readonly RiffEvent[], notes: readonly ReadNote[]): RiffEvent[] {
  const begins = new Set(
    notes.filter((note) => note.slurred && note.grace === null).map((note) => `${note.at} ${note.string}`),
  );
  const graced = new Set(
    notes.filter((note) => note.slurred && note.grace !== null).map((note) => `${note.string} ${note.midi}`),
  );
  return events.map((event, i) => {
    const next = events[i + 1];
    if (!next) return event;
    return {
      ...event,
      notes: event.notes.map((note) => {
        if (note.join || !note.place || note.technique?.dead) return note;
        const slur = event.grace
          ? graced.has(`${note.place.string} ${note.pitch.midi}`)
          : begins.has(`${event.at} ${note.place.string}`);
        const to = next.notes.find((one) => one.place?.string === note.place?.string);
        if (!slur || !to?.place || to.technique?.dead || to.place.fret === note.place.fret) return note;
        const join: Join = to.place.fret > note.place.fret ? 'hammer' : 'pull';
        return { ...note, join };
      }),
    };
  });
}

function tuningOf(state: PartState): readonly Midi[] | null {
  const [staff] = [...state.tunings.keys()].sort(
    (a, b) => Number(state.tabStaves.has(b)) - Number(state.tabStaves.has(a)),
  );
  const lines = staff === undefined ? undefined : state.tunings.get(staff);
  if (staff === undefined || !lines) return null;
  const count = Math.max(state.lines.get(staff) ?? 0, ...lines.keys());
  const tuning = Array.from({ length: count }, (_, i) => lines.get(i + 1));
  return tuning.every((midi) => midi !== undefined && midi >= 9 && midi <= 100) ? (tuning as Midi[]) : null;
}

function programOf(info: Element | undefined): number | null {
  const program = numberOf(child(info, 'midi-instrument'), 'midi-program');
  return program !== null && program >= 1 && program <= 128 ? Math.round(program) - 1 : null;
}

const wordsOf = (info: Element | undefined, name: string): string =>
  [
    name,
    ...childrenOf(info, 'score-instrument').map(
      (one) => `${textOf(one, 'instrument-name') ?? ''} ${textOf(one, 'instrument-sound') ?? ''}`,
    ),
  ].join(' ');

function isDrums(info: Element | undefined, name: string, state: PartState): boolean {
  const channel = numberOf(child(info, 'midi-instrument'), 'midi-channel');
  if (state.tunings.size > 0) return false;
  return (
    channel === 10 ||
    (state.percussion && state.tabStaves.size === 0) ||
    /\b(drum|percussion)/i.test(wordsOf(info, name))
  );
}

function kindOf(info: Element | undefined, name: string, program: number | null): MusicPart['kind'] {
  const words = wordsOf(info, name);
  if (/\bbass(?!oon| clar| drum| tromb| voice| flute| vio)/i.test(words) && !/pluck\.guitar/.test(words)) return 'bass';
  if (/guitar|git\b|gtr|baritone/i.test(words)) return 'guitar';
  if (program !== null && program >= 32 && program <= 39) return 'bass';
  return program !== null && program >= 24 && program <= 31 ? 'guitar' : 'other';
}
