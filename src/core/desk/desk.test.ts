import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  daysAfter,
  daysBetween,
  dayWords,
  DUE_SPANS,
  dueOf,
  isDay,
  newRequest,
  requestSchema,
  spanOf,
  weekOf,
  type Request,
} from './index';

const TODAY = '2031-04-09'; // A Wednesday.
const request = (over: Partial<Request>): Request => ({ ...newRequest(TODAY), title: 'Moth at the Lamp', ...over });
const day = fc.integer({ min: -4000, max: 40_000 }).map((n) => daysAfter('2000-01-01', n));

describe('days', () => {
  it('weeks begin on Monday, and a week has seven days', () => {
    fc.assert(
      fc.property(day, (one) => {
        const monday = weekOf(one);
        expect(new Date(`${monday}T00:00:00Z`).getUTCDay()).toBe(1);
        expect(daysBetween(monday, one)).toBeGreaterThanOrEqual(0);
        expect(daysBetween(monday, one)).toBeLessThan(7);
        expect(weekOf(daysAfter(monday, 7))).toBe(daysAfter(monday, 7));
      }),
    );
  });
  it('are those of the calendar, leap years and all, from the year 1 to 9999', () => {
    const known = (text: string): boolean => {
      const time = Date.parse(`${text}T00:00:00Z`);
      return Number.isFinite(time) && new Date(time).toISOString().slice(0, 10) === text;
    };
    const two = (n: number): string => String(n).padStart(2, '0');
    const number = fc.integer({ min: 0, max: 40 });
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9999 }),
        number,
        number,
        fc.integer({ min: -900, max: 900 }),
        (y, m, d, by) => {
          const text = `${String(y).padStart(4, '0')}-${two(m)}-${two(d)}`;
          expect(isDay(text)).toBe(known(text));
          if (!known(text)) return;
          const time = Date.parse(`${text}T00:00:00Z`) + by * 86_400_000;
          if (time < Date.parse('0001-01-01') || time > Date.parse('9999-12-31')) return;
          const there = daysAfter(text, by);
          expect(there).toBe(new Date(time).toISOString().slice(0, 10));
          expect(daysBetween(text, there)).toBe(by);
        },
      ),
      { numRuns: 2000 },
    );
    for (const leap of ['2000-02-29', '2032-02-29']) expect(isDay(leap)).toBe(true);
    for (const none of ['1900-02-29', '2100-02-29', '2031-02-29', '2031-04-31', '2031-00-10', '31-04-09', 'soon', ''])
      expect(isDay(none)).toBe(false);
  });
  it('every day lies in one span, and later days never in an earlier one', () => {
    fc.assert(
      fc.property(day, day, day, (today, a, b) => {
        const [first, second] = a < b ? [a, b] : [b, a];
        expect(DUE_SPANS.indexOf(spanOf(first, today))).toBeLessThanOrEqual(DUE_SPANS.indexOf(spanOf(second, today)));
      }),
    );
    expect(spanOf('2031-04-13', TODAY)).toBe('this week');
    expect(spanOf('2031-04-14', TODAY)).toBe('next week');
    expect(spanOf('2031-04-21', TODAY)).toBe('later');
    expect(spanOf(null, TODAY)).toBe('no day');
  });
  it('are said as one says them', () => {
    expect(
      ['2031-04-09', '2031-04-10', '2031-04-08', '2031-04-12', '2031-05-01', '2032-01-02'].map((one) =>
        dayWords(one, TODAY),
      ),
    ).toEqual(['today', 'tomorrow', 'yesterday', 'Saturday', '1 May', '2 January 2032']);
  });
});

describe('what is due', () => {
  it('holds the request, its release, and what was promised for later until it is done', () => {
    const items = [
      { kind: 'covered', what: 'rhythm guitar', due: null, done: null },
      { kind: 'leftOut', what: 'the solo', due: '2031-04-10', done: null },
      { kind: 'later', what: 'second half', due: '2031-05-01', done: null },
      { kind: 'later', what: 'the bass', due: null, done: '2031-04-01' },
    ] as const;
    const asked = request({ items, due: '2031-04-11', release: '2031-04-30', asker: 'Odile' });
    expect(dueOf([{ id: 'r', request: asked }]).map((one) => [one.day, one.kind, one.item?.what ?? null])).toEqual([
      ['2031-04-11', 'work', null],
      ['2031-04-30', 'release', null],
      ['2031-05-01', 'later', 'second half'],
    ]);
    const handed = dueOf([{ id: 'r', request: { ...asked, state: 'handed' } }]);
    expect(handed.map((one) => one.item?.what)).toEqual(['second half']);
    expect(dueOf([{ id: 'r', request: { ...asked, state: 'declined' } }])).toEqual([]);
  });
  it('sorts by day, what has none last', () => {
    fc.assert(
      fc.property(fc.array(fc.option(day, { nil: null }), { maxLength: 20 }), (days) => {
        const list = dueOf(days.map((due, i) => ({ id: String(i), request: request({ due }) })));
        const known = list.map((one) => one.day ?? '9');
        expect(known).toEqual([...known].sort());
      }),
    );
  });
});

describe('a request from outside', () => {
  it('is refused where a day is none or nothing is asked for, with the place', () => {
    for (const [wrong, path] of [
      [{ due: '2031-02-30' }, 'due'],
      [{ due: 'soon' }, 'due'],
      [{ title: '  ' }, 'title'],
      [{ state: 'lost' }, 'state'],
      [{ items: [{ kind: 'later', what: '', due: null, done: null }] }, 'items.0.what'],
    ] as const) {
      const read = requestSchema.safeParse({ ...request({}), ...wrong });
      expect(read.success).toBe(false);
      expect(read.error?.issues[0]?.path.join('.')).toBe(path);
    }
    expect(requestSchema.parse(request({ asker: ' Odile ' })).asker).toBe('Odile');
  });
});
