export type * from './types';
export { DEFAULT_OPTIONS } from './options';
export { harmonicsOf, positionsOf } from './positions';
export { solve, solving, bestWay, wayOf, type Solution } from './solve';
export { ended } from './search';
export { bestWays } from './ways';
export { differing, LOOKED_THROUGH, wayFacts, type WayFacts } from './facts';
export { alternativesFor, priced, type Alternative, type Priced } from './alternatives';
export { explainDifference, explainEvent, termWords } from './explain';
export { optionsFor, placeLink, problemOf, proposals } from './riff';
export { inWay, placeRiff } from './place-riff';
export { placePiece } from './place-piece';
export { clashOf } from './clash';
export { mendsOf, type BlockedWithMends, type Mend } from './mends';
export {
  phrasesOf,
  viewOf,
  type Anchor,
  type AnchorChoice,
  type Phrase,
  type PhraseView,
  type Region,
} from './regions';
export {
  crossChecked,
  fitting,
  scoreOf,
  WEIGHTS,
  weightOf,
  withWeight,
  type ChosenNote,
  type Fit,
  type Sample,
  type Score,
  type WeightRef,
} from './learn';
export {
  placedPhrase,
  RECALL_LEAST,
  recallShape,
  signatureOf,
  signatureText,
  type PlacedPhrase,
  type RecalledShape,
  type Signature,
} from './recall';
export { TABLE_EVENTS, tableOf, type TabledEvent } from './table';
