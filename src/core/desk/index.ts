export { daysAfter, daysBetween, dayWords, isDay, weekOf, type Day } from './calendar';
export * from './schema';
export * from './due';
