import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { levelPart } from '@/core/command';
import { applyEdit } from '@/core/edit';
import { comparedBars, likenessOf, resolve, resolveAll, type Line } from '@/core/form';
import { keyOf, modelOf, type Piece } from '@/core/score';
import { ComparedBars } from '@/features/desk/compare-dialog';
import { buildDemoPiece } from '@/server/demo';
import { DEMO_PIECES } from '../../../demo/pieces';
import { FewerPlayers } from './fewer-players';
import { Levels } from './levels';
import { SecondVoice } from './second-voice';
import { SideBySide } from './side-by-side';
import { textOf } from '@/ui/test-support/text';

const demo = (title: string): Piece =>
  must(buildDemoPiece(DEMO_PIECES.find((one) => one.title === title) as (typeof DEMO_PIECES)[number]));
const moth = demo('Moth at the Lamp');
const lines = resolveAll(moth);
const edit = vi.fn(() => true);

describe('parts together, as drawn', () => {
  it('side by side: the bars, the section, who is silent, what rings', () => {
    const drawn = textOf(renderToStaticMarkup(<SideBySide lines={lines} />));
    expect(drawn).toContain('Bars 1 to 2 of 56, Intro');
    // The second guitar and the bass come in later.
    expect(drawn.match(/silent here/g)).toHaveLength(2);
    expect(drawn).toContain('Guitar 1 : A2 on string 5, open');
  });
  it('second voices: intervals of the key first; without a key only fixed ones, with the reason', () => {
    const offered = textOf(renderToStaticMarkup(<SecondVoice piece={moth} lines={lines} edit={edit} />));
    expect(offered.indexOf('third above, in the key')).toBeGreaterThan(0);
    expect(offered).toContain('octave above, always');
    const keyless = { ...moth, context: { ...moth.context, key: [] } };
    const fixed = textOf(renderToStaticMarkup(<SecondVoice piece={keyless} lines={lines} edit={edit} />));
    expect(fixed).not.toContain('in the key');
    expect(fixed).toContain('Say the key of the piece');
  });
  it('fewer players: says who plays on and how much is kept; one part alone has nobody to do without', () => {
    const drawn = textOf(renderToStaticMarkup(<FewerPlayers piece={moth} lines={lines} edit={edit} />));
    expect(drawn).toMatch(/\w+ and \w.* play on\. \d+ % of what is heard is kept\./);
    const [alone] = lines as [Line, ...Line[]];
    expect(textOf(renderToStaticMarkup(<FewerPlayers piece={moth} lines={[alone]} edit={edit} />))).toContain(
      'one part only',
    );
  });
});

describe('levels', () => {
  const [model] = moth.parts;
  const made = must(levelPart(moth, model?.id ?? '', 'starter', 'For a start'));
  const both = must(applyEdit(moth, made.edit));

  it('say how a level begins where there is none, and stand beside their model where there is one', () => {
    expect(textOf(renderToStaticMarkup(<Levels piece={moth} edit={edit} />))).toContain('There is no other level');
    const drawn = textOf(renderToStaticMarkup(<Levels piece={both} edit={edit} />));
    expect(drawn).toContain('For a start beside Guitar 1');
    expect(drawn).toMatch(/(\d+) of \1 bars are the same/);
  });
  it('are left out of what fewer players are asked to play', () => {
    const html = renderToStaticMarkup(<FewerPlayers piece={both} lines={resolveAll(both)} edit={edit} />);
    const ticks = [...html.matchAll(/<input type="checkbox"([^>]*)\/>([^<]*)/g)].map((match) => [
      match[2],
      match[1]?.includes('checked'),
    ]);
    expect(ticks).toContainEqual(['For a start', false]);
    expect(ticks.filter(([, on]) => on)).toHaveLength(moth.parts.length);
  });
  it('know their model while the piece has it, and never themselves', () => {
    const level = both.parts.find((part) => part.id === made.part);
    if (!level || !model) throw new Error('no level was made');
    expect(modelOf(both, level)?.id).toBe(model.id);
    expect(modelOf({ parts: [level] }, level)).toBeUndefined();
    expect(modelOf(both, { id: model.id, editionOf: model.id })).toBeUndefined();
    expect(modelOf(both, model)).toBeUndefined();
  });
});

describe('two parts bar by bar', () => {
  const line = (part: string): Line => {
    const found = resolve(moth, part);
    if (!found) throw new Error('no such part');
    return found;
  };
  const bars = (a: string, b: string) => comparedBars(line(a), line(b), { key: keyOf(moth, null) });
  it('a part is like itself in every bar it plays, and the bars that differ are listed once each', () => {
    const same = likenessOf(bars('p0', 'p0'));
    expect(same.same).toBe(same.of);
    expect(textOf(renderToStaticMarkup(<ComparedBars bars={bars('p0', 'p0')} />))).toContain(
      `${same.of} of ${same.of} bars`,
    );
    const different = bars('p0', 'p2');
    const rows = renderToStaticMarkup(<ComparedBars bars={different} />).match(/<tr/g) ?? [];
    expect(rows).toHaveLength(1 + different.filter((bar) => bar.differences.length > 0).length);
    for (const { bar, differences, words, events } of different) {
      expect(words).toHaveLength(differences.length);
      expect(words.every((one) => !/^bar \d/.test(one))).toBe(true);
      expect(bar).toBeLessThan(line('p0').map.bars);
      if (events[0] === 0 && events[1] === 0) expect(differences).toEqual([]);
    }
    expect(textOf(renderToStaticMarkup(<ComparedBars bars={[]} />))).toContain('Neither plays a note.');
  });
});
