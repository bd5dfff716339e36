import type { StringNumber } from '../base';
import { setupWords, stringNumbers, type Setup } from '../instrument';
import { asciiPitch } from '../pitch';
import { wayFacts, type PlaceEvent } from '../place';
import { barOf } from '../time';
import type { Asking } from './clues';
import type { Placed } from './placed';
import type { Clue, FinderQuestion, Reason } from './types';

/** A bar weighs in the comparison from this difference of cost on. */
const WORTH = 1.5;
/** Reaches below this are nothing to speak of, in mm. */
const WIDE_MM = 105;

const many = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;
const strings = (list: readonly StringNumber[]): string =>
  `string${list.length === 1 ? '' : 's'} ${list.length > 1 ? `${list.slice(0, -1).join(', ')} and ${list.at(-1)}` : (list[0] ?? '')}`;

/** Why an answer stands where it stands, heaviest first; every sentence is made from the values beside it. */
export function reasonsOf(question: FinderQuestion, asked: Asking, placed: Placed, other: Placed | null): Reason[] {
  const { meters, clues } = question;
  const { candidate, way, solution, against } = placed;
  const { events } = solution.problem;
  const bar = (event: PlaceEvent): number => barOf(meters, event.at).bar;
  const setup = candidate.members[0]?.setup as Setup;
  const on = stringNumbers(setup);
  const openOf = (string: StringNumber): number => candidate.open[candidate.open.length - string] ?? 0;
  const lowest = Math.min(...on.map(openOf));
  const reasons: Reason[] = [];

  // What can't be done.
  const below = events.find((event) => event.notes.some((note) => !note.dead && note.pitch < lowest));
  const belowPitch = below && Math.min(...below.notes.map((note) => note.pitch));
  if (below && belowPitch !== undefined)
    reasons.push({
      kind: 'below',
      ...{ bar: bar(below), event: below.id, pitch: belowPitch, lowest },
      words: `Bar ${bar(below) + 1} goes down to ${asciiPitch(belowPitch)}, below its lowest string (${asciiPitch(lowest)}).`,
    });
  const inBars = new Map<number, { events: string[]; limit: string }>();
  for (const one of solution.blocked) {
    const event = events.find(({ id }) => id === one.locus.event);
    if (!event || (one.rule === 'range' && below)) continue;
    const known = inBars.get(bar(event));
    if (known) known.events.push(event.id);
    else inBars.set(bar(event), { events: [event.id], limit: one.rule });
  }
  for (const [where, { events: list, limit }] of [...inBars].slice(0, 3))
    reasons.push({ kind: 'blocked', bar: where, events: list, limit, words: blockedWords(where, list.length, limit) });

  // Clues.
  clues.forEach((clue, index) => {
    const kept = !against.has(index);
    reasons.push({ kind: 'clue', clue: index, kept, words: clueWords(question, asked, clue, index, kept, placed) });
  });

  // What its open strings explain.
  const open = new Map<StringNumber, number>();
  let notes = 0;
  let times = 0;
  way.events.forEach((event, i) =>
    event.notes.forEach((place, k) => {
      if (events[i]?.notes[k]?.dead) return;
      notes++;
      if (place?.fret !== 0) return;
      times++;
      open.set(place.string, (open.get(place.string) ?? 0) + 1);
    }),
  );
  const lowString = on.find((string) => openOf(string) === lowest);
  const low = lowString === undefined ? 0 : (open.get(lowString) ?? 0);
  if (lowString !== undefined && low > 0)
    reasons.push({
      kind: 'lowest',
      ...{ string: lowString, pitch: lowest, times: low },
      words: `The lowest note, ${asciiPitch(lowest)}, is its open string ${lowString} and comes ${low === 1 ? 'once' : `${low} times`}.`,
    });
  if (times > 0) {
    const used = [...open.keys()].sort((a, b) => b - a);
    reasons.push({
      kind: 'open',
      ...{ times, of: notes, strings: used },
      words: `${times} of ${many(notes, 'note')} can be played open, on ${strings(used)}.`,
    });
  } else
    reasons.push({
      kind: 'closed',
      words:
        'No open string is needed: with all strings tuned lower or higher alike, the same shape sounds elsewhere on the neck.',
    });
  const rung = new Map<number, Set<StringNumber>>();
  way.events.forEach((event, i) => {
    const from = events[i];
    if (!from?.ring) return;
    for (const place of event.notes)
      if (place?.fret === 0) rung.set(bar(from), (rung.get(bar(from)) ?? new Set()).add(place.string));
  });
  const ringing = [...rung].sort((a, b) => b[1].size - a[1].size || a[0] - b[0])[0];
  if (ringing && ringing[1].size > 1) {
    const list = [...ringing[1]].sort((a, b) => b - a);
    reasons.push({
      kind: 'ring',
      ...{ bar: ringing[0], strings: list },
      words: `The ringing of bar ${ringing[0] + 1} lies on its open ${strings(list)}.`,
    });
  }

  // What it costs the hand, and beside the other.
  const facts = wayFacts(solution, way);
  if (facts.widestMm >= WIDE_MM) {
    const wide = way.events.findIndex((event) =>
      event.hold.some((term) => term.name === 'stretch' && term.amount === facts.widestMm),
    );
    const event = events[wide];
    if (event)
      reasons.push({
        kind: 'reach',
        ...{ bar: bar(event), mm: Math.round(facts.widestMm) },
        words: `Bar ${bar(event) + 1} asks for a reach of ${Math.round(facts.widestMm)} mm.`,
      });
  }
  if (other) {
    const heavy = heaviest(placed, other, bar);
    const name = setupWords(other.candidate.members[0]?.setup as Setup);
    if (heavy && Math.abs(heavy.extra) >= WORTH)
      reasons.push({
        kind: 'bar',
        ...{ bar: heavy.bar, extra: heavy.extra, than: name },
        words: `Bar ${heavy.bar + 1} is ${heavy.extra > 0 ? 'harder' : 'easier'} on the hand than in ${name} (${heavy.extra > 0 ? '+' : '−'}${Math.abs(heavy.extra).toFixed(1)}).`,
      });
  }
  const unused = on.filter(
    (string) => !way.events.some((event) => event.notes.some((place) => place?.string === string)),
  );
  if (unused.length > 0)
    reasons.push({
      kind: 'unused',
      strings: unused,
      words: `${cap(strings(unused))} ${unused.length === 1 ? 'isn’t' : 'aren’t'} used, so nothing tells how ${unused.length === 1 ? 'it is' : 'they are'} tuned.`,
    });
  return reasons;
}

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function blockedWords(bar: number, n: number, limit: string): string {
  const where = `Bar ${bar + 1}`;
  if (limit === 'ring') return `${where}: ${n === 1 ? 'a ring breaks' : `${n} rings break`} off.`;
  if (limit === 'reach') return `${where} has ${many(n, 'grip')} no hand reaches.`;
  if (limit === 'range') return `${where} has ${many(n, 'stroke')} its strings don’t have.`;
  if (limit === 'link') return `${where}: ${n === 1 ? 'a join doesn’t' : `${n} joins don’t`} stay on one string.`;
  return `${where}: ${many(n, 'note')} can’t be as told.`;
}

