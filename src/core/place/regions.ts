import { add, barOf, barStart, cmp, maxQuarter, sub, quarter, type Quarter } from '../time';
import { pathThrough, priced, type Priced } from './alternatives';
import { differing, openNotes, unlike } from './facts';
import { bestOf } from './search';
import { wayOf } from './solve';
import type { PlaceEvent, Problem, Way } from './types';

/** A stretch of a part that is heard, and placed, as one: event indices, the last included. */
export interface Phrase {
  readonly from: number;
  readonly to: number;
}

/** A silence this long ends a phrase; so does a bar line once it has gone on for so many bars. */
const SILENCE: Quarter = quarter(1);
const BARS = 2;
/** Longer phrases are asked about in pieces: nobody holds more in mind. */
const MOST = 40;

/** Cuts a part into phrases: at silences of a quarter or more, and at bar lines after two bars. */
export function phrasesOf(events: readonly PlaceEvent[], meters: Problem['meters']): Phrase[] {
  const phrases: Phrase[] = [];
  let from = 0;
  let until: Quarter | null = null;
  const bar = (event: PlaceEvent | undefined): number => (event ? barOf(meters, event.at).bar : 0);
  events.forEach((event, i) => {
    const silent = until !== null && cmp(sub(event.at, until), SILENCE) >= 0;
    const long =
      bar(event) - Math.max(0, bar(events[from])) >= BARS &&
      cmp(event.at, barStart(meters, Math.max(0, bar(event)))) >= 0;
    if (i > from && (silent || long || i - from >= MOST)) {
      phrases.push({ from, to: i - 1 });
      from = i;
    }
    const end = add(event.at, event.dur);
    until = until === null ? end : maxQuarter(until, end);
  });
  if (from < events.length) phrases.push({ from, to: events.length - 1 });
  return phrases;
}

/** One region of the neck a phrase may lie in: its easiest way there, how likely, and how to say it. */
export interface Region {
  readonly way: Way;
  /** What it costs above the easiest. */
  readonly extra: number;
  /** How likely a player would choose it, 0 to 1; all regions of a phrase add up to 1. */
  readonly share: number;
  readonly lowest: number;
  readonly highest: number;
  /** Notes played open. */
  readonly open: number;
}

/** An answer to the question where a note lies. */
export interface AnchorChoice {
  readonly string: number;
  readonly fret: number;
  readonly share: number;
  /** Which region it leads to, by index. */
  readonly region: number;
}

/** The note whose place would settle most of a phrase. */
export interface Anchor {
  readonly event: string;
  readonly note: number;
  readonly choices: readonly AnchorChoice[];
  /** The share of the phrase's notes that would be right on average once this is answered, 0 to 1. */
  readonly settles: number;
}

export interface PhraseView {
  readonly from: string;
  readonly to: string;
  /** How sure the program is of the first region, 0 to 1. */
  readonly sure: number;
  readonly regions: readonly Region[];
  /** What to ask; null where nothing is open. */
  readonly ask: Anchor | null;
}

/**
 * Cost that makes a way e times less likely than another of the same phrase, for a phrase of one
 * note; it grows with the root of the notes. Fitted so that on the bench's phrases "70 % sure" is right about that
 * often.
 */
const TEMPERATURE = 0.45;
/** Regions told apart at most, and what a way may cost above the easiest to be one, in temperatures. */
const REGIONS = 4;
const TOO_DEAR = 6;
/** A way with how likely it is and the region it belongs to. */
interface Weighed {
  readonly way: Way;
  readonly share: number;
  readonly region: number;
}

/** Ways weighed against each other. */
const WEIGHED = 60;
/** Ways gathered at most before they are told apart. */
const GATHERED = 400;

/**
 * The regions of the neck a phrase may lie in, how sure the first is, and the note to ask for.
 * For every place of every note the easiest way through it is known from one forward and one
 * backward search, so no region can be missed that some note's place leads to.
 */
