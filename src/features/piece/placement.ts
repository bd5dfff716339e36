import { wrap, type Remote } from 'comlink';
import type { StoreApi } from 'zustand/vanilla';
import type { Setup } from '@/core/instrument';
import type { Alternative } from '@/core/place';
import type { Part, Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import type { PlaceDoor, Placement, WayAnswer } from '@/workers/place.worker';
import type { PieceState } from './store';

/** Milliseconds that let the browser paint before work is handed out; also gathers quick keys. */
const AFTER_PAINT = 35;

/**
 * Keeps the solver's proposals in step with the piece: after an edit the riffs it touched are
 * solved again in a worker, one at a time, newest first; an answer to a riff that has changed
 * meanwhile is dropped. Undo and redo bring proposals back by themselves and are only looked at.
 */
export class PlacementKeeper {
  private readonly worker: Worker;
  private readonly door: Remote<PlaceDoor>;
  private readonly known = new WeakSet<Riff>();
  private readonly waiting = new Map<string, boolean>();
  private busy = false;
  private turn = 0;
  private asked: Promise<unknown> = Promise.resolve();
  private readonly versions = new WeakMap<Riff, number>();
  private lastVersion = 0;
  private timed: readonly TempoStep[] | null = null;
  private readonly stop: () => void;
  /** Answers by riff object, for hands and findings. */
  private readonly answers = new WeakMap<Riff, Placement>();

  constructor(private readonly store: StoreApi<PieceState>, private readonly onAnswer: () => void) {
    this.worker = new Worker(new URL('../../workers/place.worker.ts', import.meta.url), { type: 'module' });
    this.door = wrap<PlaceDoor>(this.worker);
    for (const part of store.getState().document.parts) for (const riff of part.riffs) this.known.add(riff);
    this.stop = store.subscribe((state, before) => {
      if (state.document === before.document) return;
      const travelled = state.history.undo.length < before.history.undo.length || state.history.redo.length < before.history.redo.length;
      const timed = state.document.lanes.tempo !== before.document.lanes.tempo;
      for (const part of state.document.parts) {
        for (const riff of part.riffs) {
          if (this.known.has(riff) && !timed) continue;
          this.known.add(riff);
          this.ask(riff.id, !travelled);
        }
      }
    });
  }

  /** Asks for a riff; `apply` false only looks (for findings), true lets proposals follow. */
  ask(riffId: string, apply: boolean): void {
    // The newest word counts: after an undo the proposals it brought back stand.
    this.waiting.set(riffId, apply);
    if (this.busy) return;
    this.busy = true;
    // Handing a long riff to the worker takes longer than a frame may: what was typed is painted first.
    setTimeout(() => void this.work(), AFTER_PAINT);
  }

  /** Asks for findings only, unless a question about this riff is waiting already. */
  look(riffId: string): void {
    if (!this.waiting.has(riffId)) this.ask(riffId, false);
  }

  answerTo(riff: Riff): Placement | null {
    return this.answers.get(riff) ?? null;
  }

  /**
   * Prices the places of one note. Only the newest question is asked once the worker is free:
   * null for those that another overtook.
   */
  async alternatives(riff: Riff, setup: Setup, tempo: readonly TempoStep[], event: number, note: number): Promise<Alternative[] | null> {
    const turn = ++this.turn;
    await Promise.all([this.asked, new Promise((resolve) => setTimeout(resolve, AFTER_PAINT))]);
    if (turn !== this.turn) return null;
    let version = this.versions.get(riff);
    if (version === undefined || this.timed !== tempo) {
      version = ++this.lastVersion;
      this.versions.set(riff, version);
      this.timed = tempo;
    }
    const answer = this.door.alternatives(riff, setup, tempo, version, event, note);
    this.asked = answer.catch(() => null);
    return answer;
  }

  /** A few differing ways of playing chosen events. */
  ways(riff: Riff, setup: Setup, tempo: readonly TempoStep[], chosen: readonly string[]): Promise<WayAnswer[]> {
    return this.door.ways(riff, setup, tempo, chosen, 4);
  }

  private find(riffId: string): { part: Part; riff: Riff } | null {
    for (const part of this.store.getState().document.parts) {
      const riff = part.riffs.find((r) => r.id === riffId);
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
      const placement = await this.door.solve(riff, part.setup, this.store.getState().document.lanes.tempo).catch(() => null);
      if (placement === null || this.find(riffId)?.riff !== riff) continue;
      this.answers.set(riff, placement);
      if (apply && placement.changes.length > 0) {
        this.store.getState().follow({ type: 'proposePlaces', part: part.id, riff: riff.id, places: placement.changes });
        const changed = this.find(riffId)?.riff;
        if (changed) {
          this.known.add(changed);
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
