import { wrap, type Remote } from 'comlink';
import type { StoreApi } from 'zustand/vanilla';
import { optionsFor, type Blocked, type BlockedWithMends } from '@/core/place';
import { tempoOf, type Part, type Piece, type Player, type Riff } from '@/core/score';
import type {
  HandAnswer,
  PhraseAnswer,
  PlaceDoor,
  Placement,
  WayAnswer,
  WayPlace,
  Weighed,
  WhyAnswer,
} from '@/workers/place.worker';
import type { Asked, Task } from '@/workers/place-tasks';
import { sameConditions, TaskBriefs } from './task-briefs';
import type { PieceState } from './store';

/** Milliseconds after which work is handed out though nothing was painted: a page out of sight is not. */
const UNSEEN = 120;

/** Milliseconds between keys that are not read in between. */
const HURRIED = 220;

/** Resolves once what was typed has been painted; also gathers quick keys. */
function painted(): Promise<void> {
  return new Promise((resolve) => {
    const late = setTimeout(resolve, UNSEEN);
    requestAnimationFrame(() =>
      setTimeout(() => {
        clearTimeout(late);
        resolve();
      }),
    );
  });
}

type Conditions = Omit<Task, 'riff' | 'version'>;

/** Everything a riff is placed under, beside the riff. */
const conditionsOf = (document: Piece, part: Part, riff: Riff): Conditions => ({
  setup: part.setup,
  tempo: tempoOf(document, riff),
  options: optionsFor(document, part),
});

/**
 * Keeps the solver's proposals in step with the piece: after an edit the riffs it touched are
 * solved again in a worker, one at a time, newest first; an answer to a riff that has changed
 * meanwhile is dropped. Undo and redo bring proposals back by themselves and are only looked at.
 */
export class PlacementKeeper {
  private readonly worker: Worker;
  private readonly door: Remote<PlaceDoor>;
  /** What each riff was last placed under, and the number that question goes by. */
  private readonly known = new WeakMap<Riff, Conditions & { readonly version: number }>();
  private readonly waiting = new Map<string, boolean>();
  private busy = false;
  /** The riff being solved now. */
  private current: string | null = null;
  private turn = 0;
  private lastWeighed = -Infinity;
  private asked: Promise<unknown> = Promise.resolve();
  private lastVersion = 0;
  private readonly briefs = new TaskBriefs();
  private readonly stop: () => void;
  /** Answers by riff object, for hands and findings. */
  private readonly answers = new WeakMap<Riff, Placement>();

  constructor(
    private readonly store: StoreApi<PieceState>,
    private readonly onAnswer: () => void,
  ) {
    this.worker = new Worker(new URL('../../workers/place.worker.ts', import.meta.url), { type: 'module' });
    this.door = wrap<PlaceDoor>(this.worker);
    const { document } = store.getState();
    for (const part of document.parts) for (const riff of part.riffs) this.remember(document, part, riff);
    this.stop = store.subscribe((state, before) => {
      if (state.document === before.document) return;
      const travelled =
        state.history.undo.length < before.history.undo.length ||
        state.history.redo.length < before.history.redo.length;
      for (const part of state.document.parts) {
        for (const riff of part.riffs) {
          const known = this.known.get(riff);
          if (known && sameConditions(known, conditionsOf(state.document, part, riff))) continue;
          this.remember(state.document, part, riff);
          this.ask(riff.id, !travelled);
        }
      }
    });
  }

  /** Asks for a riff; `apply` false only looks (for findings), true lets proposals follow. */
  ask(riffId: string, apply: boolean): void {
    // The newest word counts: after an undo the proposals it brought back stand.
    this.waiting.set(riffId, apply);
    // What is being worked out for this riff is stale already.
    if (this.current === riffId) void this.door.stop();
    if (this.busy) return;
    this.busy = true;
    void painted().then(() => this.work());
  }

  /** Asks for findings only, unless a question about this riff is waiting already. */
  look(riffId: string): void {
    if (!this.waiting.has(riffId)) this.ask(riffId, false);
  }

  answerTo(riff: Riff): Placement | null {
    return this.answers.get(riff) ?? null;
  }

