import { describe, expect, it } from 'vitest';
import { readAddress } from './address';

describe('the address of a page', () => {
  it('says which piece, riff, part and instrument it is about', () => {
    expect(readAddress('/pieces/abc/riffs/p0r1/sheet')).toEqual({
      piece: 'abc',
      riff: 'p0r1',
      part: '',
      instrument: '',
    });
    expect(readAddress('/pieces/abc/parts/p2/find')).toEqual({ piece: 'abc', riff: '', part: 'p2', instrument: '' });
    expect(readAddress('/rack/instruments/i7')).toEqual({ piece: '', riff: '', part: '', instrument: 'i7' });
  });

  it('says nothing where a page is about nothing', () => {
    for (const path of ['/', '/rack', '/desk', '/pieces', '/pieces/'])
      expect(readAddress(path)).toEqual({ piece: '', riff: '', part: '', instrument: '' });
  });
});
