import type { Setup } from '../instrument';
import { noteName, type Key } from '../pitch';
import { countSyllable } from '../rhythm';
import { DEFAULT_SCHOOLS, fretWordsBy, stringCall, type Schools } from '../schools';
import type { Note, Riff, RiffEvent } from '../score';
import { barOf } from '../time';

export interface CalloutOptions {
  readonly schools: Schools;
  readonly key: Key | null;
}

export const DEFAULT_CALLOUT: CalloutOptions = { schools: DEFAULT_SCHOOLS, key: null };

const FINGERS = ['', 'index', 'middle', 'ring finger', 'little finger', 'thumb'] as const;
const LINKS = { hammer: 'hammer on to', pull: 'pull off to', slide: 'slide to', shift: 'slide and strike again at' } as const;

/** One note as spoken: string, fret, finger, and what it sounds; or the pitch alone where no place is decided. */
export function callNote(note: Note, setup: Setup, options: CalloutOptions = DEFAULT_CALLOUT): string {
  const name = noteName(note.pitch.midi, { key: options.key, naming: options.schools.notes });
  if (!note.place) return `${name}, not placed yet`;
  const { string, fret, finger } = note.place;
  const named = stringCall(setup, string, options.schools, options.key);
  const where = fret === 0 ? `${named} open` : `${named}, ${fretWordsBy(setup, string, fret, options.schools.frets)}`;
  const by = finger ? `, ${FINGERS[finger]}` : '';
  const { tech } = note;
  if (tech?.dead) return `${named}, dead${fret > 0 ? ` at ${fretWordsBy(setup, string, fret, options.schools.frets)}` : ''}`;
  if (tech?.harmonic) return `${named}, natural harmonic over fret ${fret}, sounding ${name}`;
  const cents = note.pitch.cents === 0 ? '' : `, ${Math.abs(note.pitch.cents)} cents ${note.pitch.cents > 0 ? 'sharp' : 'flat'}`;
  return `${where}${by}, sounding ${name}${cents}${techWords(note, options)}`;
}

/** Bends, trills and kept fingers as spoken. */
function techWords({ tech, pitch }: Note, { key, schools }: CalloutOptions): string {
  if (!tech) return '';
  const to = (semitones: number): string => noteName(pitch.midi + semitones, { key, naming: schools.notes });
  const bend = tech.bend ? (tech.bend % 100 === 0 ? `, bent up to ${to(tech.bend / 100)}` : `, bent up ${tech.bend} cents`) : '';
  return `${bend}${tech.trill ? `, trilled with ${to(tech.trill)}` : ''}${tech.keep ? ', finger kept down' : ''}`;
}

/** One event as spoken, with how it is reached from the one before. */
export function callEvent(event: RiffEvent, before: RiffEvent | undefined, setup: Setup, options: CalloutOptions = DEFAULT_CALLOUT): string {
  const notes = event.notes.map((n) => callNote(n, setup, options)).join('; together with ');
  const how = before?.link ? `${LINKS[before.link]} ` : '';
  return `${how}${notes}${event.ring ? ', let it ring' : ''}${event.bar ? ', with the slide bar' : ''}`;
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

