export type * from './types';
export { ADULT_HAND, DEFAULT_COSTS, DEFAULT_OPTIONS } from './profile';
export { positionsOf } from './positions';
export { solve, bestWay, type Solution } from './solve';
export { bestWays } from './ways';
export { alternativesFor, priced, type Alternative, type Priced } from './alternatives';
export { explainDifference, explainEvent, termWords } from './explain';
export { problemOf, proposals } from './riff';
export { placeRiff } from './place-riff';
