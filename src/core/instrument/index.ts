export * from './types';
export * from './geometry';
export * from './catalogue';
export * from './tuning';
export * from './setup';
