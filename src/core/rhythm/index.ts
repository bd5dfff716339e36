export * from './count';
export * from './quantise';
export * from './lengths';
export * from './arithmetic';
export * from './strokes';
export * from './tap';
export * from './bars';
