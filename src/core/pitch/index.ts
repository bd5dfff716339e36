export * from './frequency';
export * from './names';
export * from './microtone';
