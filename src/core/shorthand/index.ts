export * from './types';
export { readCalls, CALL_LIMITS } from './read';
export { lengthLabel, lengthWords } from './lengths';
export { printCalls, FIRST_LENGTH } from './print';
export { calledToEvents } from './events';
export { parser as callsParser } from './calls.parser';
export { stringWords, fretWords } from './names';
