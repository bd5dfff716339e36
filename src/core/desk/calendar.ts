/** Days of the calendar, without hours and places. What day it is comes from outside: here is no clock. */

/** A day of the calendar, "2031-04-09", of the years 0 to 9999. */
export type Day = string;

const DAY_MS = 86_400_000;

/**
 * Days since 1 January 1970. Years are counted from March, so that the leap day is their last; 400 of them have always
 * 146,097 days (Gregorian calendar).
 */
function numberOf(day: Day): number {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const ofEra = y - era * 400;
  const ofYear = Math.floor((153 * ((month + 9) % 12) + 2) / 5) + date - 1;
  return era * 146_097 + ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear - 719_468;
}

/** The day so many days after 1 January 1970: the inverse of `numberOf`. */
function dayOf(number: number): Day {
  const days = number + 719_468;
  const era = Math.floor(days / 146_097);
  const ofEra = days - era * 146_097;
  const year = Math.floor(
    (ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365,
  );
  const ofYear = ofEra - (365 * year + Math.floor(year / 4) - Math.floor(year / 100));
  const march = Math.floor((5 * ofYear + 2) / 153);
  const date = ofYear - Math.floor((153 * march + 2) / 5) + 1;
  const month = march < 10 ? march + 3 : march - 9;
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${String(year + era * 400 + (month <= 2 ? 1 : 0)).padStart(4, '0')}-${two(month)}-${two(date)}`;
}

/** The day so many days after (before, where negative) another. */
export const daysAfter = (day: Day, days: number): Day => dayOf(numberOf(day) + days);

/** How many days from one day to another; negative where it is before. */
export const daysBetween = (from: Day, to: Day): number => numberOf(to) - numberOf(from);

/** The Monday of the week a day is in. 1 January 1970 was a Thursday. */
export const weekOf = (day: Day): Day => daysAfter(day, -((((numberOf(day) + 3) % 7) + 7) % 7));

/** Whether a text is a day there is. */
export const isDay = (text: string): boolean => /^\d{4}-\d{2}-\d{2}$/.test(text) && dayOf(numberOf(text)) === text;

/** A day as one says it, seen from today: "today", "tomorrow", "Friday", "3 December". */
export function dayWords(day: Day, today: Day): string {
  const away = daysBetween(today, day);
  if (away === 0) return 'today';
  if (away === 1) return 'tomorrow';
  if (away === -1) return 'yesterday';
  const say = (options: Intl.DateTimeFormatOptions): string =>
    new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' }).format(numberOf(day) * DAY_MS);
  if (away > 0 && away < 7) return say({ weekday: 'long' });
  return day.slice(0, 4) === today.slice(0, 4)
    ? say({ day: 'numeric', month: 'long' })
    : say({ day: 'numeric', month: 'long', year: 'numeric' });
}
