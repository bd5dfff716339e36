export * from './chords';
export * from './grip';
export * from './frames';
export * from './grips';
export * from './capo-plan';
export * from './under';
export * from './degree';
