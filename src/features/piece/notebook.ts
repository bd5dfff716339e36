import type { Step } from '@/core/edit';
import type { Device, Backlog } from './device';

/** What is owed as it stands: the steps not taken by the server yet, the first of them number `first`. */
export interface Unsent {
  readonly base: number;
  readonly sending: Backlog['sending'];
  readonly first: number;
  readonly steps: readonly Step[];
}

/** A device that would not take something is asked again after so long. */
const AGAIN_MS = 3000;

/**
 * Writes what is owed on the device, one write at a time: what comes while one is under way goes with the next. Tells
 * truly whether all of it is there.
 */
export class Notebook {
  private standing: Unsent;
  /** Steps below this number are on the device. */
  private written = 0;
  private busy: Promise<void> | null = null;
  private dirty = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private closed = false;

  constructor(
    private readonly device: Pick<Device, 'note'> | null,
    first: Unsent,
    private readonly onKept: (kept: boolean) => void,
  ) {
    this.standing = first;
  }

  /** Notes how it stands; resolves when that, or something newer, was written or refused. */
  keep(standing: Unsent): Promise<void> {
    this.standing = standing;
    this.dirty = true;
    if (!this.device) this.onKept(standing.steps.length === 0);
    return this.device ? (this.busy ??= this.write().finally(() => (this.busy = null))) : Promise.resolve();
  }

  /** Nothing is written after this: what is on the device stays. */
  close(): void {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
  }

  private async write(): Promise<void> {
    while (this.dirty && !this.closed) {
      this.dirty = false;
      const { base, sending, first, steps } = this.standing;
      const from = Math.max(first, this.written);
      try {
        await this.device?.note({
          base,
          sending,
          from,
          steps: steps.slice(from - first),
          done: first,
          owes: steps.length > 0,
        });
        this.written = first + steps.length;
        if (!this.dirty) this.onKept(true);
      } catch {
        // Full, closed or forbidden. Nothing is lost while the page is open; it is tried again.
        this.onKept(steps.length === 0);
        this.timer ??= setTimeout(() => {
          this.timer = null;
          void this.keep(this.standing);
        }, AGAIN_MS);
        return;
      }
    }
  }
}
