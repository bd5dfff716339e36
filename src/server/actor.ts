import type { Brand } from '@/core/base';

export type StudioId = Brand<string, 'StudioId'>;
export type PersonId = Brand<string, 'PersonId'>;

/** What a person may do in a studio: look at what is there, change it, or say who may. */
export type Right = 'read' | 'write' | 'manage';

/** Who acts, and where: handed to every function that reads or writes a studio's rows. */
export interface Actor {
  readonly studio: StudioId;
  /** Null for the program itself: a job, the demo. */
  readonly person: PersonId | null;
  readonly rights: ReadonlySet<Right>;
}

const ALL: ReadonlySet<Right> = new Set(['read', 'write', 'manage']);

/** The program acting in a studio, with every right: for jobs and the demo. */
export const programIn = (studio: string): Actor => ({ studio: studio as StudioId, person: null, rights: ALL });

export const may = (actor: Actor, right: Right): boolean => actor.rights.has(right);
