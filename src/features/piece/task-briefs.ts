import equal from 'fast-deep-equal';
import { differenceOf } from '@/core/score';
import type { Asked, Task } from '@/workers/place-tasks';

/** So many of the last versions are asked about by their number alone; the worker keeps a few more. */
const REMEMBERED = 6;

/**
 * What the place worker was given lately: of a long riff only what changed goes over, since copying all of it takes
 * longer than a frame may. Whatever else a task holds is compared by value: where any of it changed, the whole task is
 * sent.
 */
export class TaskBriefs {
  private sent: readonly Task[] = [];

  /** A task in as few words as the worker understands. */
  brief(task: Task): Asked {
    const { version } = task;
    if (this.sent.some((known) => known.version === version)) return { version };
    const before = this.sent.findLast((known) => known.riff.id === task.riff.id);
    const changed = before && sameConditions(before, task) ? differenceOf(before.riff, task.riff) : null;
    this.sent = [...this.sent.slice(1 - REMEMBERED), task];
    return before && changed ? { version, since: before.version, changed } : task;
  }
}

/** Whether two tasks differ in nothing but the riff and the number they go by. */
export function sameConditions(first: Omit<Task, 'riff' | 'version'>, second: Omit<Task, 'riff' | 'version'>): boolean {
  const [one, other] = [first, second].map((task) => ({ ...task, riff: null, version: null }));
  return equal(one, other);
}
