import type { Seconds } from '../base';
import { levelsOf, type Line } from '../form';
import { ADULT_HAND, type Profile } from '../hand';
import { nutOf, openPitch, pitchAt, pressPoint, stringNumbers, type Setup } from '../instrument';
import { noteName, type Key } from '../pitch';
import { makeEvent, noteEnd, type Note, type RiffEvent } from '../score';
import { barOf, cmp, secondsAt, sub, toNumber, type Quarter } from '../time';

/**
 * Fewer players than parts: who plays on, what of the other parts they can take beside their own without leaving the
 * reach of the hand or the instrument, and what is lost, in order of how much it is heard.
 */

/** A note of a part nobody plays any more. */
export interface SpareNote {
  readonly part: string;
  readonly at: Quarter;
  readonly to: Quarter;
  readonly note: Note;
  readonly event: RiffEvent;
  readonly bar: number;
  /** How much it is heard: seconds, twice as much for the outer voices, by the level of its part. */
  readonly weight: number;
}

export interface TakenNote extends SpareNote {
  /** The part whose player takes it. */
  readonly by: string;
  /** How: the same pitch sounds there already, the player is free, or one finger more. */
  readonly how: 'doubled' | 'free' | 'beside';
  /** Where it lies for them; null where it is doubled. */
  readonly place: { readonly string: number; readonly fret: number } | null;
}

export interface Reduction {
  readonly keep: readonly string[];
  readonly taken: readonly TakenNote[];
  readonly lost: readonly SpareNote[];
  /** What is kept of all that is heard of all parts, 0 to 1. */
  readonly share: number;
}

/** A string of a player that is in use, in quarters. */
interface Busy {
  readonly from: number;
  readonly to: number;
  readonly string: number;
  readonly fret: number;
  readonly midi: number;
}

/** Closer than this, times are the same: far less than the shortest note. */
const SAME = 1e-6;

/** Every note of a line with its end. */
function notesIn(line: Line): { readonly event: RiffEvent; readonly note: Note; readonly to: Quarter }[] {
  return line.riff.events.flatMap((event) => event.notes.map((note) => ({ event, note, to: noteEnd(event, note) })));
}

/** A player's strings in time, with the search for room beside what is played. */
class Player {
  /** What is in use, by the quarters it reaches into. */
  private readonly busy = new Map<number, Busy[]>();

  /** Where something begins that is no note and can't be one: a hit, a scrape, a gap. */
  private readonly taken: ReadonlySet<Quarter>;

  constructor(
    readonly line: Line,
    private readonly profile: Profile,
  ) {
    this.taken = new Set(line.riff.events.filter((event) => event.notes.length === 0).map((event) => event.at));
    for (const { event, note, to } of notesIn(line))
      if (note.place)
        this.put({
          ...{ from: toNumber(event.at), to: toNumber(to), midi: note.pitch.midi },
          ...{ string: note.place.string, fret: note.place.fret },
        });
  }

  private get setup(): Setup {
    return this.line.part.setup;
  }

  private put(one: Busy): void {
    for (let at = Math.floor(one.from); at < one.to - SAME; at++) {
      const there = this.busy.get(at);
      if (there) there.push(one);
      else this.busy.set(at, [one]);
    }
  }

  private during(from: number, to: number): Busy[] {
    const out = new Set<Busy>();
    for (let at = Math.floor(from); at < to - SAME; at++)
      for (const one of this.busy.get(at) ?? []) if (one.from < to - SAME && from < one.to - SAME) out.add(one);
    return [...out];
  }

  take(spare: SpareNote): Pick<TakenNote, 'how' | 'place'> | null {
    if (this.taken.has(spare.at)) return null;
    const [from, to] = [toNumber(spare.at), toNumber(spare.to)];
    const now = this.during(from, to);
    const { midi } = spare.note.pitch;
    if (now.some((one) => one.midi === midi && Math.abs(one.from - from) < SAME))
      return { how: 'doubled', place: null };
    const place = this.room(midi, now);
    if (!place) return null;
    this.put({ from, to, ...place, midi });
    return { how: now.length === 0 ? 'free' : 'beside', place };
  }

