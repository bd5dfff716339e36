import { nominalName, soundingName, type Setup } from '../instrument';
import { noteName, type Key, type Naming } from '../pitch';
import { countSyllable } from '../rhythm';
import type { Note, Riff, RiffEvent } from '../score';
import { barOf } from '../time';

/** How strings are named aloud. */
export type StringNaming = 'numbers' | 'nominal' | 'sounding' | 'numbers-nominal';

export interface CalloutOptions {
  readonly strings: StringNaming;
  readonly naming: Naming;
  readonly key: Key | null;
}

export const DEFAULT_CALLOUT: CalloutOptions = { strings: 'numbers-nominal', naming: 'letters', key: null };

const FINGERS = ['', 'index', 'middle', 'ring finger', 'little finger'] as const;
const LINKS = { hammer: 'hammer on to', pull: 'pull off to', slide: 'slide to' } as const;

/** A string in the instructor's naming: "string 4 (D)". */
export function callString(setup: Setup, string: number, options: CalloutOptions): string {
  const nominal = nominalName(setup, string, { naming: options.naming });
  switch (options.strings) {
    case 'numbers':
      return `string ${string}`;
    case 'nominal':
      return `the ${nominal} string`;
    case 'sounding':
      return `the ${soundingName(setup, string, { naming: options.naming, key: options.key })} string`;
    case 'numbers-nominal':
      return `string ${string} (${nominal})`;
  }
}

/** One note as spoken: string, fret, finger, and what it sounds; or the pitch alone where no place is decided. */
export function callNote(note: Note, setup: Setup, options: CalloutOptions = DEFAULT_CALLOUT): string {
  const name = noteName(note.pitch.midi, { key: options.key, naming: options.naming });
  if (!note.place) return `${name}, not placed yet`;
  const { string, fret, finger } = note.place;
  const where = fret === 0 ? `${callString(setup, string, options)} open` : `${callString(setup, string, options)}, fret ${fret}`;
  const by = finger ? `, ${FINGERS[finger]}` : '';
  return `${where}${by}, sounding ${name}`;
}

/** One event as spoken, with how it is reached from the one before. */
export function callEvent(event: RiffEvent, before: RiffEvent | undefined, setup: Setup, options: CalloutOptions = DEFAULT_CALLOUT): string {
  const notes = event.notes.map((n) => callNote(n, setup, options)).join('; together with ');
  const how = before?.link ? `${LINKS[before.link]} ` : '';
  return `${how}${notes}${event.ring ? ', let it ring' : ''}`;
}

/** A riff as spoken, a line a bar, each note with its count. Also the text of every drawing for people who don't see it. */
export function callRiff(riff: Riff, setup: Setup, options: CalloutOptions = DEFAULT_CALLOUT): string[] {
  const lines = new Map<number, string[]>();
  riff.events.forEach((event, i) => {
    const { bar } = barOf(riff.meters, event.at);
    const said = `on ${countSyllable(riff.meters, event.at)}: ${callEvent(event, riff.events[i - 1], setup, options)}`;
    lines.set(bar, [...(lines.get(bar) ?? []), said]);
  });
  return [...lines].map(([bar, said]) => `${bar < 0 ? 'Pickup' : `Bar ${bar + 1}`}. ${said.join('. ')}.`);
}

