import { ADULT_HAND, DEFAULT_COSTS } from '../hand';
import type { PlaceOptions } from './types';

/** An adult hand, the program's own weights, no wishes. */
export const DEFAULT_OPTIONS: PlaceOptions = {
  profile: ADULT_HAND,
  costs: DEFAULT_COSTS,
  openLiking: 0,
  wishedHand: null,
};
