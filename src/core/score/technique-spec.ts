import type { Setup } from '../instrument';
import type { Note } from './schema';
import type { Articulation, Technique } from './technique';

/**
 * A technique is one thing in one place: what it is called and typed, how it is spoken, where it stands among the
 * commands and fields, how it is looked for, and what no hand can do. What other rooms make of it (the solver, the
 * sound, the drawing) they keep in tables by the same names, which fail to compile while one is missing.
 */

export type NoteTechnique = keyof Technique;
export type EventTechnique = keyof Articulation;

/** A change of what is done to a note: undefined leaves a technique as it is, null takes it off. */
export type TechniqueChange = { readonly [Key in NoteTechnique]?: Technique[Key] | null };
/** A change of how events are played: undefined leaves it, null takes it off. */
export type ArticulationChange = {
  readonly [Key in keyof Omit<Articulation, 'kind' | 'grace'>]?: Articulation[Key] | null;
};

/** Groups of the command list, in its order. */
export type CommandGroup = 'Length' | 'Join' | 'Bend and vibrato' | 'Sound' | 'Stroke' | 'Hand' | 'Certainty';

/** Something a hand can ask for: found by `id`, named as one would say it. */
export interface TechniqueCommand<Now, Change> {
  readonly id: string;
  readonly group: CommandGroup;
  readonly name: string;
  /** Its key on the bench, as `KeyboardEvent.key` with "Shift+" before it. */
  readonly key?: string;
  /** Other words one may type for it. */
  readonly words?: string;
  /** What it changes, given what is there now. */
  readonly change: (now: Now) => Change;
}

/** A technique that is done or not: one word in a call, one phrase when spoken, one field beside the strip. */
export interface Flag {
  /** The word of the call line: letters and hyphens, used by nothing else there. */
  readonly call: string;
  readonly spoken: string;
  /** As the call line confirms it; absent, as spoken. */
  readonly understood?: string;
  /** The field beside the strip: its name, and what it says when on; absent where another field holds it. */
  readonly field?: { readonly label: string; readonly on: string };
}

interface Spec<Now, Change> {
  readonly flag?: Flag;
  /** Words it is looked for by. */
  readonly find: readonly string[];
  readonly commands: readonly TechniqueCommand<Now, Change>[];
}

/** What a limit of a note is asked about. */
export interface NoteContext {
  readonly setup: Setup;
  readonly place: Pick<NonNullable<Note['place']>, 'string' | 'fret'> | null;
  readonly technique: Technique;
  /** Played with a slide bar. */
  readonly slideBar: boolean;
}

export interface NoteSpec extends Spec<Technique, TechniqueChange> {
  /** Why it can't be done with what else is done to the note, wherever it lies. Asked only where it is done. */
  readonly clash?: (context: NoteContext) => string | null;
  /** Why it can't be done at a place. */
  readonly limit?: (
    context: NoteContext & { readonly place: { readonly string: number; readonly fret: number } },
  ) => string | null;
}

/** What a limit of an event is asked about. */
export interface EventContext extends Articulation {
  readonly notes: readonly { readonly technique?: Technique | undefined }[];
  readonly letRing: boolean;
  readonly slideBar?: true | undefined;
}

export interface EventSpec extends Spec<Articulation, ArticulationChange> {
  readonly clash?: (event: EventContext) => string | null;
}

/** A command that sets a technique where it is not, and takes it off where it is. */
export const toggles =
  <Now extends object>(key: keyof Now, value: object) =>
  (now: Now): object =>
    now[key] === undefined ? value : { [key]: null };

/** The names in a table of techniques that are flags. */
export type FlagOf<Specs> = {
  [Name in keyof Specs]: Specs[Name] extends { readonly flag: Flag } ? Name : never;
}[keyof Specs];
