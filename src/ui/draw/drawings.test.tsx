import fc from 'fast-check';
import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { chordFrames, parseChord } from '@/core/harmony';
import { fretDistance, makeSetup, pressPoint, type Setup } from '@/core/instrument';
import { DEFAULT_SCHOOLS } from '@/core/schools';
import { makeEvent, makeNote, makePlace, makeRiff, type Riff } from '@/core/score';
import { strokesOf } from '@/core/rhythm';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { staffBars } from '@/core/staff';
import { quarter, ZERO } from '@/core/time';
import { CapoPlace } from './capo-place';
import { ChordFrameView } from './chord-frame';
import type { Harmony } from './harmony-lane';
import { fretTextOf, laneScales, laneTops } from './lanes';
import { Neck, type NeckPlace } from './neck';
import { rowsOf } from './strip-layout';
import { StripRowView } from './strip-row';
import { TabSystem } from './tab-system';
import { TensionChart } from './tension-chart';
import { TunerBeam } from './tuner-beam';

/**
 * Drawings as they reach the page, read back: what is written, where it lies, what is said to those who don't see it.
 */

const setupOf = (tuning?: string, capo: Parameters<typeof makeSetup>[0]['capo'] = 0): Setup =>
  must(makeSetup({ instrument: 'guitar-6', tuning, capo })).setup;
const draw = (element: ReactElement): string => renderToStaticMarkup(element);
/** Texts of a drawing in order, tags within them taken out. */
const texts = (svg: string): string[] =>
  [...svg.matchAll(/<text[^>]*>(.*?)<\/text>/g)].map((match) => (match[1] ?? '').replace(/<[^>]*>/g, ''));
const label = (svg: string): string => /aria-label="([^"]*)"/.exec(svg)?.[1] ?? '';
/** Every element of a kind with its numeric attributes. */
const elements = (svg: string, tag: string): Record<string, number>[] =>
  [...svg.matchAll(new RegExp(`<${tag} ([^>]*)`, 'g'))].map((match) =>
    Object.fromEntries(
      [...(match[1] ?? '').matchAll(/([a-z-0-9]+)="(-?[\d.]+)"/gi)].map((a) => [a[1] ?? '', Number(a[2])]),
    ),
  );

const BARE = { figure: 20, strokes: '', hardest: null, next: null } as const;
const writtenOf = (riff: Riff) => staffBars(riff, setupOf(), { from: 0, count: 2 }, { key: null, pitch: 'sounding' });

