export * from './count';
export * from './quantise';
export * from './values';
export * from './lengths';
export * from './arithmetic';
export * from './strokes';