  /**
   * A riff as a question to the worker; its version changes with the riff, and with tempo, set-up, hand and weights.
   */
  private task(riff: Riff, player: Player | null | undefined = undefined): Task | null {
    const { document } = this.store.getState();
    const part = document.parts.find((part) => part.riffs.includes(riff));
    if (!part) return null;
    const { version, ...conditions } = this.remember(document, part, riff);
    if (player === undefined) return { riff, ...conditions, version };
    const options = optionsFor(document, { player: player ?? undefined });
    return { riff, ...conditions, options, version: ++this.lastVersion };
  }

  /** What a riff is placed under now, with its number: a new one where anything of it changed. */
  private remember(document: Piece, part: Part, riff: Riff): Conditions & { readonly version: number } {
    const conditions = conditionsOf(document, part, riff);
    const known = this.known.get(riff);
    if (known && sameConditions(known, conditions)) return known;
    const made = { ...conditions, version: ++this.lastVersion };
    this.known.set(riff, made);
    return made;
  }

  /** Asks the worker about a riff; null where the riff is not in the piece any more. */
  private async about<T>(riff: Riff, question: (task: Asked) => Promise<T>): Promise<T | null> {
    const task = this.task(riff);
    return task ? question(this.briefs.brief(task)) : null;
  }

  /**
   * Prices the places of one note. Only the newest question is asked once the worker is free:
   * null for those that another overtook. While keys follow one another quickly none is asked: the
   * prices would be gone before they are read, and the work would be in the way of the keys.
   */
  async alternatives(riff: Riff, event: number, note: number): Promise<Weighed | null> {
    const turn = ++this.turn;
    const hurried = performance.now() - this.lastWeighed < HURRIED;
    this.lastWeighed = performance.now();
    await Promise.all([this.asked, hurried ? new Promise((resolve) => setTimeout(resolve, HURRIED)) : painted()]);
    if (turn !== this.turn) return null;
    const answer = this.about(riff, (task) => this.door.alternatives(task, event, note));
    this.asked = answer.catch(() => null);
    return answer;
  }

  /** A few differing ways of playing chosen events. */
  ways = (riff: Riff, chosen: readonly string[]): Promise<WayAnswer[] | null> =>
    this.about(riff, (task) => this.door.ways(task, chosen, 4));
  mixed = (riff: Riff, places: readonly WayPlace[]): Promise<ReturnType<PlaceDoor['mixed']> | null> =>
    this.about(riff, (task) => this.door.mixed(task, places));
  why = (riff: Riff, event: number): Promise<WhyAnswer | null> =>
    this.about(riff, (task) => this.door.why(task, event));
  phrases = (riff: Riff, only: string | null): Promise<PhraseAnswer[] | null> =>
    this.about(riff, (task) => this.door.phrases(task, only));
  mends = (riff: Riff, blocked: Blocked): Promise<BlockedWithMends | null> =>
    this.about(riff, (task) => this.door.mends(task, blocked));

  /** The riff as another hand would be given it; null stands for an adult hand. */
  async hand(riff: Riff, player: Player | null): Promise<HandAnswer | null> {
    const task = this.task(riff, player);
    return task ? this.door.hand(task) : null;
  }

  private find(riffId: string): { part: Part; riff: Riff } | null {
    for (const part of this.store.getState().document.parts) {
      const riff = part.riffs.find((riff) => riff.id === riffId);
      if (riff) return { part, riff };
    }
    return null;
  }

  private async work(): Promise<void> {
    for (;;) {
      const next = [...this.waiting].at(-1);
      if (!next) break;
      const [riffId, apply] = next;
      this.waiting.delete(riffId);
      const found = this.find(riffId);
      if (!found) continue;
      const { part, riff } = found;
      // A riff the worker stumbles over is left as it is; the others go on being placed.
      this.current = riffId;
      const placement = await this.about(riff, (task) => this.door.solve(task)).catch(() => null);
      this.current = null;
      if (placement === null || this.find(riffId)?.riff !== riff) continue;
      this.answers.set(riff, placement);
      if (apply && placement.changes.length > 0) {
        this.store
          .getState()
          .follow({ type: 'proposePlaces', part: part.id, riff: riff.id, places: placement.changes });
        const changed = this.find(riffId)?.riff;
        if (changed) {
          this.remember(this.store.getState().document, part, changed);
          this.waiting.delete(riffId);
          this.answers.set(changed, { ...placement, changes: [] });
        }
      }
      this.onAnswer();
    }
    this.busy = false;
  }

  close(): void {
    this.stop();
    this.worker.terminate();
  }
}