  /** A free string on which the pitch lies within the hand's reach of what is held: the nearest to it. */
  private room(midi: number, held: readonly Busy[]): { readonly string: number; readonly fret: number } | null {
    const stopped = held.filter((one) => one.fret > 0);
    // Four fingers, and no string twice.
    if (new Set(stopped.map((one) => one.fret)).size > 4) return null;
    const options = stringNumbers(this.setup)
      .filter((string) => held.every((one) => one.string !== string))
      .map((string) => ({ string, fret: midi - openPitch(this.setup, string) }))
      .filter((place) => place.fret >= 0 && pitchAt(this.setup, place).ok)
      .map((place) => ({ place, span: this.span([...stopped, place].filter((one) => one.fret > 0)) }))
      .filter(({ place, span }) => span <= this.profile.maximal['14'] && (place.fret === 0 || stopped.length < 4))
      .sort((a, b) => a.span - b.span || a.place.fret - b.place.fret);
    return options[0]?.place ?? null;
  }

  /** From the lowest to the highest stopped fret in millimetres. */
  private span(stopped: readonly { readonly string: number; readonly fret: number }[]): number {
    if (stopped.length < 2) return 0;
    const { scaleMm } = this.setup.instrument;
    const points = stopped.map(({ string, fret }) => pressPoint(scaleMm, fret + nutOf(this.setup, string)));
    return Math.max(...points) - Math.min(...points);
  }
}

/** All ways to choose so many of a list, in order. */
function chosen<T>(list: readonly T[], count: number): T[][] {
  if (count === 0) return [[]];
  return list.flatMap((one, i) => chosen(list.slice(i + 1), count - 1).map((rest) => [one, ...rest]));
}

/** How much each note of all lines is heard. */
function weighed(lines: readonly Line[]): Map<Note, number> {
  const out = new Map<Note, number>();
  const begun = new Map<Quarter, { low: number; high: number }>();
  for (const line of lines)
    for (const event of line.riff.events)
      for (const note of event.notes) {
        const range = begun.get(event.at) ?? { low: 128, high: -1 };
        begun.set(event.at, {
          low: Math.min(range.low, note.pitch.midi),
          high: Math.max(range.high, note.pitch.midi),
        });
      }
  for (const line of lines) {
    const levels = levelsOf(line.map, line.part.id);
    const gain = (at: Quarter): number => levels.findLast((step) => cmp(step.at, at) <= 0)?.gain ?? 1;
    for (const { event, note, to } of notesIn(line)) {
      const range = begun.get(event.at);
      const outer = note.pitch.midi === range?.low || note.pitch.midi === range?.high;
      const long: Seconds = secondsAt(line.map.tempo, to) - secondsAt(line.map.tempo, event.at);
      out.set(note, Math.max(0, long) * (outer ? 2 : 1) * gain(event.at));
    }
  }
  return out;
}

/** Parts and players at most: every choice of players is tried. */
export const REDUCE_MOST = 8;

/**
 * The best way to play these lines with so many players: whoever's own part stands for most of what is heard together
 * with what they can take of the others. At most `REDUCE_MOST` lines; with no fewer lines than players nothing is lost.
 */
