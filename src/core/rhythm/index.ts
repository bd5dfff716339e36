export * from './count';
export * from './quantise';
