export * from './carry';
export * from './move';
export * from './strings';
export type { Loss } from './losses';
export * from './over';
export * from './phrase-move';