describe('the neck', () => {
  const neck = (
    setup: Setup,
    places: readonly NeckPlace[] = [],
    extra: Partial<Parameters<typeof Neck>[0]> = {},
  ): string =>
    draw(
      <Neck
        setup={setup}
        stringNames={[1, 2, 3, 4, 5, 6].map((s) => [String(s), ''] as const)}
        places={places}
        hand={null}
        width={900}
        label="the neck"
        {...extra}
      />,
    );
  const mark = (string: number, fretFromNut: number): NeckPlace => ({
    string,
    fretFromNut,
    kind: 'chosen',
    text: '1',
    title: 'here',
  });
  /** x of the wires, nut excluded: vertical lines that span the board. */
  const wires = (svg: string): number[] =>
    elements(svg, 'line')
      .filter((one) => one.x1 === one.x2 && (one.y2 ?? 0) - (one.y1 ?? 0) > 100)
      .map((one) => one.x1 ?? 0);

  it('is to scale: wires stand as far apart as on the instrument', () => {
    const list = wires(neck(setupOf()));
    expect(list.length).toBe(12);
    const perMm = ((list[11] ?? 0) - (list[0] ?? 0)) / (fretDistance(648, 12) - fretDistance(648, 1));
    list.forEach((at, i) =>
      expect(Math.abs(at - (list[0] ?? 0) - perMm * (fretDistance(648, i + 1) - fretDistance(648, 1)))).toBeLessThan(
        0.01,
      ),
    );
  });
  it('is shown as far as the work needs it, and to its end', () => {
    expect(wires(neck(setupOf(), [mark(1, 14)])).length).toBe(16);
    expect(wires(neck(setupOf(), [mark(1, 22)])).filter((_, i, all) => i < all.length).length).toBeGreaterThanOrEqual(
      22,
    );
  });
  it('marks a place at its press point on its string, and mirrors for the left hand', () => {
    const at = (svg: string): number =>
      elements(svg, 'rect')
        .map((one) => ({ ...one, mid: (one.x ?? 0) + (one.width ?? 0) / 2 }))
        .find((one) => (one as Record<string, number>).rx === 10)?.mid ?? NaN;
    const right = neck(setupOf(), [mark(3, 5)]);
    const left = neck(setupOf(), [mark(3, 5)], { mirrored: true });
    const list = wires(right);
    expect(at(right)).toBeGreaterThan(list[3] ?? 0);
    expect(at(right)).toBeLessThan(list[4] ?? 0);
    const share = (pressPoint(648, 5) - fretDistance(648, 4)) / (fretDistance(648, 5) - fretDistance(648, 4));
    expect((at(right) - (list[3] ?? 0)) / ((list[4] ?? 0) - (list[3] ?? 0))).toBeCloseTo(share, 6);
    expect(at(left) + at(right)).toBeCloseTo(900, 6);
    expect(wires(left)).toEqual([...wires(left)].sort((a, b) => b - a));
  });
  it('numbers frets by either school, and draws each capo over the strings it stops', () => {
    const capo = setupOf(undefined, [{ fret: 2 }, { fret: 4, strings: [3, 2, 1] }]);
    expect(
      texts(neck(capo, [], { counting: 'capo' }))
        .filter((text) => /^\d+$/.test(text))
        .slice(6),
    ).toEqual(['3', '5', '7', '9']);
    expect(
      texts(neck(capo, [], { counting: 'nut' }))
        .filter((text) => /^\d+$/.test(text))
        .slice(6),
    ).toEqual(['3', '5', '7', '9', '12']);
    const bars = elements(neck(capo), 'rect').filter((one) => one.rx === 4);
    expect(bars).toHaveLength(2);
    expect((bars[0]?.height ?? 0) > 1.8 * (bars[1]?.height ?? 0)).toBe(true);
    expect(neck(capo)).toContain('capo at fret 4');
    expect(
      elements(neck(setupOf(undefined, [{ fret: 3, strings: [6] }])), 'rect').filter((one) => one.rx === 4),
    ).toHaveLength(1);
  });
  it('says the reach of the hand in millimetres', () => {
    expect(texts(neck(setupOf(), [], { hand: { from: 1, to: 4 } }))[0]).toBe('99 mm');
    expect(label(neck(setupOf()))).toBe('the neck');
  });
});

describe('a chord frame', () => {
  const frame = (name: string, mirrored = false): string =>
    draw(
      <ChordFrameView
        frame={must(chordFrames(must(parseChord(name)), setupOf()))[0] as never}
        name={name}
        mirrored={mirrored}
        sounds="sounds B♭"
      />,
    );
  it('says what every string does, and draws as much', () => {
    const svg = frame('C');
    expect(label(svg)).toBe(
      'C: string 6 not struck, string 5 fret 3, finger 3, string 4 fret 2, finger 2, string 3 open, string 2 fret 1, finger 1, string 1 open',
    );
    expect(texts(svg)).toEqual(['C', '×', '3', '2', '1', 'sounds B♭']);
    expect(elements(svg, 'circle').filter((one) => one.r === 3.6)).toHaveLength(2);
    expect(elements(svg, 'circle').filter((one) => one.r === 6.6)).toHaveLength(3);
  });
  it('turns round for the left hand', () => {
    const dots = (svg: string): number[] =>
      elements(svg, 'circle')
        .filter((one) => one.r === 6.6)
        .map((one) => one.cx ?? 0);
    const right = dots(frame('C'));
    const left = dots(frame('C', true));
    right.forEach((x, i) => expect(x + (left[i] ?? 0)).toBeCloseTo(30 + 5 * 13, 6));
  });
  it('far up the neck says where it begins, without a nut', () => {
    const svg = draw(<ChordFrameView frame={{ frets: [8, 10, 10, 9, 8, 8], fingers: [1, 3, 4, 2, 1, 1] }} name="C" />);
    expect(texts(svg)).toContain('8');
    expect(elements(svg, 'line').every((one) => one['stroke-width'] !== 3)).toBe(true);
  });
});

