export * from './frequency';
export * from './names';
