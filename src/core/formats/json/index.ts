export * from './piece-file';
