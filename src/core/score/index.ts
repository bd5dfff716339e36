export * from './technique';
export { quarterSchema } from './parts-of-schema';
export * from './schema';
export * from './invariants';
export * from './read';
export * from './queries';
export * from './make';
export * from './unspecified';
export * from './find';
