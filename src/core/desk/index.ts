export { daysAfter, daysBetween, dayWords, weekOf } from './calendar';
export * from './schema';
export * from './due';
