export * from './kept';
export * from './registry';
export * from './part-questions';
