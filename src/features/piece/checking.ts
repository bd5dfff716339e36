import { wrap, type Remote } from 'comlink';
import type { StoreApi } from 'zustand/vanilla';
import type { CheckFinding, SectionHarmony } from '@/core/check';
import { CheckSender } from '@/workers/check-memory';
import type { CheckDoor } from '@/workers/check.worker';
import type { PieceState } from './store';

/** Milliseconds without a change before the piece is read again: whoever is writing is not corrected. */
const STILL = 600;
/** Milliseconds after opening before it is read first: what is seen and played goes before. */
const FIRST = 1200;

/** Keeps what the check asks in step with the piece, in a worker of its own, after what is written has come to rest. */
export class CheckKeeper {
  private worker: Worker | null = null;
  private door: Remote<CheckDoor> | null = null;
  private sender = new CheckSender();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private busy = false;
  private again = false;
  private readonly stop: () => void;
  /** The last answer; null before the first. Kept while a newer one is on its way. */
  findings: readonly CheckFinding[] | null = null;

  constructor(
    private readonly store: StoreApi<PieceState>,
    private readonly onAnswer: () => void,
  ) {
    this.stop = store.subscribe((state, before) => {
      if (state.document !== before.document) this.soon(STILL);
    });
    this.soon(FIRST);
  }

  private soon(after: number): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.read(), after);
  }

  /** Reads at once: the page of the check is looked at. */
  hurry(): void {
    if (this.findings === null && !this.busy) this.soon(0);
  }

  private async read(): Promise<void> {
    if (this.busy) {
      this.again = true;
      return;
    }
    this.busy = true;
    this.worker ??= new Worker(new URL('../../workers/check.worker.ts', import.meta.url), { type: 'module' });
    this.door ??= wrap<CheckDoor>(this.worker);
    try {
      this.findings = await this.door.check(this.sender.send(this.store.getState().document));
      this.onAnswer();
    } catch {
      // What it stumbled over is sent whole the next time; the last answer stands.
      this.sender = new CheckSender();
    }
    this.busy = false;
    if (this.again) {
      this.again = false;
      this.soon(0);
    }
  }

  /** The harmony of the piece as it was read last. */
  harmony = async (): Promise<readonly SectionHarmony[]> => (this.door ? this.door.harmony() : []);

  close(): void {
    this.stop();
    if (this.timer) clearTimeout(this.timer);
    this.worker?.terminate();
  }
}