describe('where the capo goes', () => {
  it('shows the space to scale and the range of the school within it, never on the wire', () => {
    fc.assert(
      fc.property(fc.constantFrom('anywhere', 'behind', 'middle'), fc.integer({ min: 1, max: 9 }), (place, fret) => {
        const svg = draw(<CapoPlace fret={fret} scaleMm={648} place={place} strings={6} held={null} />);
        const [from, to] = elements(svg, 'line')
          .filter((one) => one.x1 === one.x2)
          .map((one) => one.x1 ?? 0);
        const range = elements(svg, 'rect')[1];
        expect(range?.x).toBeGreaterThan(from ?? 0);
        expect((range?.x ?? 0) + (range?.width ?? 0)).toBeLessThan(to ?? 0);
        expect(label(svg)).toContain(`${(fretDistance(648, fret) - fretDistance(648, fret - 1)).toFixed(0)} mm wide`);
      }),
    );
    const [, , whole] = elements(
      draw(<CapoPlace fret={2} scaleMm={648} place="middle" strings={6} held={null} />),
      'rect',
    );
    const [, , part] = elements(
      draw(<CapoPlace fret={2} scaleMm={648} place="middle" strings={6} held={[5, 4, 3]} />),
      'rect',
    );
    expect(part?.height).toBeLessThan(whole?.height ?? 0);
  });
});

describe('the tension chart', () => {
  it('draws a mark a string, thick at the left, higher for more, and says the figures', () => {
    const svg = draw(
      <TensionChart
        width={600}
        floppy={45}
        lines={[
          { name: 'A', newtons: [6, 5, 4, 3, 2, 1].map((string) => ({ string, newtons: 40 + string * 5 })) },
          {
            name: 'B',
            newtons: [
              { string: 6, newtons: null },
              { string: 5, newtons: 50 },
            ],
          },
        ]}
      />,
    );
    const dots = elements(svg, 'circle');
    expect(dots).toHaveLength(6);
    expect(dots.map((one) => one.cx)).toEqual([...dots.map((one) => one.cx ?? 0)].sort((a, b) => a - b));
    expect(dots.map((one) => one.cy)).toEqual([...dots.map((one) => one.cy ?? 0)].sort((a, b) => a - b));
    expect(label(svg)).toContain('A: string 6 70 newtons');
    expect(label(svg)).toContain('B: string 6 unknown, string 5 50 newtons');
    expect(svg).not.toContain('NaN');
  });
});

describe('the tuner’s beam', () => {
  const at = (cents: number | null): number =>
    elements(draw(<TunerBeam cents={cents} verdict={cents === null ? null : 'flat'} width={800} />), 'circle')[0]?.cx ??
    NaN;
  it('stands where the cents are, and stays on the ruler', () => {
    expect(at(0)).toBe(400);
    expect(at(-10)).toBeLessThan(at(-5));
    expect(at(25) - at(0)).toBeCloseTo(at(0) - at(-25), 9);
    expect(at(-400)).toBe(at(-50));
    expect(at(null)).toBeNaN();
  });
});

