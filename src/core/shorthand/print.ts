import { HARMONIC_NODES, openPitch, shownFret, type FretCounting, type Setup } from '../instrument';
import { asciiPitch } from '../pitch';
import { riffStart, type Note, type Riff, type RiffEvent } from '../score';
import { add, barOf, barStart, cmp, quarter, sub, ZERO, type Quarter } from '../time';
import { bendWords } from './marks';
import { lengthWords } from './lengths';

/** Frets are printed from the capo unless a set-up and another counting are given. */
export interface Counting {
  readonly setup: Setup;
  readonly frets: FretCounting;
}

/** The length a call line starts with when nothing is said. */
export const FIRST_LENGTH: Quarter = quarter(1, 2);

/**
 * A riff as calls. Reading them again with the same set-up gives the same riff: pitches, places,
 * fingers, what is locked, times, links and rings. Strings go by number, so nothing is ambiguous.
 */
export function printCalls(riff: Pick<Riff, 'events' | 'meters' | 'pickup'>, from: Quarter = riffStart(riff as Riff), counting: Counting | null = null): string {
  const words: string[] = [];
  let cursor = from;
  let length = FIRST_LENGTH;
  let string: number | null = null;
  let barFrom = barOf(riff.meters, from).bar < 0 ? ZERO : barStart(riff.meters, barOf(riff.meters, from).bar);
  let pickup = cmp(from, ZERO) < 0;

  const barLines = (): void => {
    for (;;) {
      const next = pickup ? ZERO : barStart(riff.meters, barOf(riff.meters, barFrom).bar + 1);
      if (cmp(cursor, next) < 0) return;
      // A note held over the bar line leaves no place for the line: it is said at the next one that fits.
      if (cursor === next) words.push('|');
      barFrom = next;
      pickup = false;
    }
  };
  riff.events.forEach((event, i) => {
    while (cmp(cursor, event.at) < 0) {
      const next = pickup ? ZERO : barStart(riff.meters, barOf(riff.meters, barFrom).bar + 1);
      const to = cmp(next, cursor) > 0 && cmp(next, event.at) < 0 ? next : event.at;
      words.push(`rest for ${sub(to, cursor)}`);
      cursor = to;
      barLines();
    }
    const following = riff.events[i + 1];
    const end = add(event.at, event.dur);
    const step = following && cmp(following.at, end) < 0 ? sub(following.at, event.at) : event.dur;
    const said = lengthWords(step);
    if (step !== length && said !== null && isRun(riff.events, i, step)) {
      words.push(plural(said));
      length = step;
    }
    const before = riff.events[i - 1];
    const linked = before?.link ?? null;
    const parts: string[] = [];
    for (const note of event.notes) {
      const call = noteCall(note, string, counting);
      string = call.string ?? string;
      parts.push(call.text);
    }
    let text = `${linked ? `${linked} ` : ''}${parts.join(' + ')}`;
    if (step !== length) text += ` for ${said ?? step}`;
    if (event.dur !== step) text += ` held ${event.dur}`;
    if (event.ring) text += ' ring';
    if (event.bar) text += ' bottleneck';
    words.push(text);
    cursor = add(event.at, step);
    barLines();
  });
  if (words.at(-1) === '|') words.pop();
  return words.join(' ');
}

/** A new default length pays when at least two notes in a row have it. */
function isRun(events: readonly RiffEvent[], i: number, step: Quarter): boolean {
  const next = events[i + 1];
  return next === undefined || next.dur === step;
}

const plural = (length: string): string => (length.endsWith('half') ? length.replace(/half$/, 'halves') : `${length}s`);

function noteCall(note: Note, string: number | null, counting: Counting | null): { text: string; string: number | null } {
  const { place, tech } = note;
  let text: string;
  if (place) {
    const shown = String(counting ? shownFret(counting.setup, place.string, place.fret, counting.frets) : place.fret);
    const fret = tech?.dead ? (place.fret === 0 ? 'dead' : `dead ${shown}`) : tech?.harmonic ? `harmonic ${nodeOf(note, counting?.setup ?? null)}` : place.fret === 0 ? 'open' : shown;
    text = `${place.string === string ? '' : `on ${place.string} `}${fret}${place.locked ? '' : '?'}`;
    if (place.finger !== null && place.finger !== 0) text += ` with ${place.finger === 5 ? 'thumb' : place.finger}${place.fingerBy === 'instructor' ? '' : '?'}`;
  } else {
    // Without a place of its own a dead note says the pitch of the string it goes with.
    text = `note ${asciiPitch(note.pitch.midi)}${tech?.dead ? ' muffled' : ''}`;
  }
  if (note.dur !== null) text += ` lasting ${note.dur}`;
  if (note.pitch.cents !== 0) text += ` ${note.pitch.cents > 0 ? 'sharp' : 'flat'} ${Math.abs(note.pitch.cents)}`;
  if (tech?.bend) text += ` bend ${bendWords(tech.bend)}`;
  if (tech?.trill) text += ` trill by ${tech.trill}`;
  if (tech?.keep) text += ` down ${tech.keep}`;
  return { text, string: place?.string ?? null };
}

/** The node a harmonic is touched at. Two lie over fret 3 (3.2 and 2.7): the set-up tells them apart, the clearer one is said without it. */
function nodeOf(note: Note, setup: Setup | null): number {
  const over = HARMONIC_NODES.filter((n) => Math.round(n.fret) === note.place?.fret);
  return (over.find((n) => setup && note.place && openPitch(setup, note.place.string) + n.semitones === note.pitch.midi) ?? over[0])?.fret ?? 12;
}
