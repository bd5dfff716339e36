import 'server-only';
import type { z } from 'zod';
import { finding, pathOf, wellFormed, type DeepReadonly, type Finding } from '@/core/base';
import { may, type Actor, type Right } from './actor';
import { currentActor, db } from './context';
import type { Db } from './db/connection';

/** What an action works with: who acts, and the database. */
export interface ActionRequest {
  readonly actor: Actor;
  readonly db: Db;
}

/** Thrown where nothing sensible can be answered: a call no page of ours makes. */
export class Refused extends Error {
  constructor(readonly finding: Finding) {
    super(finding.words);
  }
}

/**
 * A server action: what it is given is read by a schema, the right it takes is checked, and only then it runs, for
 * the actor of the request. `refused` makes the answer to what can't be read; without it such a call is an error.
 */
export function action<Given extends z.ZodTuple, Out>(
  right: Right,
  given: Given,
  run: (request: ActionRequest, ...args: z.output<Given>) => Promise<Out>,
  refused?: (why: Finding) => NoInfer<Out>,
): (...args: DeepReadonly<z.input<Given>>) => Promise<Out> {
  return async (...args: DeepReadonly<z.input<Given>>) => {
    const actor = await currentActor();
    const answer = (why: Finding): Out => {
      if (refused) return refused(why);
      throw new Refused(why);
    };
    if (!may(actor, right)) return answer(finding('no-right', 'error', 'You may not do this here.'));
    const parsed = given.safeParse(wellFormed(args));
    if (parsed.success) return run({ actor, db: db() }, ...(parsed.data as z.output<Given>));
    const issue = parsed.error.issues[0];
    // The first step of the path is the argument's place, which says nothing to people.
    const path = pathOf(issue?.path.slice(1));
    return answer(finding('schema', 'error', issue?.message ?? 'malformed', { path }));
  };
}