describe('the phrase on paper and on the strip', () => {
  const capo = setupOf(undefined, [{ fret: 2, strings: [5, 4, 3] }]);
  const riff = makeRiff('r', 'Riff', {
    bars: 2,
    events: [
      makeEvent(
        'a',
        ZERO,
        quarter(1),
        [makeNote('na', 52 + 2, 'instructor', { join: 'hammer', place: makePlace(4, 2, 'instructor', { finger: 2 }) })],
        { letRing: true },
      ),
      makeEvent(
        'b',
        quarter(1),
        quarter(1),
        [makeNote('nb', 52 + 4, 'instructor', { place: makePlace(4, 4, 'solver', { finger: 4 }) })],
        { letRing: true },
      ),
      makeEvent('c', quarter(2), quarter(1), [
        makeNote('nc', 40, 'instructor', { place: makePlace(6, 0, 'solver') }),
        makeNote('nd', 59, 'import', { certainty: 'guess', place: makePlace(2, 0, 'solver') }),
      ]),
      makeEvent('e', quarter(5), quarter(1), [makeNote('ne', 64, 'import')]),
    ],
  });
  const [row] = rowsOf(riff, 2);
  if (!row) throw new Error('no row');
  const strip = (frets: 'capo' | 'nut', notes: 'letters' | 'solfege' = 'letters'): string => {
    const schools = { ...DEFAULT_SCHOOLS, frets, notes };
    const scales = laneScales(riff, capo, new Map([['a', 2]]), schools);
    return draw(
      <StripRowView
        row={row}
        width={900}
        meters={riff.meters}
        keyShown={null}
        scales={scales}
        stringNames={scales.strings.map(() => ['E', ''] as const)}
        lanes={new Set(['sound', 'strings', 'hand', 'count'])}
        hands={new Map([['a', 2]])}
        chosen="a"
        focusNote="na"
        caret={quarter(4)}
        setup={setupOf()}
        schools={DEFAULT_SCHOOLS}
        {...BARE}
      />,
    );
  };
  const paper = (frets: 'capo' | 'nut'): string =>
    draw(
      <TabSystem
        row={row}
        next={null}
        width={690}
        meters={riff.meters}
        written={writtenOf(riff)}
        strings={[1, 2, 3, 4, 5, 6]}
        names={['E', 'B', 'G', 'D', 'A', 'E']}
        fingers
        fretText={fretTextOf(capo, frets)}
        label="Tab"
      />,
    );

  it('writes frets by the school, on both alike', () => {
    const noteTexts = (svg: string): string[] =>
      [...svg.matchAll(/<g data-note="(\w+)"[^>]*>.*?<text[^>]*>(.*?)<\/text>/g)].map(
        (match) => `${match[1]} ${match[2]}`,
      );
    expect(noteTexts(strip('capo'))).toEqual(['na 2', 'nb 4', 'nc 0', 'nd 0']);
    expect(noteTexts(strip('nut'))).toEqual(['na 4', 'nb 6', 'nc 0', 'nd 0']);
    const onPaper = (svg: string): string[] =>
      [...svg.matchAll(/font-size="12.5"[^>]*>(\d+)\??</g)].map((match) => match[1] ?? '');
    expect([onPaper(paper('capo')), onPaper(paper('nut'))]).toEqual([
      ['2', '4', '0', '0'],
      ['4', '6', '0', '0'],
    ]);
  });
  it('names what sounds in the naming, counts, and shows what has no place', () => {
    expect(texts(strip('capo')).filter((text) => ['F♯', 'Fa♯', 'E B'].includes(text))).toEqual(['F♯', 'E B']);
    expect(texts(strip('capo', 'solfege'))).toContain('Fa♯');
    expect(texts(strip('capo'))).toContain('?');
    expect(strip('capo')).toContain('stroke-dasharray');
  });
  it('counts the ribbon of the hand by the school too', () => {
    const partialBase = laneScales(riff, capo, new Map([['a', 2]]), { frets: 'capo', notes: 'letters' });
    expect([partialBase.base, partialBase.nuts[4], partialBase.nuts[6]]).toEqual([0, 2, 0]);
    expect(partialBase.highFret).toBeGreaterThanOrEqual(6);
    const full = setupOf(undefined, 3);
    expect(laneScales(makeRiff('x', 'x', { events: [] }), full, new Map()).lowFret).toBe(4);
  });
  it('joins what is hammered, marks rings once, and writes fingers under the paper', () => {
    const svg = paper('capo');
    expect(texts(svg).filter((text) => text === 'ring')).toHaveLength(1);
    expect(texts(svg)).toContain('H');
    expect(
      [...svg.matchAll(/data-fingers="[^"]*">(.*?)<\/text>/g)].flatMap((match) =>
        [...(match[1] ?? '').matchAll(/<tspan[^>]*>([^<]*)</g)].map((finger) => finger[1]),
      ),
    ).toEqual(['2', '4']);
    expect(label(svg)).toBe('Tab');
  });
  it('gives lanes that are hidden no height', () => {
    const all = laneTops(new Set(['sound', 'strings', 'hand', 'count']), 6).bottom;
    expect(laneTops(new Set(['strings']), 6).bottom).toBeLessThan(all * 0.6);
    expect(laneTops(new Set(['strings']), 4).bottom).toBeLessThan(laneTops(new Set(['strings']), 6).bottom);
  });
});

