import equal from 'fast-deep-equal';
import type { Part, Piece, Riff } from '@/core/score';

/**
 * A piece on its way to the check: riffs that were sent before go by their number. Put together again, what did not
 * change is the same object as before, so that rules need not read it anew.
 */
export interface SentPiece {
  readonly frame: Omit<Piece, 'parts'>;
  readonly parts: readonly { readonly part: Omit<Part, 'riffs'>; readonly riffs: readonly (number | SentRiff)[] }[];
}
export interface SentRiff {
  readonly version: number;
  readonly riff: Riff;
}

/** The sending side: numbers riffs, and sends each once. */
export class CheckSender {
  private readonly versions = new WeakMap<Riff, number>();
  private known: ReadonlySet<number> = new Set();
  private last = 0;

  send({ parts, ...frame }: Piece): SentPiece {
    const now = new Set<number>();
    const sent = parts.map(({ riffs, ...part }) => ({
      part,
      riffs: riffs.map((riff): number | SentRiff => {
        const version = this.versions.get(riff) ?? ++this.last;
        this.versions.set(riff, version);
        now.add(version);
        return this.known.has(version) ? version : { version, riff };
      }),
    }));
    this.known = now;
    return { frame, parts: sent };
  }
}

/** The receiving side. */
export class CheckMemory {
  private riffs = new Map<number, Riff>();
  private piece: Piece | null = null;

  /** Throws where a riff goes by a number that was never sent. */
  receive({ frame, parts }: SentPiece): Piece {
    const riffs = new Map<number, Riff>();
    const before = this.piece;
    const made = parts.map(({ part, riffs: sent }): Part => {
      const own = sent.map((one) => {
        const version = typeof one === 'number' ? one : one.version;
        const riff = typeof one === 'number' ? this.riffs.get(one) : one.riff;
        if (!riff) throw new Error(`riff ${version} was never sent`);
        riffs.set(version, riff);
        return riff;
      });
      const same = before?.parts.find((one) => one.id === part.id);
      if (!same) return { ...part, riffs: own };
      const { riffs: old, ...rest } = same;
      if (equal(rest, part) && old.length === own.length && old.every((riff, i) => riff === own[i])) return same;
      return { ...shared(rest, part), riffs: own };
    });
    this.riffs = riffs;
    const kept = before ? shared({ ...before, parts: [] }, { ...frame, parts: [] } as Piece) : frame;
    const list =
      before && before.parts.length === made.length && before.parts.every((one, i) => one === made[i])
        ? before.parts
        : made;
    this.piece = { ...kept, parts: list } as Piece;
    return this.piece;
  }
}

/** The later value with those fields of the earlier that are equal, as the same objects. */
function shared<Value extends object>(earlier: Value, later: Value): Value {
  const out = { ...later } as Record<string, unknown>;
  for (const [name, value] of Object.entries(earlier)) if (name in out && equal(value, out[name])) out[name] = value;
  return out as Value;
}
