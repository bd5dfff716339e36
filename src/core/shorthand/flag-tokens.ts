import {
  EVENT_SPECS,
  NOTE_SPECS,
  type EventSpec,
  type EventTechnique,
  type Flag,
  type NoteSpec,
  type NoteTechnique,
} from '../score';
import { EventFlag, NoteFlag } from './calls.parser.terms';

/** Words of techniques that are done or not, as the tables of techniques have them. */

function flagsOf<Name extends string>(
  specs: Readonly<Record<Name, { readonly flag?: Flag }>>,
): Map<string, { name: Name; flag: Flag }> {
  const entries = Object.entries(specs) as [Name, { readonly flag?: Flag }][];
  return new Map(entries.flatMap(([name, { flag }]) => (flag ? [[flag.call, { name, flag }] as const] : [])));
}

export const NOTE_FLAGS = flagsOf<NoteTechnique>(NOTE_SPECS as Record<NoteTechnique, NoteSpec>);
export const EVENT_FLAGS = flagsOf<EventTechnique>(EVENT_SPECS as Record<EventTechnique, EventSpec>);

/** The token a word of the line is where it names a flag; -1 where it does not. Asked by the parser. */
export const specializeFlag = (word: string, _stack?: unknown): number =>
  NOTE_FLAGS.has(word) ? NoteFlag : EVENT_FLAGS.has(word) ? EventFlag : -1;
