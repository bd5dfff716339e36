export * from './types';
export { readCalls, lengthLabel, lengthWords, CALL_LIMITS } from './read';
export { printCalls, FIRST_LENGTH } from './print';
export { calledToEvents } from './events';
export { parser as callsParser } from './calls.parser';
export { stringWords, fretWords } from './names';
