import { withDifference, type Difference, type Riff } from '@/core/score';
import type { Setup } from '@/core/instrument';
import type { PlaceOptions } from '@/core/place';
import type { TempoStep } from '@/core/time';

/** A task; only its version where it was handed over before; or what changed in its riff since another version was. */
export type Asked =
  | Task
  | { readonly version: number }
  | { readonly version: number; readonly since: number; readonly changed: Difference };

/** What is asked about: a riff as it is (`version` names that), on its set-up, for a hand and weights. */
export interface Task {
  readonly riff: Riff;
  readonly setup: Setup;
  readonly tempo: readonly TempoStep[];
  readonly options: PlaceOptions;
  readonly version: number;
}

const KEPT = 12;

/** Tasks handed over, by version: a long riff is sent once, however much is asked about it. */
export class TaskMemory {
  private readonly known = new Map<number, Task>();

  /**
   * The task that is meant. Throws where it goes by a version that was never handed over, or so long ago that it is
   * forgotten.
   */
  task(asked: Asked): Task {
    const known = this.known.get(asked.version);
    if (known) return known;
    const task = 'riff' in asked ? asked : 'since' in asked ? this.changed(asked) : null;
    if (!task) throw new Error(`version ${asked.version} was never handed over`);
    this.known.set(task.version, task);
    if (this.known.size > KEPT) this.known.delete([...this.known.keys()][0] ?? -1);
    return task;
  }

  private changed({
    version,
    since,
    changed,
  }: {
    readonly version: number;
    readonly since: number;
    readonly changed: Difference;
  }): Task | null {
    const before = this.known.get(since);
    return before ? { ...before, version, riff: withDifference(before.riff, changed) } : null;
  }
}