/** The bar where two placements differ most: how much dearer it is here. */
function heaviest(a: Placed, b: Placed, bar: (event: PlaceEvent) => number): { bar: number; extra: number } | null {
  const sums = new Map<number, number>();
  a.solution.problem.events.forEach((event, i) => {
    const extra = (a.way.events[i]?.cost ?? 0) - (b.way.events[i]?.cost ?? 0);
    sums.set(bar(event), (sums.get(bar(event)) ?? 0) + extra);
  });
  const [found] = [...sums].sort((x, y) => Math.abs(y[1]) - Math.abs(x[1]) || x[0] - y[0]);
  return found ? { bar: found[0], extra: Math.round(found[1] * 10) / 10 } : null;
}

/** One clue against one answer. */
function clueWords(
  { meters, events }: FinderQuestion,
  asked: Asking,
  clue: Clue,
  index: number,
  kept: boolean,
  { candidate, way }: Placed,
): string {
  const id = 'event' in clue ? clue.event : clue.events[0];
  const given = events.find((event) => event.id === id);
  const where = given ? `bar ${barOf(meters, given.at).bar + 1}` : 'the phrase';
  const opens = asked.open.filter((one) => one.clue === index);
  const pitches = [...new Set(opens.map((one) => one.pitch))].map((pitch) => asciiPitch(pitch)).join(', ');
  switch (clue.kind) {
    case 'open':
    case 'drone':
    case 'hammeredFromOpen': {
      if (!kept) {
        const missing = [
          ...new Set(opens.filter((one) => !candidate.open.includes(one.pitch)).map((one) => asciiPitch(one.pitch))),
        ];
        return `None of its open strings sounds ${missing.join(', ')}, which is open in ${where}.`;
      }
      const on = opens.flatMap(({ event, note }) => way.events[event]?.notes[note]?.string ?? []);
      const list = [...new Set(on)].sort((a, b) => b - a);
      return `${pitches} of ${where} is its open ${strings(list)}${clue.kind === 'hammeredFromOpen' ? ', and is hammered from' : ''}.`;
    }
    case 'string':
      return kept
        ? `What you saw on string ${clue.string}${clue.fret === undefined ? '' : `, fret ${clue.fret},`} in ${where} lies there.`
        : `String ${clue.string} doesn’t have the note of ${where}${clue.fret === undefined ? '' : ` at fret ${clue.fret}`}.`;
    case 'stopped':
      return `The stopped note of ${where} has a fret here.`;
    case 'ring':
      return kept ? `What rings in ${where} can ring.` : `What rings in ${where} can’t all ring.`;
    case 'slack':
      return kept
        ? `The slack note of ${where} lies on a string let down.`
        : `No string is let down where ${where} sounds slack.`;
    case 'shape':
      return kept ? `One shape moves through ${where}.` : `The shape of ${where} doesn’t stay one shape.`;
  }
}
