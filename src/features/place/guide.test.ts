import { readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import { FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import { parseGuide } from './guide';

describe('the guide to the call line', () => {
  const blocks = parseGuide(readFileSync(path.resolve(import.meta.dirname, '../../../docs/call-line.md'), 'utf8'));

  it('is read into headings and tables', () => {
    expect(blocks.filter((b) => b.kind === 'table')).toHaveLength(10);
    expect(blocks[0]).toEqual({ kind: 'title', text: 'Calling notes' });
  });

  it('shows only calls the program understands', () => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
    const examples = blocks
      .flatMap((b) => (b.kind === 'table' ? b.rows : []))
      .flatMap(([say]) => [...(say ?? '').matchAll(/`([^`]+)`/g)].map((match) => match[1] ?? ''));
    expect(examples.length).toBeGreaterThan(20);
    for (const example of examples.filter((id) => !id.includes('...'))) {
      // Examples that begin in the middle of something are given a note before.
      const text = /^(\d|open|ring|shift|\[ 5)/.test(example) ? `on 4 5 ${example}` : example;
      if (['h', 'p', 'sl', 'slide to 9', 'ring'].includes(example)) continue;
      const called = readCalls(text, {
        setup,
        meters: [{ bar: 0, beats: 4, unit: 4 }],
        at: ZERO,
        length: FIRST_LENGTH,
        string: 4,
      });
      expect(called.faults, example).toEqual([]);
    }
  });
});
