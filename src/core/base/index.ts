export * from './units';
export * from './finding';
export * from './result';
export { stableId } from './ids';
