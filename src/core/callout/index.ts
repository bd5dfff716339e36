export * from './callout';
export * from './form';
