import { insertEvents, moved, movedWords, standingIn, type Move } from '@/core/command';
import type { Schools } from '@/core/schools';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls, type Called } from '@/core/shorthand';
import type { BenchContext } from './commands';

/** Notes go over the clipboard as calls: text that can be read, changed and pasted anywhere. */

export async function copyChosen({ part, riff, chosen, say }: BenchContext, schools: Schools): Promise<void> {
  const { events } = chosen;
  const first = events.find((event) => !event.grace) ?? events[0];
  if (!first) return;
  await navigator.clipboard.writeText(
    printCalls({ ...riff, events }, first.at, { setup: part.setup, frets: schools.frets }),
  );
  say(`${events.length === 1 ? 'One note' : `${events.length} notes`} copied, as calls.`);
}

/** What the clipboard holds as calls; null where it holds none, which is said. */
async function clipboardCalls({ part, riff, chosen, say }: BenchContext, schools: Schools): Promise<Called | null> {
  const text = await navigator.clipboard.readText();
  const called = readCalls(text, {
    setup: part.setup,
    meters: riff.meters,
    at: chosen.insertAt,
    length: FIRST_LENGTH,
    string: null,
    schools,
  });
  if (called.faults.length === 0 && called.events.length > 0) return called;
  say(`The clipboard does not hold calls: ${called.faults[0]?.words ?? 'it is empty.'}`);
  return null;
}

/**
 * Pastes what the clipboard holds where nothing stands. Where something does, gives the calls back for the call line,
 * which says what they would be written over; else null.
 */
export async function pasteCalls(bench: BenchContext, schools: Schools): Promise<string | null> {
  const called = await clipboardCalls(bench, schools);
  const first = called?.events[0];
  if (!called || !first) return null;
  const made = calledToEvents(called, new Set());
  if (standingIn(bench.riff, first.at, called.end).events.length > 0) return navigator.clipboard.readText();
  bench.edit(insertEvents(bench.piece, bench.riff.id, made, called.end));
  return null;
}

/** Pastes what the clipboard holds moved; true where it was done. */
export async function pasteMoved(bench: BenchContext, schools: Schools, move: Move): Promise<boolean> {
  const called = await clipboardCalls(bench, schools);
  if (!called) return false;
  const made = moved(bench.part.setup, calledToEvents(called, new Set()), move);
  if (!made.ok) {
    bench.say(made.error.words);
    return false;
  }
  if (!bench.edit(insertEvents(bench.piece, bench.riff.id, made.value.events, called.end))) return false;
  const lost = movedWords(made.value);
  if (lost) bench.say(lost);
  return true;
}
