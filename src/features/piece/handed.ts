import { differenceOf } from '@/core/edit';
import type { Riff } from '@/core/score';
import type { Asked, Task } from '@/workers/taken';

/** So many of the last versions are asked about by their number alone; the worker keeps a few more. */
const HANDED = 6;

/**
 * What the place worker has been given lately: of a long riff only what changed is handed over, since copying all of
 * it takes longer than a frame may.
 */
export class Handed {
  private list: readonly { readonly version: number; readonly riff: Riff }[] = [];

  /** A task in as few words as the worker understands. */
  brief(task: Task): Asked {
    const { riff, version } = task;
    if (this.list.some((h) => h.version === version)) return { version };
    const before = this.list.findLast((h) => h.riff.id === riff.id);
    // Its own tempo goes with the task, not with the riff: where that changed all of it is said anew.
    const changed = before && before.riff.tempo === riff.tempo ? differenceOf(before.riff, riff) : null;
    this.list = [...this.list.slice(1 - HANDED), { version, riff }];
    return before && changed ? { version, since: before.version, changed } : task;
  }

  /** Where set-up, tempo, hand or weights changed, whole tasks must be said again. */
  forget(): void {
    this.list = [];
  }
}
