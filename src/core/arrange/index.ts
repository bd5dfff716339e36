export * from './easier';
export * from './reduce';
export * from './together';
export * from './voices';
