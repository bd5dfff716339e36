export type * from './types';
export * from './profile';
export * from './costs';
