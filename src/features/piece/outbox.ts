import { applyEdit, type Step } from '@/core/edit';
import type { Piece } from '@/core/score';
import type { OpenPiece, SaveAnswer } from '@/server/pieces';
import type { SaveInput } from '@/server/saving';
import { newId, type Device, type Backlog, type RefusedChange } from './device';
import { Notebook } from './notebook';

export type SaveState = 'saved' | 'saving' | 'offline' | 'stale' | 'gone';

/** A version of this piece that was refused because another was saved first. */
export interface StaleVersion {
  readonly current: OpenPiece;
  readonly refusedId: string;
  /** What was done on the refused version since it was sent: it belongs to it. */
  readonly more: readonly Step[];
  /** The window that left it, where it is not what this one shows. */
  readonly window: string | null;
}

/** What the outbox tells its owner. */
export interface OutboxListener {
  readonly saving: (state: SaveState, message: string | null) => void;
  readonly kept: (kept: boolean) => void;
  readonly stale: (stale: StaleVersion) => void;
  /** The document had to be made anew, with other steps unsent than there were. */
  readonly rebuilt: (document: Piece, unsent: readonly Step[], were: readonly Step[]) => void;
  readonly aside: (aside: RefusedChange) => void;
}

interface QueuedStep {
  readonly step: Step;
  /** The document it made. */
  readonly after: Piece;
}

/** Steps of one save; what is more goes with the next. */
const PORTION = { steps: 200, characters: 1_500_000 } as const;
/** A save goes out after a pause in typing, and where there is none, at the latest after the other. */
const PAUSE_MS = 350;
const LATEST_MS = 2000;
const LONGEST_WAIT_MS = 15_000;
/** A device that would not take what was set aside is asked again after so long. */
const LOOSE_MS = 3000;

const KEPT_HERE = 'No answer from the server. Your work is kept on this device and sent when it answers.';
const REPLACED =
  'A new version of the program is here. Reload this page: your work is kept on this device and sent then.';
const NOT_KEPT =
  'No answer from the server, and this device can’t keep your work: its storage is full or closed. Leave this page open until the server answers, or make room.';

/** How long a device may take to say what it holds: one that never answers must not hold up what is typed. */
const DEVICE_MS = 4000;

/** What a device says, or nothing where it can't or won't. */
const inTime = <T>(answer: Promise<readonly T[]>): Promise<readonly T[]> =>
  Promise.race([
    answer.catch(() => []),
    new Promise<readonly T[]>((resolve) => setTimeout(() => resolve([]), DEVICE_MS)),
  ]);

/** Thrown by a save when the server is of another version than the page, and does not know what it asks. */
export class NewVersion extends Error {}

/**
 * Steps on their way to the server: one save at a time, in order, each on the revision the one before made; noted on
 * the device until it is taken. A step the server refuses is set aside and the rest goes on without it.
 */
export class Outbox {
  private queue: QueuedStep[] = [];
  /** The number of the first step in the queue: they are counted through the window's life. */
  private first = 0;
  private sending: { readonly save: string; readonly count: number } | null = null;
  private most: number = PORTION.steps;
  private failures = 0;
  /** Why nothing is taken: the server does not answer, or answers as another version of the program. */
  private away: 'silent' | 'replaced' = 'silent';
  private unsentSince: number | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private onItsWay: Promise<void> | null = null;
  private state: SaveState = 'saved';
  private kept = true;
  private ready = false;
  /** Set aside, and not on the device yet. */
  private loose: RefusedChange[] = [];
  private looseTimer: ReturnType<typeof setTimeout> | null = null;
  /** What other windows left on other revisions: sent when this one has nothing to send. */
  private foreign: Backlog[] = [];
  private readonly notebook: Notebook;

  constructor(
    private readonly piece: string,
    private base: number,
    /** The document the server has at `base`. */
    private ground: Piece,
    private readonly save: (input: SaveInput) => Promise<SaveAnswer>,
    private readonly device: Device | null,
    private readonly told: OutboxListener,
  ) {
    this.notebook = new Notebook(device, this.standing(), (kept) => {
      this.kept = kept;
      told.kept(kept);
      if (this.state === 'offline') told.saving('offline', this.words());
    });
  }

  /** The revision everything unsent rests on. */
  get revision(): number {
    return this.base;
  }

  get unsent(): boolean {
    return this.queue.length > 0;
  }

  /** Whether leaving now would lose something: there is what was neither sent nor noted on the device. */
  get atRisk(): boolean {
    return (this.queue.length > 0 && !this.kept) || this.loose.length > 0;
  }

  push(step: Step, after: Piece): void {
    this.queue.push({ step, after });
    this.unsentSince ??= Date.now();
    this.note();
    if (this.blocked) return;
    this.say('saving');
    this.schedule(Math.max(0, Math.min(PAUSE_MS, this.unsentSince + LATEST_MS - Date.now())));
  }

