export * from './units';
export * from './finding';
export * from './result';
export { counted, textMark, wellFormed, wellFormedText } from './text';
export { freshIds, idNumber, stableId } from './ids';