export function viewOf(problem: Problem, phrase: Phrase): PhraseView {
  const events = problem.events.slice(phrase.from, phrase.to + 1);
  const known = priced({
    ...problem,
    events: events.map((event, i) => (i === events.length - 1 ? { ...event, link: null } : event)),
  });
  const heat = TEMPERATURE * Math.sqrt(Math.max(1, events.length));
  const all = waysThrough(known, TOO_DEAR * heat).slice(0, WEIGHED);
  const ways = differing(all, REGIONS);
  const least = ways[0]?.cost ?? 0;
  const weights = all.map((way) => Math.exp(-(way.cost - least) / heat));
  const sum = weights.reduce((a, b) => a + b, 0);
  // Every way speaks for the first region it is like.
  const weighed = all.map((way, i): Weighed => ({
    way,
    share: (weights[i] ?? 0) / sum,
    region: Math.max(
      0,
      ways.findIndex((one) => !unlike(one, way)),
    ),
  }));
  const regions = ways.map((way, i): Region => {
    const hands = way.events.map((event) => event.hand).filter((fret) => fret > 0);
    return {
      way,
      extra: way.cost - least,
      share: weighed.reduce((s, one) => (one.region === i ? s + one.share : s), 0),
      lowest: hands.length > 0 ? Math.min(...hands) : 0,
      highest: hands.length > 0 ? Math.max(...hands) : 0,
      open: openNotes(events, way),
    };
  });
  const sure = regions[0]?.share ?? 1;
  return {
    from: events[0]?.id ?? '',
    to: events.at(-1)?.id ?? '',
    sure,
    regions,
    ask: regions.length < 2 ? null : anchorOf(events, weighed),
  };
}

/** The easiest way through every place of every note, cheapest first, none twice. */
function waysThrough({ solution, ahead, best }: Priced, within: number): Way[] {
  const found = new Map<string, Way>();
  const keep = (way: Way): void => {
    const key = way.events
      .map((event) => event.notes.map((place) => (place ? `${place.string}.${place.fret}` : '-')).join())
      .join(' ');
    const known = found.get(key);
    if (!known || known.cost > way.cost) found.set(key, way);
  };
  keep(best);
  solution.layers.forEach((layer, i) => {
    const cheapest = new Map<string, { state: number; cost: number }>();
    layer.deck.states.forEach((one, state) => {
      const cost = bestOf(layer, state) + (ahead[i]?.cost[state] ?? Infinity);
      if (cost > best.cost + within) return;
      const struck = layer.slice.voices
        .flatMap((voice, index) =>
          voice.heldFrom < 0 && voice.over < 0 ? [`${one.strings[index]}.${one.frets[index]}`] : [],
        )
        .join();
      const known = cheapest.get(struck);
      if (!known || known.cost > cost) cheapest.set(struck, { state, cost });
    });
    for (const { state } of cheapest.values())
      if (found.size < GATHERED) keep(wayOf(solution, pathThrough(solution, ahead, i, state)));
  });
  return [...found.values()].sort((a, b) => a.cost - b.cost);
}

/**
 * Asks for the note after whose answer most of the phrase is likely right: for each answer the
 * likeliest way that agrees with it is taken, and counted by how many notes it shares with the
 * others that agree. The earliest on a tie.
 */
function anchorOf(events: readonly PlaceEvent[], ways: readonly Weighed[]): Anchor | null {
  const places = ways.map((one) =>
    one.way.events.flatMap((event) => event.notes.map((place) => (place ? place.string * 64 + place.fret : -1))),
  );
  const alike = (a: number, b: number): number => {
    const list = places[a] ?? [];
    const one = places[b] ?? [];
    let same = 0;
    for (let i = 0; i < list.length; i++) if (list[i] === one[i]) same++;
    return same / Math.max(1, list.length);
  };
  const likeness = ways.map((_, a) => ways.map((__, b) => alike(a, b)));
  let best: Anchor | null = null;
  let k = -1;
  for (const event of events) {
    for (const [n, note] of event.notes.entries()) {
      k++;
      if (note.lock || note.dead) continue;
      const groups = new Map<number, number[]>();
      ways.forEach((_, index) => {
        const place = places[index]?.[k] ?? -1;
        if (place >= 0) groups.set(place, [...(groups.get(place) ?? []), index]);
      });
      if (groups.size < 2) continue;
      const choices: AnchorChoice[] = [];
      let settles = 0;
      for (const [place, members] of groups) {
        // Ways come cheapest first, so the first of a group is its likeliest.
        const leader = members[0] ?? 0;
        for (const w of members) settles += (ways[w]?.share ?? 0) * (likeness[leader]?.[w] ?? 0);
        choices.push({
          string: Math.floor(place / 64),
          fret: place % 64,
          share: members.reduce((s, w) => s + (ways[w]?.share ?? 0), 0),
          region: ways[leader]?.region ?? 0,
        });
      }
      if (best && settles <= best.settles + 1e-9) continue;
      best = { event: event.id, note: n, settles, choices: choices.sort((a, b) => b.share - a.share) };
    }
  }
  return best;
}