describe('marks of techniques, on the strip and on the sheet alike', () => {
  const setup = setupOf();
  const note = (id: string, string: number, fret: number, extra: Partial<Parameters<typeof makeNote>[3]> = {}) =>
    makeNote(id, (setup.open[6 - string] ?? 0) + fret, 'instructor', {
      place: makePlace(string, fret, 'instructor'),
      ...extra,
    });
  const riff = makeRiff('r', 'r', {
    events: [
      makeEvent('a', ZERO, quarter(1), [note('na', 3, 7, { technique: { bend: 200 } })]),
      makeEvent('b', quarter(1), quarter(1), [note('nb', 4, 5, { technique: { trill: 2 } })]),
      makeEvent('c', quarter(2), quarter(1), [note('nc', 5, 0, { technique: { dead: true } })]),
      makeEvent('d', quarter(3), quarter(1), [
        makeNote('nd', 62, 'instructor', { place: makePlace(4, 12, 'instructor'), technique: { harmonic: true } }),
      ]),
      makeEvent(
        'e',
        quarter(4),
        quarter(1),
        [{ ...note('ne', 2, 5), pitch: { midi: 64, cents: -30, by: 'instructor' } }],
        { slideBar: true },
      ),
      makeEvent('f', quarter(5), quarter(1), [note('nf', 2, 7)], { slideBar: true }),
    ],
  });
  const [row] = rowsOf({ ...riff, bars: 2 }, 2);
  const scales = laneScales(riff, setup, new Map(), DEFAULT_SCHOOLS);
  const drawings = row
    ? [
        draw(
          <StripRowView
            row={row}
            width={900}
            meters={riff.meters}
            keyShown={null}
            scales={scales}
            stringNames={scales.strings.map(() => ['E', ''] as const)}
            lanes={new Set(['strings'])}
            hands={new Map()}
            chosen=""
            focusNote={null}
            caret={null}
            setup={setupOf()}
            schools={DEFAULT_SCHOOLS}
            {...BARE}
          />,
        ),
        draw(
          <TabSystem
            row={row}
            next={null}
            width={690}
            meters={riff.meters}
            written={writtenOf(riff)}
            strings={[1, 2, 3, 4, 5, 6]}
            names={['E', 'B', 'G', 'D', 'A', 'E']}
            fingers={false}
            fretText={fretTextOf(setup, 'capo')}
            label="Tab"
          />,
        ),
      ]
    : [];
  it('a cross, a node in brackets, a place between frets, the size of a bend, a trill, and the bar once', () => {
    expect(drawings).toHaveLength(2);
    for (const svg of drawings) {
      expect(texts(svg)).toEqual(expect.arrayContaining(['7', '1', 'tr 2', '×', '‹12›', '4.7']));
      expect(texts(svg).filter((text) => text === 'slide bar')).toHaveLength(1);
    }
  });
});

