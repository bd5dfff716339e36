import { z } from 'zod';
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Result } from '@/core/base';
import { clipDocumentSchema, type ClipDocument } from '@/core/hearing';

/** What another window's save refused, and when it was laid. */
const refusedSchema = z.object({ at: z.number(), document: clipDocumentSchema });
export type Refused = z.infer<typeof refusedSchema>;
const waitingSchema = z.object({ revision: z.number().int(), document: clipDocumentSchema });

/** What is laid on a clip and the revision it has on the server. */
export interface Laid {
  readonly document: ClipDocument;
  readonly revision: number;
}

export interface KeepingState {
  /** Not saved: held on this device until the server answers. */
  readonly waiting: boolean;
  /** What gave way to another window, the newest last. */
  readonly refused: readonly Refused[];
}

export interface Doors {
  /** Saves over a revision and gives the next; fails with `stale` where another window saved meanwhile. */
  readonly save: (revision: number, document: ClipDocument) => Promise<Result<number>>;
  /** What is kept now; null where it is gone. */
  readonly read: () => Promise<Laid | null>;
  readonly show: (laid: Laid) => void;
  readonly say: (words: string) => void;
  readonly now: () => number;
  readonly device: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
}

/** So many refused ones are held a clip. */
const HELD = 5;

/**
 * Keeps what is laid on one clip: shown at once, sent one save at a time, held on this device while
 * the server is away, and sent when it is back. Another window's later save is never overwritten
 * unseen, and what it refused here is held on this device until somebody decides about it.
 */
export class ClipKeeper {
  readonly state: StoreApi<KeepingState>;
  private newest: ClipDocument | null = null;
  private sending = false;
  private resumed = false;
  private shown: Laid;

  constructor(
    private readonly clip: string,
    first: Laid,
    private readonly doors: Doors,
  ) {
    this.shown = first;
    this.state = createStore<KeepingState>(() => ({ waiting: false, refused: [] }));
  }

  /** Shows what is laid and keeps it; resolves when nothing more is on its way. */
  async keep(document: ClipDocument): Promise<void> {
    this.newest = document;
    this.show({ ...this.shown, document });
    await this.send();
  }

  /** Sends what waits, if anything does. */
  async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    for (let document = this.newest; document; document = this.newest) {
      const saved = await this.doors.save(this.shown.revision, document).catch(() => null);
      if (saved === null) {
        this.hold(this.newest);
        this.state.setState({ waiting: true });
        break;
      }
      if (saved.ok) this.show({ ...this.shown, revision: saved.value });
      else if (saved.error.rule === 'stale') {
        if (!(await this.giveWay(document))) break;
      } else this.doors.say(`What was laid last is not kept: ${saved.error.words}`);
      if (this.newest === document) this.newest = null;
      this.hold(null);
      this.state.setState({ waiting: false });
    }
    this.sending = false;
  }

  /**
   * Takes up what this device holds: what waited when the page was left is sent where nothing changed since, else
   * kept to be decided about.
   */
  async resume(): Promise<void> {
    // Once: what is here since then may be more than a full device could take.
    if (this.resumed) return;
    this.resumed = true;
    this.state.setState({ refused: this.readRefused() });
    const held = this.readWaiting();
    if (!held || this.newest) return;
    if (held.revision === this.shown.revision) return this.keep(held.document);
    if (!same(held.document, this.shown.document)) this.refuse(held.document);
    this.hold(null);
  }

  /** What the server has now is shown, unless something laid here is still on its way. */
  fresh(laid: Laid): Laid {
    if (!this.newest && !this.sending) this.shown = laid;
    return this.shown;
  }

  /** Lays the newest refused one over what is shown, which takes its place among the refused. */
  async use(): Promise<void> {
    const last = this.state.getState().refused.at(-1);
    if (!last) return;
    const over = this.shown.document;
    this.setRefused(this.state.getState().refused.slice(0, -1));
    this.refuse(over);
    await this.keep(last.document);
  }

  /** Lets the newest refused one go, and gives it, should that be undone. */
  drop(): Refused | null {
    const { refused } = this.state.getState();
    this.setRefused(refused.slice(0, -1));
    return refused.at(-1) ?? null;
  }

  putBack(refused: Refused): void {
    this.setRefused([...this.state.getState().refused, refused]);
  }

  /** Another window saved first: what it laid is shown. False where it can't be read now. */
  private async giveWay(mine: ClipDocument): Promise<boolean> {
    const theirs = await this.doors.read().catch(() => undefined);
    if (theirs === undefined) {
      this.hold(this.newest);
      this.state.setState({ waiting: true });
      return false;
    }
    if (theirs === null) {
      this.doors.say('This recording is not here any more: another window deleted it. It can be put back there.');
      this.refuse(this.newest ?? mine);
      this.newest = null;
      return true;
    }
    // An answer that was lost: what stands there is what was sent.
    if (same(theirs.document, mine)) this.show({ document: this.newest ?? mine, revision: theirs.revision });
    else {
      this.refuse(this.newest ?? mine);
      this.newest = null;
      this.show(theirs);
    }
    return true;
  }

  private show(laid: Laid): void {
    this.shown = laid;
    this.doors.show(laid);
  }

  private refuse(document: ClipDocument): void {
    this.setRefused([...this.state.getState().refused, { at: this.doors.now(), document }].slice(-HELD));
  }

  private setRefused(refused: readonly Refused[]): void {
    this.state.setState({ refused });
    this.write(`clip-refused:${this.clip}`, refused.length > 0 ? refused : null);
  }

  private hold(document: ClipDocument | null): void {
    this.write(`clip-waiting:${this.clip}`, document ? { revision: this.shown.revision, document } : null);
  }

  /** A full or closed store only costs the safety net: all is here as long as the page is. */
  private write(place: string, value: unknown): void {
    try {
      if (value === null) this.doors.device.removeItem(place);
      else this.doors.device.setItem(place, JSON.stringify(value));
    } catch {
      // Nothing to be done about it.
    }
  }

  private readWaiting(): z.infer<typeof waitingSchema> | null {
    return readHeld(this.doors.device, `clip-waiting:${this.clip}`, waitingSchema);
  }

  private readRefused(): readonly Refused[] {
    return readHeld(this.doors.device, `clip-refused:${this.clip}`, z.array(refusedSchema)) ?? [];
  }
}

/** What the device holds at a place; null where nothing is, or it can't be read. */
function readHeld<T>(device: Pick<Storage, 'getItem'>, place: string, schema: z.ZodType<T>): T | null {
  try {
    const parsed = schema.safeParse(JSON.parse(device.getItem(place) ?? 'null'));
    return parsed.success ? parsed.data : null;
  } catch {
    return null;
  }
}

/** Whether two documents say the same, however they came to be. */
const same = (a: ClipDocument, b: ClipDocument): boolean =>
  JSON.stringify(clipDocumentSchema.parse(a)) === JSON.stringify(clipDocumentSchema.parse(b));
