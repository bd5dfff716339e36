export * from './words';
export * from './music';