describe('everything else that is said of a note, on the strip and on the sheet alike', () => {
  const setup = setupOf();
  const riffOf = (calls: string): Riff => {
    const called = readCalls(calls, {
      setup,
      meters: [{ bar: 0, beats: 4, unit: 4 }],
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
    });
    expect(called.faults, calls).toEqual([]);
    return makeRiff('r', 'r', { bars: 2, events: calledToEvents(called, new Set()) });
  };
  const both = (calls: string, harmony: Harmony | null = null): string[] => {
    const riff = riffOf(calls);
    const [row] = rowsOf(riff, 2);
    if (!row) throw new Error('no row');
    const scales = laneScales(riff, setup, new Map(), DEFAULT_SCHOOLS);
    const strokes = new Map(strokesOf(riff, setup, 'alternate').map((struck) => [struck.event, struck]));
    return [
      draw(
        <StripRowView
          row={row}
          width={900}
          meters={riff.meters}
          keyShown={null}
          scales={scales}
          stringNames={scales.strings.map(() => ['E', ''] as const)}
          lanes={new Set(['sound', 'strings', 'hand', 'stroke', 'count', 'harmony'])}
          hands={new Map()}
          chosen=""
          focusNote={null}
          caret={null}
          setup={setupOf()}
          schools={DEFAULT_SCHOOLS}
          {...BARE}
          harmony={harmony}
          strokes={[...strokes.values()]
            .map((struck) => `${struck.event}:${struck.stroke ?? ''}:${struck.by ?? ''}:${struck.group}`)
            .join(' ')}
        />,
      ),
      draw(
        <TabSystem
          row={row}
          next={null}
          width={690}
          meters={riff.meters}
          written={writtenOf(riff)}
          strings={[1, 2, 3, 4, 5, 6]}
          names={['E', 'B', 'G', 'D', 'A', 'E']}
          fingers
          fretText={fretTextOf(setup, 'capo')}
          label="Tab"
          strokes={strokes}
        />,
      ),
    ];
  };
  it('chords and bass notes over the bars, and under each note what it is by them', () => {
    const span = { at: ZERO, to: quarter(2) };
    const chords = [
      { ...span, chord: 'Am' },
      { at: quarter(2), to: quarter(4), chord: 'F#dim' },
    ];
    const [strip = ''] = both('quarters on 5 open on 5 3 on 4 2 on 4 4', { chords, bass: [] });
    expect(texts(strip)).toEqual(expect.arrayContaining(['Am', 'F♯dim', '1', '♭3', '♭7', '1']));
    const [held = ''] = both('quarters on 4 2 on 4 2', {
      chords: [],
      bass: [
        { ...span, to: quarter(1), note: 'A' },
        { at: quarter(1), to: quarter(2), note: 'C' },
      ],
    });
    expect(texts(held)).toEqual(expect.arrayContaining(['bass A', 'bass C', '5', '3']));
  });
  it('words: mutes in runs, bends with their way, taps, volume, what is free, what is unsaid', () => {
    for (const svg of both(
      'eighths on 5 open palm open palm 3 choked on 3 7 bend half pushed on 2 5 trill ? on 1 12 tapped on 2 5 pinched volume mf on 3 5 either "or rest" cut 30',
    )) {
      expect(texts(svg)).toEqual(
        expect.arrayContaining(['P.M.', 'choked', '½ push', 'tr?', 'T', 'ph24', 'mf', 'or rest', '30%']),
      );
      expect(texts(svg).filter((text) => text === 'P.M.')).toHaveLength(1);
    }
  });
  it('a hole, a hit, a scrape, a grace note, the count that leaves it out', () => {
    const [strip = '', sheet = ''] = both('quarters hole for half scrape grace on 3 5 hammer 7 hit');
    for (const svg of [strip, sheet]) expect(texts(svg)).toEqual(expect.arrayContaining(['pick scrape', '5', '7']));
    expect(texts(strip)).toContain('not yet written');
    expect(texts(strip).filter((text) => /^[1-4]$/.test(text))).toEqual(expect.arrayContaining(['1', '3', '4']));
    expect(texts(strip)).toContain('no chord over it yet: type them on the form');
  });
  it('brackets for a barre, a wave for a rolled chord, another finger that would do', () => {
    for (const svg of both(
      'quarters on 3 5 with 1 + on 2 5 with 1 + on 1 5 with 1 rolled thick-first on 4 7 with 2 or 3',
    )) {
      expect(texts(svg).some((text) => text.includes('2/3'))).toBe(true);
      expect(svg.match(/<path/g)?.length ?? 0).toBeGreaterThan(2);
    }
  });
  it('strokes as signs, those of one stroke under one line', () => {
    const [strip = ''] = both('sixteenths on 5 3 hammer 5 3 stroke up 3 stroke same');
    expect([...strip.matchAll(/data-stroke="([^"]+)"/g)].map((match) => match[1])).toEqual(['down', 'up', 'same']);
    expect(
      elements(strip, 'line').filter((one) => one['stroke-width'] === 2 && one.y1 === one.y2).length,
    ).toBeGreaterThanOrEqual(2);
  });
  it('lengths under the tab as written: ties, tuplets, rests', () => {
    const [, sheet = ''] = both(
      'triplet eighths on 5 3 3 3 rest for eighth on 5 3 for quarter tied eighth 3 for eighth',
    );
    expect(texts(sheet)).toContain('3');
    expect(sheet).toMatch(/<path d="M[\d.]+,[\d.]+ Q/);
  });
});
