export * from './schools';
