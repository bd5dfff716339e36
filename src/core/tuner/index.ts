export * from './types';
export * from './targets';
export * from './needle';
export * from './sharpening';
export * from './simulated';
export * from './log';