  /** Sends what there is; one save on its way at a time: a second answer would set the revision back under the next. */
  flush(): Promise<void> {
    return (this.onItsWay ??= this.send().finally(() => (this.onItsWay = null)));
  }

  /** Takes up what windows left that are gone, and only then begins to send. */
  async recover(): Promise<void> {
    const [owed, aside] = await Promise.all([
      inTime(this.device?.left() ?? Promise.resolve([])),
      inTime(this.device?.aside() ?? Promise.resolve([])),
    ]);
    aside.forEach(this.told.aside);
    for (const left of owed) await this.takeUp(left);
    this.ready = true;
    if (this.queue.length > 0 || this.foreign.length > 0) this.schedule(0);
  }

  /** Looks again whether a piece that was gone is there: it may have been put back on the shelf. */
  resume(): void {
    if (this.state !== 'gone') return;
    this.say(this.queue.length > 0 ? 'saving' : 'saved');
    this.schedule(0);
  }

  /** Goes on from a version that was saved by someone else; what was unsent belongs to the version that was refused. */
  goOn({ document, revision }: OpenPiece): void {
    this.base = revision;
    this.ground = document;
    this.replace([]);
    this.note();
    this.state = 'saved';
    this.say('saved');
    this.schedule(0);
  }

  /** A version another window left has been decided about. */
  async settled(window: string): Promise<void> {
    this.foreign = this.foreign.filter((one) => one.window !== window);
    await this.device?.forget(window).catch(() => undefined);
    this.state = 'saved';
    this.say(this.queue.length > 0 ? 'saving' : 'saved');
    this.schedule(0);
  }

  /** Steps that were done after those on their way. */
  later(): Step[] {
    return this.queue.slice(this.sending?.count ?? 0).map(({ step }) => step);
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    if (this.looseTimer) clearTimeout(this.looseTimer);
    this.notebook.close();
  }

  private words(): string {
    if (!this.kept) return NOT_KEPT;
    return this.away === 'replaced' ? REPLACED : KEPT_HERE;
  }

  private get blocked(): boolean {
    return this.state === 'stale' || this.state === 'gone';
  }

  private standing() {
    return { base: this.base, sending: this.sending, first: this.first, steps: this.queue.map(({ step }) => step) };
  }

  private note(): void {
    this.kept = this.queue.length === 0;
    void this.notebook.keep(this.standing());
  }

  private say(state: SaveState, message: string | null = null): void {
    this.state = state;
    this.told.saving(state, message);
  }