export function reduce(
  all: readonly Line[],
  players: number,
  profileOf: (line: Line) => Profile = () => ADULT_HAND,
): Reduction {
  const lines = all.slice(0, REDUCE_MOST);
  const weights = weighed(lines);
  const total = [...weights.values()].reduce((sum, weight) => sum + weight, 0);
  const count = Math.max(1, Math.min(lines.length, Math.round(players)));
  let best: Reduction | null = null;
  for (const keep of chosen(lines, count)) {
    const taken: TakenNote[] = [];
    const lost: SpareNote[] = [];
    const team = keep.map((line) => new Player(line, profileOf(line)));
    const spare = lines
      .filter((line) => !keep.includes(line))
      .flatMap((line) =>
        notesIn(line).map(({ event, note, to }): SpareNote => ({
          ...{ part: line.part.id, at: event.at, to, note, event, bar: barOf(line.riff.meters, event.at).bar },
          weight: weights.get(note) ?? 0,
        })),
      )
      // What is heard most chooses first.
      .sort((a, b) => b.weight - a.weight || cmp(a.at, b.at));
    for (const one of spare) {
      const by = team.map((player) => ({ player, got: player.take(one) })).find(({ got }) => got !== null);
      if (by?.got) taken.push({ ...one, by: by.player.line.part.id, ...by.got });
      else lost.push(one);
    }
    const gone = lost.reduce((sum, one) => sum + one.weight, 0);
    const share = total === 0 ? 1 : 1 - gone / total;
    if (!best || share > best.share + 1e-9) best = { keep: keep.map((line) => line.part.id), taken, lost, share };
  }
  return best ?? { keep: [], taken: [], lost: [], share: 1 };
}

/** What of one part is lost in one bar. */
export interface LostBar {
  readonly part: string;
  readonly bar: number;
  readonly weight: number;
  readonly words: string;
}

/** What is lost bar by bar, what is heard most first. */
export function lostBars({ lost }: Pick<Reduction, 'lost'>, key: Key | null): LostBar[] {
  const groups = new Map<string, SpareNote[]>();
  for (const one of lost) {
    const id = `${one.part} ${one.bar}`;
    groups.set(id, [...(groups.get(id) ?? []), one]);
  }
  return [...groups.values()]
    .map((notes) => {
      const [first] = notes as [SpareNote, ...SpareNote[]];
      const names = [
        ...new Set(
          [...notes].sort((a, b) => cmp(a.at, b.at)).map((one) => noteName(one.note.pitch.midi, { key, octave: true })),
        ),
      ];
      const listed = names.length > 6 ? `${names.slice(0, 6).join(' ')} and ${names.length - 6} more` : names.join(' ');
      return {
        ...{ part: first.part, bar: first.bar },
        weight: notes.reduce((sum, one) => sum + one.weight, 0),
        words: `${notes.length === 1 ? '1 note' : `${notes.length} notes`}: ${listed}`,
      };
    })
    .sort((a, b) => b.weight - a.weight || a.bar - b.bar);
}

/**
 * What a player plays then: their own line with what they take, each note at its place, as events whose ids end in
 * "+". Notes that begin together with an event of their own stand in it.
 */
export function lineOf(line: Line, { taken }: Pick<Reduction, 'taken'>): RiffEvent[] {
  const mine = taken.filter((one) => one.by === line.part.id && one.place !== null);
  const out = new Map(line.riff.events.map((event) => [event.id, event]));
  const extra = new Map<string, RiffEvent>();
  for (const one of mine) {
    if (!one.place) continue;
    const note: Note = {
      ...one.note,
      id: `${one.note.id}+`,
      place: { ...one.place, finger: null, by: 'solver', fingerBy: 'solver', locked: false, reason: null },
    };
    // How it was played belongs to the hand that played it: what is shaken there may be an open string here.
    const { join: _, technique: __, ...bare } = { ...note, pitch: { ...note.pitch, cents: 0 } };
    const length = sub(one.to, one.at);
    const own = line.riff.events.find((event) => event.at === one.at && !event.grace);
    const id = own?.id ?? `${one.at}+`;
    const event = (own ? out : extra).get(id) ?? makeEvent(`${one.event.id}+`, one.at, length, []);
    // A note that is held for another time than the rest of its event says so.
    const held = { ...bare, dur: length === event.dur ? null : length };
    (own ? out : extra).set(id, { ...event, notes: [...event.notes, held] });
  }
  return [...out.values(), ...extra.values()].sort((a, b) => cmp(a.at, b.at));
}
