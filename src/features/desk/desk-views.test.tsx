import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { newRequest, type Request, type RequestItem } from '@/core/desk';
import type { PieceId, RequestId } from '@/server/ids';
import type { KeptRequest } from '@/server/repositories/desk';
import { Board } from './board';
import { DueList } from './due-list';
import { askedWords, coverWords, dayOr, dueWords, linkWords } from './words';
import { textOf } from '@/ui/test-support/text';

const TODAY = '2031-04-09'; // A Wednesday.
const item = (kind: RequestItem['kind'], what: string, over: Partial<RequestItem> = {}): RequestItem => ({
  ...{ kind, what, due: null, done: null },
  ...over,
});
const kept = (id: string, over: Partial<Request>, piece: KeptRequest['piece'] = null): KeptRequest => ({
  ...{ id: id as RequestId, revision: 0, series: null, piece },
  request: { ...newRequest('2031-04-01'), title: id, ...over },
});
const board = (requests: readonly KeptRequest[]): string =>
  renderToStaticMarkup(<Board requests={requests} today={TODAY} onOpen={vi.fn()} onMove={vi.fn()} />);
/** The columns of a board by their name, as text. */
const columns = (html: string): Record<string, string> =>
  Object.fromEntries(
    [...html.matchAll(/<section aria-label="([^"]+)">(.*?)<\/section>/gs)].map((match) => [
      match[1],
      textOf(match[2] ?? ''),
    ]),
  );

describe('how the desk says things', () => {
  it('what is covered, left out and still owed; nothing of what was done since', () => {
    const items = [
      item('covered', 'both guitars'),
      item('leftOut', 'the whistle'),
      item('later', 'the bass'),
      item('later', 'the ending', { done: '2031-04-02' }),
    ];
    expect(coverWords({ items })).toBe('both guitars; without the whistle; the bass later');
    expect(coverWords({ items: [] })).toBe('');
  });
  it('for whom, which version, what is due and how pieces belong together', () => {
    expect(askedWords({ asker: 'Ottla', version: 'live' })).toBe('for Ottla; a live take');
    expect(askedWords({ asker: '', version: null })).toBe('');
    expect(dueWords({ item: null, kind: 'release' })).toBe('comes out');
    expect(dueWords({ item: { index: 0, what: 'the bass' }, kind: 'later' })).toBe('the bass');
    expect(dayOr(null, TODAY)).toBe('no day');
    expect(linkWords('prerequisite', false)).toBe('to be learned before');
    expect(linkWords('prerequisite', true)).toBe('to be learned after');
  });
});

describe('the board', () => {
  it('puts each request into the column of its state, with what is late said in words', () => {
    const drawn = columns(
      board([
        kept('Owl', { state: 'asked' }),
        kept('Moth', { state: 'working', due: '2031-04-07', asker: 'Wilma' }, { id: 'p1' as PieceId, title: 'Moth' }),
        kept('Lanterns', { state: 'ready', due: '2031-04-11' }),
      ]),
    );
    expect(drawn['Asked for']).toBe('Asked for 1 Owl');
    expect(drawn.Promised).toBe('Promised 0');
    expect(drawn['In work']).toContain('Moth for Wilma was due 7 April on the shelf');
    expect(drawn.Ready).toContain('Lanterns due Friday');
  });
  it('keeps what has ended apart, where it can be opened but not moved', () => {
    const html = board([kept('March', { state: 'handed', due: '2031-01-01' }), kept('Waltz', { state: 'declined' })]);
    const ended = html.slice(html.indexOf('<details'));
    expect(textOf(ended)).toContain('2 handed over or declined');
    expect(textOf(ended)).toContain('March due 1 January');
    expect(textOf(ended)).toContain('Waltz declined');
    expect(ended).not.toContain('draggable="true"');
    expect(board([kept('Owl', {})])).toContain('draggable="true"');
  });
});

describe('the list of what is due', () => {
  const list = (requests: readonly KeptRequest[], over: object = {}): string =>
    renderToStaticMarkup(<DueList requests={requests} today={TODAY} onOpen={vi.fn()} {...over} />);
  const requests = [
    kept('Late', { due: '2031-04-01' }),
    kept('Soon', { due: '2031-04-10', asker: 'Ottla', release: '2031-05-02' }),
    kept('March', { state: 'handed', items: [item('later', 'the ending', { due: '2031-04-15' })] }),
    kept('Open', {}),
  ];
  it('goes by weeks, the overdue first and what has no day last', () => {
    const html = list(requests);
    expect([...html.matchAll(/<section aria-label="([^"]+)"/g)].map((match) => match[1])).toEqual([
      ...['Overdue', 'This week', 'Next week', 'Later', 'Without a day'],
    ]);
    expect(textOf(html)).toContain('tomorrow Soon');
    expect(textOf(html)).toContain('Tuesday March : the ending');
    expect(textOf(html)).toContain('2 May Soon : comes out');
    expect(textOf(html)).not.toContain('for Ottla');
  });
  it('says who asked where there is room, keeps to the weeks asked for, and says when nothing is due', () => {
    expect(textOf(list(requests, { long: true }))).toContain('Soon for Ottla');
    expect(textOf(list(requests, { spans: ['overdue'] }))).toBe('Overdue 1 April Late');
    expect(textOf(list([]))).toBe('Nothing is due.');
  });
});
