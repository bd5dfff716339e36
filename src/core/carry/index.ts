export * from './carry';
