export * from './types';
export * from './apply';
export * from './invert';
export * from './describe';
export * from './history';
export * from './phrase';
export * from './lift';
export * from './way';
