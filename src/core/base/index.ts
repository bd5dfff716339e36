export * from './units';
export * from './finding';
export * from './result';
export { freshIds, idNumber, stableId } from './ids';
