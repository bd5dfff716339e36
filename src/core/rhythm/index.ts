export * from './count';
export * from './quantise';
export * from './values';
