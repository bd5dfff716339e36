export * from './staff';
