export * from './units';
export * from './result';
export { stableId } from './ids';
