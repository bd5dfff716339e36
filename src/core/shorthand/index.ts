export * from './types';
export { readCalls, CALL_LIMITS, GRACE_LENGTH } from './read';
export { STROKE_WORDS } from './articulations';
export { VIBRATO } from './marks';
export { printCalls, FIRST_LENGTH } from './print';
export { calledToEvents } from './events';
export { parser as callsParser } from './calls.parser';
export { stringWords, fretWords } from './names';
