export * from './read';
export * from './to-part';
export * from './write';
