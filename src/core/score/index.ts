export * from './schema';
export * from './invariants';
export * from './read';
export * from './queries';
export * from './make';
