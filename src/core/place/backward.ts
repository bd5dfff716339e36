import { isBound, moveAllowed, moveParts, travelCost } from './move';
import type { Neck } from './neck';
import type { Layer } from './search';

/** Least cost of everything after each state of a layer, and the next state on that path. */
export interface Ahead {
  readonly cost: Float64Array;
  readonly next: Int32Array;
}

/**
 * What lies ahead of every state of every layer. Needs of a layer what it asks and its states, not what came before.
 */
export function backward(neck: Neck, layers: readonly Layer[]): Ahead[] {
  const ahead: Ahead[] = new Array<Ahead>(layers.length);
  lookBack(neck, layers, ahead, layers.length, 0);
  return ahead;
}

/** Fills in what lies ahead for the layers before `known`, down to `to`; from `known` on it is there already. */
export function lookBack(neck: Neck, layers: readonly Layer[], ahead: Ahead[], known: number, to: number): void {
  for (let i = known - 1; i >= to; i--) {
    const layer = layers[i];
    if (layer) ahead[i] = aheadOf(neck, layer, layers[i + 1], ahead[i + 1]);
  }
}

function aheadOf(neck: Neck, layer: Layer, after: Layer | undefined, beyond: Ahead | undefined): Ahead {
  const { states } = layer.deck;
  const cost = new Float64Array(states.length);
  const next = new Int32Array(states.length).fill(-1);
  if (!after || !beyond) return { cost, next };
  const entry = Float64Array.from(after.deck.states, (_, s) => (after.hold[s] ?? 0) + (beyond.cost[s] ?? Infinity));
  const order = [...entry.keys()].sort((a, b) => (entry[a] ?? 0) - (entry[b] ?? 0));
  const bound = isBound(after.slice);
  for (let a = 0; a < states.length; a++) {
    let least = Infinity;
    for (const b of order) {
      const rest = entry[b] ?? Infinity;
      if (rest >= least) break;
      const near = rest + travelCost(after.frame, layer.deck, a, after.deck, b);
      if (near >= least) continue;
      const from = states[a];
      const to = after.deck.states[b];
      if (!from || !to || ((bound || to.free) && !moveAllowed(after.slice, from, to))) continue;
      const total = near + moveParts(neck.costs, after.frame, layer.deck, a, after.deck, b, neck.terms);
      if (total < least) {
        least = total;
        next[a] = b;
      }
    }
    cost[a] = least;
  }
  return { cost, next };
}
