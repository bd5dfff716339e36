import { randomUUID } from 'node:crypto';
import { ok, fail } from '@/core/base';
import { applyEdit, readEdit, type Step } from '@/core/edit';
import { makePiece, type Piece } from '@/core/score';
import type { RefusedId } from '@/server/ids';
import type { OpenPiece, SaveAnswer } from '@/server/pieces';
import type { LoggedStep } from '@/server/repositories/history';
import type { SaveInput } from '@/server/saving';
import type { Device, Note, Backlog, RefusedChange } from '../device';
import { createPieceStore, type Server } from '../store';

/** A server, a device and windows on one piece, with everything that can go wrong between them in the test's hands. */

/** Keeps a piece by the same rules as the real one: `server.test.ts` holds that one to them. */
export class FakeServer {
  document: Piece;
  revision = 0;
  readonly log: LoggedStep[] = [];
  readonly refused = new Map<string, Piece>();
  /** Pieces made of refused versions. */
  readonly pieces: Piece[] = [];
  readonly sent: SaveInput[] = [];
  /** What happens to a call: it arrives, it does not, or its answer gets lost on the way back. */
  line: () => 'up' | 'down' | 'answer-lost' = () => 'up';
  /** Whether a step is one the server won't keep. */
  refuses: (step: Step) => string | null = () => null;
  /** How long an answer takes, in milliseconds. */
  slow = 0;
  gone = false;
  private readonly saves = new Map<string, { readonly revision: number }>();
  private readonly versions: Piece[];

  constructor(first: Piece = makePiece('p1', 'Start')) {
    this.document = first;
    this.versions = [first];
  }

  open(): OpenPiece {
    const last = this.log.filter((step) => step.kind !== 'follow').at(-1);
    return {
      document: this.document,
      revision: this.revision,
      last: last ? { what: last.what, kind: last.kind } : null,
      asked: null,
    };
  }

  private async over<T>(does: () => T): Promise<T> {
    const line = this.line();
    if (this.slow > 0) await new Promise((resolve) => setTimeout(resolve, this.slow));
    if (line === 'down') throw new Error('no connection');
    const answer = does();
    if (line === 'answer-lost') throw new Error('the answer got lost');
    return structuredClone(answer);
  }

  readonly doors: Server = {
    save: (input) => this.over(() => this.save(structuredClone(input))),
    settle: (refusedId, keep, more) =>
      this.over(() => {
        const version = this.refused.get(refusedId);
        if (!version) return fail('no-refused', 'not kept', refusedId);
        let document = version;
        for (const step of more) {
          const next = applyEdit(document, step.edit);
          if (next.ok) document = next.value;
        }
        this.refused.set(refusedId, document);
        if (!keep) return ok(null);
        this.pieces.push(document);
        return ok(`/pieces/mine${this.pieces.length}`);
      }),
    history: (_, upTo) => this.over(() => this.log.filter((step) => step.revision <= upTo).slice(-3)),
  };

  /** Another window's save: the revision moves on. */
  byOther(step: Step): void {
    this.take([step]);
  }

  private take(steps: readonly Step[]): void {
    for (const step of steps) {
      const next = applyEdit(this.document, step.edit);
      if (!next.ok) throw new Error(next.error.words);
      this.document = next.value;
      this.versions.push(next.value);
      this.log.push({ ...step, revision: ++this.revision, madeAt: '' });
    }
  }

  private save(input: SaveInput): SaveAnswer {
    this.sent.push(input);
    if (this.gone) return { status: 'gone', message: 'not on the shelf' };
    const known = this.saves.get(input.save);
    if (known) return { status: 'saved', revision: known.revision };
    for (const [step, { edit }] of input.steps.entries()) {
      const why = this.refuses(input.steps[step] as Step) ?? (readEdit(edit).ok ? null : 'schema');
      if (why) return { status: 'rejected', message: why, step };
    }
    const then = this.versions[input.base];
    let mine = then;
    for (const [step, { edit }] of input.steps.entries()) {
      const next = mine && applyEdit(mine, edit);
      if (!next?.ok) return { status: 'rejected', message: next?.error.words ?? 'no such version', step };
      mine = next.value;
    }
    if (input.base !== this.revision) {
      if (mine) this.refused.set(input.save, mine);
      return { status: 'stale', current: this.open(), refusedId: input.save as RefusedId };
    }
    this.take(input.steps);
    this.saves.set(input.save, { revision: this.revision });
    return { status: 'saved', revision: this.revision };
  }
}

/** A device that windows share, and that can be full. */
export class FakeDevice {
  full = false;
  readonly windows = new Map<string, { base: number; sending: Backlog['sending']; steps: Map<number, Step> }>();
  readonly asides = new Map<string, RefusedChange>();
  readonly alive = new Set<string>();

  window(name: string): Device {
    this.alive.add(name);
    const room = (): void => {
      if (this.full) throw new DOMException('no room', 'QuotaExceededError');
    };
    return {
      note: async ({ base, sending, from, steps, done, owes }: Note) => {
        await Promise.resolve();
        room();
        const kept = this.windows.get(name)?.steps ?? new Map<number, Step>();
        for (const number of [...kept.keys()]) if (number < done) kept.delete(number);
        steps.forEach((step, i) => kept.set(from + i, structuredClone(step)));
        if (owes) this.windows.set(name, { base, sending, steps: kept });
        else this.windows.delete(name);
      },
      left: () =>
        Promise.resolve(
          [...this.windows]
            .filter(([window]) => !this.alive.has(window))
            .map(([window, { base, sending, steps }]) => ({
              window,
              base,
              sending,
              steps: [...steps].sort(([a], [b]) => a - b).map(([, step]) => structuredClone(step)),
            })),
        ),
      forget: (window) => Promise.resolve(void this.windows.delete(window)),
      aside: () => Promise.resolve([...this.asides.values()]),
      setAside: async (aside) => {
        await Promise.resolve();
        room();
        this.asides.set(aside.id, structuredClone(aside));
      },
      dropAside: (id) => Promise.resolve(void this.asides.delete(id)),
    };
  }

  /** The window is killed: what it had not noted is gone with it. */
  kill(name: string): void {
    this.alive.delete(name);
  }

  /** All steps that are held for windows that are gone or here. */
  held(): Step[] {
    return [...this.windows.values()].flatMap(({ steps }) => [...steps.values()]);
  }
}

/** A window on the piece: its store, begun as a page does. */
export function openWindow(server: FakeServer, device: FakeDevice | null, name: string = randomUUID()) {
  const store = createPieceStore(server.open(), server.doors, device?.window(name) ?? null);
  void store.getState().recover();
  return {
    name,
    store,
    get state() {
      return store.getState();
    },
    kill: () => {
      store.getState().close();
      device?.kill(name);
    },
  };
}
