export * from './clip';
export { BarMap, marksOfBeats, otherLevel } from './bars';
export { heardEvents, clipTime, type Offer } from './accept';
export { differences, type Difference } from './differ';
export * from './form';
