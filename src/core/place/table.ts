import { holdCost } from './hold';
import { isBound, moveAllowed, moveCost } from './move';
import { settled, type Solution } from './solve';
import type { Term } from './types';

/** A state of the search as it is written out: one entry a voice; frets from the nut. */
export interface TabledState {
  readonly strings: readonly number[];
  readonly frets: readonly number[];
  readonly fingers: readonly number[];
  readonly hand: number;
  readonly free: boolean;
  readonly hold: number;
  readonly terms: readonly Term[];
}

export interface TabledEvent {
  readonly id: string;
  readonly states: readonly TabledState[];
  /** Cost of every move that may be made from the event before: [state before, state here, cost]. */
  readonly moves: readonly (readonly [number, number, number])[];
}

/** Events of which everything can be written out: the moves grow with the square of the states. */
export const TABLE_EVENTS = 48;

/**
 * Every state of every event with its cost, and every move that may be made with its cost: all
 * there is to find, so that anyone can check outside the program that no path is cheaper.
 */
export function tableOf(given: Solution): TabledEvent[] {
  const solution = settled(given);
  const { neck, layers, problem } = solution;
  return layers.map((layer, i): TabledEvent => {
    const states = layer.deck.states.map((state): TabledState => {
      const terms: Term[] = [];
      const hold = holdCost(neck, layer.slice, state, terms);
      return {
        strings: state.strings,
        frets: state.frets,
        fingers: state.fingers,
        hand: state.hand,
        free: state.free,
        hold,
        terms,
      };
    });
    const before = layers[i - 1];
    const moves: [number, number, number][] = [];
    before?.deck.states.forEach((from, a) =>
      layer.deck.states.forEach((to, b) => {
        if ((isBound(layer.slice) || to.free) && !moveAllowed(layer.slice, from, to)) return;
        moves.push([a, b, moveCost(neck, layer.frame, before.deck, a, layer.deck, b)]);
      }),
    );
    return { id: problem.events[layer.slice.event]?.id ?? '', states, moves };
  });
}
