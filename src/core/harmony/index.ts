export * from './grip';
