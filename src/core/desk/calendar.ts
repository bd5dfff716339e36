/* eslint-disable no-restricted-globals -- Date is a calendar here, never a clock: what day it is comes from outside. */

/** A day of the calendar, "2031-04-09". */
export type Day = string;

/** Days of the calendar, "2031-04-09", without hours and places. */

const DAY_MS = 86_400_000;
const timeOf = (day: Day): number => Date.parse(`${day}T00:00:00Z`);
const dayOf = (time: number): Day => new Date(time).toISOString().slice(0, 10);

/** The day so many days after (before, where negative) another. */
export const daysAfter = (day: Day, days: number): Day => dayOf(timeOf(day) + days * DAY_MS);

/** How many days from one day to another; negative where it is before. */
export const daysBetween = (from: Day, to: Day): number => Math.round((timeOf(to) - timeOf(from)) / DAY_MS);

/** The Monday of the week a day is in. */
export const weekOf = (day: Day): Day => daysAfter(day, -((new Date(timeOf(day)).getUTCDay() + 6) % 7));

/** Whether a text is a day there is. */
export const isDay = (text: string): boolean => {
  const time = Date.parse(`${text}T00:00:00Z`);
  return Number.isFinite(time) && dayOf(time) === text;
};

/** A day as one says it, seen from today: "today", "tomorrow", "Friday", "3 December". */
export function dayWords(day: Day, today: Day): string {
  const away = daysBetween(today, day);
  if (away === 0) return 'today';
  if (away === 1) return 'tomorrow';
  if (away === -1) return 'yesterday';
  const date = new Date(timeOf(day));
  const say = (options: Intl.DateTimeFormatOptions): string =>
    new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' }).format(date);
  if (away > 0 && away < 7) return say({ weekday: 'long' });
  return day.slice(0, 4) === today.slice(0, 4)
    ? say({ day: 'numeric', month: 'long' })
    : say({ day: 'numeric', month: 'long', year: 'numeric' });
}
