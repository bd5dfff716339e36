export * from './paper';
export * from './cuts';
export * from './svg';
export * from './text-sheet';
