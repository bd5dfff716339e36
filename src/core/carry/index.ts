export * from './carry';
export * from './move';
