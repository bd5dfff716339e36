export * from './types';
export * from './spec';
export { EDITS } from './registry';
export * from './apply';
export { patchOf, type Patch } from './patch';
export * from './history';
export * from './migrate';
export { readEdit } from './read';
export { compactEdit } from './compact';
