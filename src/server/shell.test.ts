import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shellOf } from './shell';

describe('the built page of an address', () => {
  it('is one for all pieces, riffs, parts and instruments', () => {
    expect(shellOf('/pieces/abc123/form')).toBe('/pieces/_/form');
    expect(shellOf('/pieces/abc123/riffs/p0r0')).toBe('/pieces/_/riffs/_');
    expect(shellOf('/pieces/abc123/riffs/p0r0/sheet')).toBe('/pieces/_/riffs/_/sheet');
    expect(shellOf('/pieces/abc123/parts/p1/find')).toBe('/pieces/_/parts/_/find');
    expect(shellOf('/rack/instruments/i7')).toBe('/rack/instruments/_');
  });

  it('is the address itself where it holds no ids, and for the way into a piece', () => {
    for (const path of ['/', '/rack', '/rack/tunings', '/desk', '/settings/weights', '/pieces/abc123', '/nowhere'])
      expect(shellOf(path)).toBe(path);
  });

  it('is none for what can be no id', () => {
    for (const id of ['a b', '../etc', '<script>', 'x'.repeat(65), 'ä', ''])
      for (const path of [`/pieces/${id}/form`, `/pieces/${id}/riffs/p0r0`, `/pieces/a/riffs/${id}`])
        if (shellOf(path) !== path) expect(shellOf(path), path).toMatch(/^\/pieces\/_\/[a-z-]+$/);
  });

  it('never keeps an id, and a built page is its own', () => {
    const id = fc.stringMatching(/^[A-Z0-9][A-Za-z0-9-]{5,30}$/);
    const rest = fc.constantFrom('/form', '/check', '/riffs/ID', '/riffs/ID/sheet', '/parts/ID', '/parts/ID/carry');
    fc.assert(
      fc.property(id, rest, (id, rest) => {
        const page = shellOf(`/pieces/${id}${rest.replace('ID', id)}`);
        expect(page).not.toContain(id);
        expect(shellOf(page)).toBe(page);
      }),
    );
  });
});