  private schedule(wait: number): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), wait);
  }

  /** How many of the first steps go with one save. */
  private portion(): number {
    let characters = 0;
    let count = 0;
    for (const { step } of this.queue.slice(0, this.most)) {
      characters += JSON.stringify(step).length;
      if (count > 0 && characters > PORTION.characters) break;
      count++;
    }
    return count;
  }

  private async send(): Promise<void> {
    if (this.blocked || !this.ready) return;
    if (!this.sending) {
      if (this.queue.length === 0) return this.sendForeign();
      this.sending = { save: newId(), count: this.portion() };
      this.unsentSince = null;
      this.note();
    }
    const { save, count } = this.sending;
    const steps = this.queue.slice(0, count).map(({ step }) => step);
    let answer: SaveAnswer;
    try {
      answer = await this.save({ piece: this.piece, base: this.base, save, steps });
    } catch (reason) {
      this.failures++;
      this.away = reason instanceof NewVersion ? 'replaced' : 'silent';
      this.say('offline', this.words());
      this.schedule(Math.min(LONGEST_WAIT_MS, 500 * 2 ** this.failures));
      return;
    }
    this.failures = 0;
    await this.answered(answer, count);
  }

  private async answered(answer: SaveAnswer, count: number): Promise<void> {
    switch (answer.status) {
      case 'saved':
        this.base = answer.revision;
        this.ground = this.queue[count - 1]?.after ?? this.ground;
        this.queue = this.queue.slice(count);
        this.first += count;
        this.sending = null;
        this.most = PORTION.steps;
        this.note();
        this.say(this.queue.length > 0 ? 'saving' : 'saved');
        if (this.queue.length > 0 || this.foreign.length > 0) this.schedule(0);
        return;
      case 'stale':
        this.say('stale');
        return this.told.stale({
          current: answer.current,
          refusedId: answer.refusedId,
          more: this.later(),
          window: null,
        });
      case 'gone':
        return this.say('gone', answer.message);
      case 'rejected':
        // Which of them it is shows by sending fewer.
        if (answer.step === null && count > 1) this.most = Math.ceil(count / 2);
        else await this.drop(answer.step ?? 0, answer.message);
        this.sending = null;
        this.note();
        this.say(this.queue.length > 0 ? 'saving' : 'saved');
        this.schedule(0);
    }
  }

  /** Sets a step aside and makes the document anew without it. */
  private async drop(index: number, why: string): Promise<void> {
    const bad = this.queue[index];
    if (!bad) return;
    const rest = this.queue.filter((one) => one !== bad).map(({ step }) => step);
    await this.putAside(bad.step, why);
    await this.rebuild(rest, `It rests on a change that could not be kept (${bad.step.what}).`);
  }

  private async putAside(step: Step, why: string): Promise<void> {
    const aside = { id: newId(), step, why };
    this.told.aside(aside);
    this.loose.push(aside);
    await this.keepLoose();
  }

  /** Writes what was set aside on the device; where it can't be, it is tried again, and leaving asks until then. */
  private async keepLoose(): Promise<void> {
    for (const aside of [...this.loose]) {
      try {
        if (!this.device) return;
        await this.device.setAside(aside);
        this.loose = this.loose.filter((one) => one !== aside);
      } catch {
        this.looseTimer ??= setTimeout(() => {
          this.looseTimer = null;
          void this.keepLoose();
        }, LOOSE_MS);
        return;
      }
    }
  }

  /** Somebody decided about a change that was set aside. */
  async dropAside(id: string): Promise<void> {
    this.loose = this.loose.filter((one) => one.id !== id);
    await this.device?.dropAside(id).catch(() => undefined);
  }

  /** The queue made of steps laid on what the server has; one that can't be made any more is set aside. */
  private async rebuild(steps: readonly Step[], why: string): Promise<void> {
    let document = this.ground;
    const queue: QueuedStep[] = [];
    const fallen: Step[] = [];
    for (const step of steps) {
      const next = applyEdit(document, step.edit);
      if (next.ok) queue.push({ step, after: (document = next.value) });
      else fallen.push(step);
    }
    const were = this.queue.map(({ step }) => step);
    this.replace(queue);
    this.told.rebuilt(
      document,
      queue.map(({ step }) => step),
      were,
    );
    for (const step of fallen) if (step.kind !== 'follow') await this.putAside(step, why);
  }

  /** Another queue, under numbers of its own. */
  private replace(queue: QueuedStep[]): void {
    this.first += this.queue.length;
    this.queue = queue;
    this.sending = null;
    this.unsentSince = queue.length > 0 ? Date.now() : null;
  }

  /** What a window left: done again on top where nothing was saved since, else sent as it was to be decided about. */
  private async takeUp(owed: Backlog): Promise<void> {
    const landed = owed.sending !== null && this.base === owed.base + owed.sending.count;
    const fits = owed.base === this.base || landed;
    if (!fits || this.sending || this.foreign.length > 0) {
      this.foreign.push(owed);
      return;
    }
    let { sending, steps } = owed;
    if (landed && sending) {
      // Only the server knows whether it was this save that made the revision.
      const batch = steps.slice(0, sending.count);
      const answer = await this.save({ piece: this.piece, base: owed.base, save: sending.save, steps: batch }).catch(
        () => null,
      );
      if (answer?.status !== 'saved') {
        this.foreign.push(owed);
        return;
      }
      steps = steps.slice(sending.count);
      sending = null;
    }
    await this.rebuild([...steps, ...this.queue.map(({ step }) => step)], 'It does not fit this version.');
    this.sending = sending;
    this.kept = false;
    await this.notebook.keep(this.standing());
    if (this.kept || this.queue.length === 0) await this.device?.forget(owed.window).catch(() => undefined);
    if (this.queue.length > 0) this.say('saving');
  }

  /** Sends what another window left, on its own revision and under the same names however often it is tried. */
  private async sendForeign(): Promise<void> {
    const [owed] = this.foreign;
    if (!owed) return;
    let { base, sending, steps } = owed;
    for (let part = 0; steps.length > 0; part++) {
      const count = sending?.count ?? Math.min(PORTION.steps, steps.length);
      const save: string = sending?.save ?? `${owed.window.replace(/[^\w-]/g, '-').slice(0, 44)}-part${part}`;
      const batch = steps.slice(0, count);
      const answer = await this.save({ piece: this.piece, base, save, steps: batch }).catch(() => null);
      if (!answer || answer.status === 'gone') return;
      if (answer.status === 'stale') {
        this.say('stale');
        const more = steps.slice(count);
        return this.told.stale({ current: answer.current, refusedId: answer.refusedId, more, window: owed.window });
      }
      if (answer.status === 'saved') base = answer.revision;
      else for (const step of batch) await this.putAside(step, answer.message);
      steps = steps.slice(count);
      sending = null;
    }
    await this.settled(owed.window);
  }
}
