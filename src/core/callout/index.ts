export * from './callout';
