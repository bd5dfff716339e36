import { noteName } from '../pitch';
import { makeNeck } from './neck';
import { chainStart, combinations } from './relax';
import { makeWorkspace, playable, type Workspace } from './search';
import type { Slice } from './slice';
import { makeSlices, noteKey, offTheNeck, type Relaxed } from './slices';
import type { Blocked, ClashItem, PlaceEvent, Problem } from './types';

/** One note or limit that may be kept or given up. */
interface Item extends ClashItem {
  readonly key: string;
}

/** Sets tried for the smallest clash; beyond that it is only cut down until nothing can be spared. */
const TRIES = 500;
const SMALL = 4;

/**
 * The smallest set of notes and limits that can't be had together and that what was given up
 * (`blocked`) is part of: with any one of them gone the rest can be played. Exact up to four
 * members; larger ones are irreducible, and mostly the smallest. Empty where it clashes only
 * with what was given up before it.
 */
export function clashOf(problem: Problem, blocked: Blocked): ClashItem[] {
  if (!blocked.within) return [];
  const [from, dead] = blocked.within;
  const desk = makeWorkspace(makeNeck(problem.setup, problem.options));
  const { relaxed: off } = offTheNeck(problem);
  // What was given up before may have bound it to notes further back.
  const start = Math.min(from, chainStart(makeSlices(problem, off, 0, dead + 1), dead));
  const slices = makeSlices(problem, off, start, dead + 1);
  const items = itemsOf(problem, slices, off, start);
  const exact = items.filter(
    (item) =>
      item.event === blocked.locus.event &&
      (blocked.notes.length > 0
        ? item.note !== null && blocked.notes.includes(item.note) && item.what !== 'ring' && item.what !== 'keep'
        : blocked.rule === 'link'
          ? item.what === 'link'
          : item.what === 'ring' || item.what === 'keep'),
  );
  // What was given up may have meant nothing by itself once something else was given up: then any part of its event
  // speaks for it.
  const own = exact.length > 0 ? exact : items.filter((item) => item.event === blocked.locus.event);
  if (own.length === 0) return [];
  const clashes = (set: readonly Item[]): boolean => !holds(problem, desk, off, items, set, start, dead);
  const others = items.filter((item) => !own.includes(item));
  let tries = 0;
  for (let size = 0; size < SMALL && tries < TRIES; size++) {
    for (const set of combinations(others, size)) {
      if (++tries > TRIES) break;
      for (const mine of own) if (clashes([mine, ...set])) return plain([mine, ...set]);
    }
  }
  let kept = items;
  if (!clashes(kept)) return [];
  for (const item of [...others].reverse()) {
    const without = kept.filter((one) => one !== item);
    if (clashes(without)) kept = without;
  }
  return plain(kept);
}

const plain = (set: readonly Item[]): ClashItem[] =>
  [...set].map(({ event, note, what, words }) => ({ event, note, what, words }));

/** Whether the window can be played when only a set of items is kept. */
function holds(
  problem: Problem,
  desk: Workspace,
  off: Relaxed,
  items: readonly Item[],
  set: readonly Item[],
  start: number,
  dead: number,
): boolean {
  const keys = new Set(set.map((item) => item.key));
  const trial: Relaxed = {
    dropped: new Set(off.dropped),
    unlinked: new Set(off.unlinked),
    released: new Map(off.released),
  };
  for (const item of items) {
    if (keys.has(item.key)) continue;
    const e = Number(item.key.split(' ')[1]);
    if (item.what === 'note' || item.what === 'lock') trial.dropped.add(noteKey(e, item.note ?? 0));
    else if (item.what === 'link') trial.unlinked.add(e);
    else trial.released.set(noteKey(e, item.note ?? 0), e + 1);
  }
  return playable(desk, makeSlices(problem, trial, start, dead + 1));
}

function itemsOf(problem: Problem, slices: readonly Slice[], off: Relaxed, start: number): Item[] {
  const items: Item[] = [];
  const seen = new Set<string>();
  const add = (what: ClashItem['what'], e: number, note: number | null, words: string): void => {
    const key = `${what} ${e} ${note ?? ''}`;
    if (seen.has(key)) return;
    seen.add(key);
    items.push({ key, event: problem.events[e]?.id ?? '', note, what, words });
  };
  const name = (event: PlaceEvent | undefined, n: number): string =>
    noteName(event?.notes[n]?.pitch ?? 0, { octave: true });
  slices.forEach((slice, i) => {
    const e = start + i;
    const event = problem.events[e];
    event?.notes.forEach((note, index) => {
      if (off.dropped.has(noteKey(e, index))) return;
      if (note.lock)
        add('lock', e, index, `${name(event, index)} locked on string ${note.lock.string}, fret ${note.lock.fret}`);
      else
        add(
          'note',
          e,
          index,
          `${name(event, index)}${note.bend ? ` bent by ${note.bend} cents` : note.trill ? ' with its trill' : ''}`,
        );
    });
    for (const voice of slice.voices) {
      if (voice.heldFrom < 0) continue;
      add(
        voice.silent ? 'keep' : 'ring',
        voice.event,
        voice.note,
        voice.silent
          ? `the finger kept down on ${name(problem.events[voice.event], voice.note)}`
          : `${name(problem.events[voice.event], voice.note)} sounding on`,
      );
    }
    for (const [from] of slice.same) {
      const voice = slices[i - 1]?.voices[from];
      if (voice)
        add(
          'keep',
          voice.event,
          voice.note,
          `the finger kept down on ${name(problem.events[voice.event], voice.note)}`,
        );
    }
    const joined = slice.link ?? 'hold';
    if (slice.linked.length + slice.still.length > 0)
      add(
        'link',
        e - 1,
        null,
        `the ${LINK_NOUN[joined]} from ${problem.events[e - 1]?.notes.map((_, index) => name(problem.events[e - 1], index)).join(', ') ?? ''} to ${event?.notes.map((_, index) => name(event, index)).join(', ') ?? ''}`,
      );
  });
  return items;
}

export const LINK_NOUN = { hammer: 'hammer-on', pull: 'pull-off', slide: 'slide', hold: 'held chord' } as const;
