export * from './types';
export { orderOf, MOST_PLAYED } from './order';
export { musicOf, contentOf, type WriteChoice } from './from-piece';
export { guessSetup, rangeOf, type GuessedSetup } from './setup-guess';
export {
  agreement,
  bestShift,
  notesInRange,
  SHIFTS,
  usualTrust,
  fitEvents,
  type Agreement,
  type Fitted,
  type Trust,
} from './fit';
export { takeIn, type PartChoice, type TakenIn } from './take-in';
export { endOfEvents, eventsOfNotes, foundNote, type FoundNote } from './events';
export { plainSteps, joinedSpans, tempoIn, stepsIn } from './lanes';
export { insertTaken } from './insert';
