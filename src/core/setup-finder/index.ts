export type * from './types';
export { candidatesFor } from './candidates';
export { findSetup, finding, type FinderProgress } from './find';
export { foundClues, type FoundClue } from './found';
export { findingPair, ringWords, type Combined, type Pair, type PairAnswer } from './pairs';
export { questionOf, type Asked } from './question';
