export { daysAfter, daysBetween, dayWords, weekOf, type Day } from './calendar';
export * from './schema';
export * from './due';
