import type { CostTable, PlaceOptions, Profile } from './types';

/** An adult hand, mm between press points. Source: the project's engine plan, section 5. */
export const ADULT_HAND: Profile = {
  comfortable: { '12': 40, '23': 33, '34': 36, '13': 70, '24': 66, '14': 100 },
  maximal: { '12': 65, '23': 50, '34': 55, '13': 100, '24': 95, '14': 135 },
  barre: [12, 2, 3, 2],
  fingers: [1, 2, 3, 4],
};

/**
 * The default weights, in "one easy press of the index" = about 0.1. They let a phrase stay in one
 * hand position where it can, prefer the middle of the neck to the first frets, and use open
 * strings mostly as thick pedals.
 */
export const DEFAULT_COSTS: CostTable = {
  stretch: 0.002,
  finger: [0.1, 0.12, 0.18, 0.32],
  spread: 0.35,
  bunched: 0.12,
  barre: [0.4, 1.1, 0.6, 1],
  barreString: 0.06,
  gap: 1.3,
  open: 0.24,
  openGrip: 1.2,
  dull: 0.08,
  zone: 0.025,
  far: 0.5,
  wish: 0.4,
  travel: 0.03,
  blindShift: 0.6,
  jump: 0.8,
  roll: 0.28,
  drag: 0.45,
  cross: 0.12,
};

export const DEFAULT_OPTIONS: PlaceOptions = { profile: ADULT_HAND, costs: DEFAULT_COSTS, openLiking: 0, wishedHand: null };
