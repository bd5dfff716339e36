import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { applyEdit, invertEdit, type Edit } from '../edit';
import {
  BAR_MAPS,
  differencesOf,
  foldPlan,
  parseRoute,
  parseRow,
  printForm,
  printRoute,
  printRow,
  resolve,
  withoutBlocks,
} from '../form';
import { formArbitrary } from '../form/test-support/arbitrary';
import { makeSetup } from '../instrument';
import {
  barCount,
  checkPiece,
  findRiff,
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makePlace,
  makeRiff,
  type Piece,
  type Riff,
  type RiffEvent,
} from '../score';
import { add, mul, quarter, ZERO } from '../time';
import {
  addVariant,
  deleteSection,
  dropRiff,
  editAsVariant,
  foldRiff,
  formFromRiffs,
  freeLabel,
  insertEvents,
  insertMap,
  insertSection,
  kindOfName,
  moveSection,
  patchSectionBy,
  pieceAsVariant,
  readForm,
  removeEvents,
  renameVariant,
  setChordLine,
  setContext,
  setDifference,
  setJoint,
  setRoute,
  setRow,
  setRowSound,
  spelledRoute,
  writeOut,
} from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const note = (id: string, fret: number, at: number, string = 5): RiffEvent =>
  makeEvent(id, quarter(at), quarter(1), [
    makeNote(`${id}n`, ([64, 59, 55, 50, 45, 40][string - 1] ?? 0) + fret, 'instructor', {
      place: makePlace(string, fret, 'instructor'),
    }),
  ]);
const bar = (id: string, frets: readonly number[], from = 0): RiffEvent[] =>
  frets.map((fret, i) => note(`${id}${i}`, fret, from + i));
const piece = makePiece('p', 'P', {
  context: { tempo: [{ at: ZERO, bpm: 100 }], key: [{ at: ZERO, tonic: 'E', mode: 'minor' }] },
  parts: [
    makePart('g', 'Guitar', setup, {
      riffs: [
        makeRiff('a', 'A', { events: bar('a', [3, 3, 5, 3]) }),
        makeRiff('b', 'B', { bars: 2, events: bar('b', [1, 2, 3, 4]) }),
      ],
    }),
    makePart('h', 'Second', setup, { riffs: [makeRiff('c', 'A', { events: bar('c', [7, 7, 9, 7]) })] }),
  ],
});
const done = (of: Piece, edit: Edit): Piece => {
  const after = must(applyEdit(of, edit));
  must(checkPiece(after));
  expect({ ...must(applyEdit(after, must(invertEdit(of, edit)))), lastId: 0 }).toEqual({ ...of, lastId: 0 });
  return after;
};
const by = (of: Piece, edit: ReturnType<typeof setRow>): Piece => done(of, must(edit));
const rowOf = (of: Piece, section: string, part = 'g'): string => {
  const found = of.parts.find((one) => one.id === part);
  return found
    ? printRow(of.sections.find((one) => one.id === section)?.rows.find((one) => one.part === part)?.uses ?? [], found)
    : '';
};
const partIn = (of: Piece, id: string) => {
  const part = of.parts.find((one) => one.id === id);
  if (!part) throw new Error('no such part');
  return part;
};
const [firstMap] = BAR_MAPS as readonly [(typeof BAR_MAPS)[number]];
const typed = (of: Piece, section: string, line: string, part = 'g'): Piece =>
  by(of, setRow(of, section, part, must(parseRow(line, partIn(of, part)))));
const frets = (of: Piece, part = 'g'): string =>
  resolve(of, part)
    ?.riff.events.map((event) => event.notes[0]?.place?.fret)
    .join(' ') ?? '';

describe('sections', () => {
  const { edit, id } = insertSection(piece, { name: 'Verse', bars: 4 });
  const verse = done(piece, edit);

  it('are added with a kind by their name, renamed, moved, deleted from the route too', () => {
    expect(verse.sections[0]).toMatchObject({ name: 'Verse', kind: 'verse', bars: 4, rows: [] });
    expect(['Big intro', 'Chorus', 'Coda', 'Moth dance'].map(kindOfName)).toEqual([
      'intro',
      'refrain',
      'ending',
      'other',
    ]);
    expect([freeLabel(verse.sections, 'Verse'), freeLabel(verse.sections, 'Bridge')]).toEqual(['Verse 2', 'Bridge']);
    const routed = by(verse, setRoute(verse, must(parseRoute('verse 2 times, coda, verse', verse.sections))));
    expect(routed.sections.map((one) => one.name)).toEqual(['Verse', 'coda']);
    expect(printRoute(routed.form, routed.sections)).toBe('Verse 2 times, coda, Verse');
    const moved = by(routed, moveSection(routed, routed.sections[1]?.id ?? '', 0));
    expect(moved.sections.map((one) => one.name)).toEqual(['coda', 'Verse']);
    expect(moved.form).toEqual(routed.form);
    const gone = by(routed, deleteSection(routed, id));
    expect(printRoute(gone.form, gone.sections)).toBe('coda');
    expect(patchSectionBy(routed, id, { name: 'Verse' }).ok).toBe(false);
    expect(
      by(routed, patchSectionBy(routed, id, { name: 'Strophe', cue: 'after the bell' })).sections[0],
    ).toMatchObject({ name: 'Strophe', cue: 'after the bell' });
    const added = insertSection(routed, { name: 'Bridge', bars: 2 });
    expect(done(routed, added.edit).form.at(-1)).toMatchObject({ section: added.id, plays: 1 });
    expect(
      moveSection(routed, 'nowhere', 0).ok ||
        deleteSection(routed, 'nowhere').ok ||
        setContext(routed, 'nowhere', {}).ok,
    ).toBe(false);
  });

  it('take chords as they are typed, and a map of bars in a key', () => {
    const chords = by(verse, setChordLine(verse, id, '| Em | C | D | Em B7 |'));
    expect(chords.sections[0]?.context?.chords?.map((one) => one.chord)).toEqual(['Em', 'C', 'D', 'Em', 'B7']);
    expect(by(chords, setChordLine(chords, id, '')).sections[0]?.context).toBeUndefined();
    expect(setChordLine(verse, id, '| Em | C | D | Em | Em |').ok).toBe(false);
    const map = must(insertMap(verse, firstMap, 'Verse', { tonic: 'E', mode: 'major' }));
    const laid = done(verse, map.edit);
    expect(laid.sections[1]).toMatchObject({ name: 'Verse 2', bars: 12 });
    expect(laid.sections[1]?.context?.chords?.[0]).toMatchObject({ chord: 'E7', dur: '16' });
    const dropped = by(laid, dropRiff(laid, map.id, 'g', { riff: 'a', plays: 4 }, 4));
    expect(rowOf(dropped, map.id)).toBe('rest 4 bars, A 4 times');
    const more = by(
      dropped,
      dropRiff(dropped, map.id, 'g', { riff: 'b', plays: 1, move: { by: 'chord', chord: 'A7' } }, 6),
    );
    expect(rowOf(more, map.id)).toBe('rest 4 bars, A 2 times, B to A7');
    expect(rowOf(by(more, dropRiff(more, map.id, 'g', { riff: 'a', plays: 1 }, 0)), map.id)).toBe(
      'A, rest 3 bars, A 2 times, B to A7',
    );
    const taken = dropRiff(more, map.id, 'g', { riff: 'a', plays: 1 }, 7);
    expect(taken.ok ? '' : taken.error.rule).toBe('taken');
  });

  it('a row that changes keeps the ids of uses that stay, and what the route says of them', () => {
    const variant = must(addVariant(verse, 'a', 'ending', bar('a', [3, 3, 5, 7])));
    const first = typed(done(verse, variant.edit), id, 'A 2 times, B');
    const route = by(first, setRoute(first, must(parseRoute('verse 2 times', first.sections))));
    const [use] = route.sections[0]?.rows[0]?.uses ?? [];
    const entry = route.form[0]?.id ?? '';
    const told = by(route, setDifference(route, entry, use?.id ?? '', ['last'], { variant: variant.id }));
    expect(frets(told)).toBe('3 3 5 3 3 3 5 3 1 2 3 4 3 3 5 7 3 3 5 7 1 2 3 4');
    const kept = typed(told, id, 'B, A 3 times');
    expect(kept.sections[0]?.rows[0]?.uses[1]?.id).toBe(use?.id);
    expect(kept.form[0]?.differences).toHaveLength(1);
    expect(typed(told, id, 'B').form[0]?.differences).toBeUndefined();
    const joint = by(told, setJoint(told, entry, use?.id ?? '', variant.id));
    expect(by(joint, setJoint(joint, entry, use?.id ?? '', null)).form[0]?.joints).toBeUndefined();
    const back = by(told, setDifference(told, entry, use?.id ?? '', ['last'], null));
    expect(back.form[0]?.differences).toBeUndefined();
    const loud = by(told, setRowSound(told, id, 'h', { level: 40, tone: 'clean' }));
    expect(loud.sections[0]?.rows.map((one) => [one.part, one.level, one.tone])).toEqual([
      ['g', undefined, undefined],
      ['h', 40, 'clean'],
    ]);
    expect(by(loud, setRowSound(loud, id, 'h', { level: null, tone: '' })).sections[0]?.rows[1]).toEqual({
      part: 'h',
      uses: [],
    });
  });

  it('a form is made of the riffs there are: one name in two parts sounds together', () => {
    const laid = by(piece, formFromRiffs(piece));
    expect(laid.sections.map((one) => [one.name, one.bars, one.rows.map((row) => row.part).join('')])).toEqual([
      ['A', 1, 'gh'],
      ['B', 2, 'g'],
    ]);
    expect([frets(laid), frets(laid, 'h')]).toEqual(['3 3 5 3 1 2 3 4', '7 7 9 7']);
    expect(spelledRoute(verse).map((one) => one.section)).toEqual([id]);
  });
});

describe('variants', () => {
  const made = must(addVariant(piece, 'a', 'ending', bar('a', [3, 3, 5, 7])));
  const varied = done(piece, made.edit);
  const shown = (of: Piece): string =>
    findRiff(pieceAsVariant(of, 'a', made.id) ?? of, 'a')
      ?.riff.events.map((event) => event.notes[0]?.place?.fret)
      .join(' ') ?? '';
  const findings = (of: Piece): string[] => {
    const { edit, id } = insertSection(of, {
      name: 'Verse',
      bars: 1,
      rows: [{ part: 'g', uses: [{ id: 'u', riff: 'a', plays: 1, variant: made.id }] }],
    });
    expect(id).not.toBe('');
    return resolve(must(applyEdit(of, edit)), 'g')?.findings.map((one) => one.rule) ?? [];
  };

  it('follow corrections of their riff, and say where they can’t', () => {
    expect(shown(varied)).toBe('3 3 5 7');
    const corrected = by(varied, {
      ok: true,
      value: { type: 'putEvents', part: 'g', riff: 'a', put: [note('a1', 2, 1)], remove: [] },
    });
    expect([shown(corrected), findings(corrected)]).toEqual(['3 2 5 7', []]);
    const behind = by(varied, {
      ok: true,
      value: { type: 'putEvents', part: 'g', riff: 'a', put: [note('a3', 8, 3)], remove: [] },
    });
    expect([shown(behind), findings(behind)]).toEqual(['3 3 5 7', ['variant-behind']]);
    const lost = by(varied, removeEvents(varied, 'a', ['a3']));
    expect([shown(lost), findings(lost)]).toEqual(['3 3 5', ['variant-lost']]);
  });

  it('go along when the riff is moved in time', () => {
    const pushed = by(varied, insertEvents(varied, 'a', [note('new', 12, 1)], quarter(2), 'by-beat'));
    expect(shown(pushed)).toBe('3 12 3 5 7');
  });

  it('are edited as if they were riffs; the riff itself stays as it is', () => {
    const edited = by(
      varied,
      editAsVariant(
        varied,
        'a',
        made.id,
        must(removeEvents(must({ ok: true, value: pieceAsVariant(varied, 'a', made.id) ?? varied }), 'a', ['a1'])),
      ),
    );
    expect(shown(edited)).toBe('3 5 7');
    expect(findRiff(edited, 'a')?.riff.events).toEqual(findRiff(piece, 'a')?.riff.events);
    const named = by(edited, renameVariant(edited, 'a', made.id, 'last time'));
    expect(findRiff(named, 'a')?.riff.variants?.[0]?.name).toBe('last time');
    expect(findRiff(by(named, renameVariant(named, 'a', made.id, null)), 'a')?.riff.variants).toBeUndefined();
  });

  it('and moved uses are written out as riffs of their own', () => {
    const { edit, id } = insertSection(varied, { name: 'Verse', bars: 2 });
    const used = typed(done(varied, edit), id, 'A as ending up 2 frets 2 times');
    const use = used.sections[0]?.rows[0]?.uses[0]?.id ?? '';
    const out = by(used, writeOut(used, id, 'g', use));
    expect(frets(out)).toBe(frets(used));
    expect(out.sections[0]?.rows[0]?.uses[0]).toEqual({ id: use, riff: out.parts[0]?.riffs[1]?.id, plays: 2 });
  });
});

/** A long part as players make them: cells that come again, also moved, with a note changed, or with another end. */
const longArbitrary = fc
  .array(fc.record({ cell: fc.nat({ max: 2 }), move: fc.nat({ max: 3 }), change: fc.nat({ max: 7 }) }), {
    minLength: 3,
    maxLength: 12,
  })
  .chain((plan) =>
    fc.tuple(
      fc.constant(plan),
      fc.array(fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 4, maxLength: 4 }), {
        minLength: 3,
        maxLength: 3,
      }),
    ),
  )
  .map(([plan, cells]): Riff => {
    const events = plan.flatMap(({ cell, move, change }, i) =>
      (cells[cell] ?? []).map((fret, k): RiffEvent => {
        const moved = fret + ([0, 0, 5, 2][move] ?? 0) + (change === k ? 1 : 0);
        return { ...note(`l${i}x${k}`, moved, 0), at: add(mul(quarter(4), i), quarter(k)) };
      }),
    );
    return makeRiff('long', 'Long', { bars: plan.length, events });
  });

describe('folding', () => {
  it('unfolds to what was folded, whatever is accepted, and is one step', () => {
    let folded = 0;
    fc.assert(
      fc.property(longArbitrary, fc.array(fc.nat({ max: 11 }), { maxLength: 3 }), (riff, refused) => {
        const long = makePiece('p', 'P', { parts: [makePart('g', 'Guitar', setup, { riffs: [riff] })] });
        const plan = foldPlan(riff, setup);
        if (!plan) return;
        folded++;
        const made = must(foldRiff(long, 'long', withoutBlocks(plan, new Set(refused))));
        const after = done(long, made.edit);
        const line = resolve(after, 'g');
        expect(differencesOf(riff.events, line?.riff.events ?? [])).toEqual([]);
        expect(line?.map.bars).toBe(barCount(riff));
        expect(after.parts[0]?.riffs.some((one) => one.id === 'long')).toBe(false);
      }),
      { numRuns: 200 },
    );
    expect(folded).toBeGreaterThan(50);
  });

  it('finds exact repeats, moved ones and near ones, and tells the differences', () => {
    const cell = [3, 5, 3, 1];
    const events = [cell, cell, cell.map((fret) => fret + 5), cell.map((fret, i) => (i === 3 ? 8 : fret))].flatMap(
      (frets, i) => frets.map((fret, k) => note(`m${i}x${k}`, fret, 4 * i + k)),
    );
    const plan = foldPlan(makeRiff('m', 'M', { bars: 4, events }), setup);
    expect(plan?.blocks.map((block) => [block.kind, block.of, block.move?.by, block.differences.length])).toEqual([
      ['new', null, undefined, 0],
      ['exact', 0, undefined, 0],
      ['moved', 0, 'frets', 0],
      ['near', 0, undefined, 1],
    ]);
  });
});

describe('commands of the form', () => {
  it('on generated forms: each can be taken back exactly and leaves a piece that can be read', () => {
    fc.assert(
      fc.property(formArbitrary, fc.nat({ max: 20 }), (of, n) => {
        const section = of.sections[n % of.sections.length];
        const part = of.parts[n % 2];
        const [riff] = part?.riffs ?? [];
        if (!section || !part || !riff) throw new Error('an empty piece was generated');
        const line = printRow(section.rows.find((one) => one.part === part.id)?.uses ?? [], part);
        const edits = [
          setRow(
            of,
            section.id,
            part.id,
            must(parseRow(`${line ? `${line}, ` : ''}${printRow([{ riff: riff.id, plays: 2 }], part)}`, part)),
          ),
          deleteSection(of, section.id),
          moveSection(of, section.id, n),
          setRoute(of, must(parseRoute(printRoute(spelledRoute(of), of.sections), of.sections))),
          setRowSound(of, section.id, part.id, { level: n }),
          { ok: true, value: insertSection(of, { name: 'New', bars: 3 }).edit } as const,
        ];
        for (const edit of edits) if (edit.ok) done(of, edit.value);
      }),
      { numRuns: 60 },
    );
  });
});

describe('the form as text', () => {
  it('prints what it reads: sections, context, rows, order; read into an empty piece it plays the same', () => {
    fc.assert(
      fc.property(formArbitrary, (of) => {
        const text = printForm(of);
        const bare: Piece = { ...of, sections: [], form: [] };
        const again = must(applyEdit(bare, must(readForm(bare, text))));
        expect(printForm(again)).toBe(text);
        const fretsOf = (one: Piece, part: string) =>
          resolve(one, part)?.riff.events.map((event) => [event.at, event.notes.map((each) => each.pitch.midi)]);
        // What only the route says by pass is not in the text.
        if (of.form.every((entry) => !entry.differences && !entry.joints))
          for (const part of of.parts) expect(fretsOf(again, part.id)).toEqual(fretsOf(of, part.id));
        const same = readForm(again, text);
        expect(same.ok || same.error.rule === 'no-change').toBe(true);
      }),
      { numRuns: 60 },
    );
  });
  it('changes sections that are there, and says which line it can’t read', () => {
    const made = by(
      piece,
      readForm(
        piece,
        'Verse, 4 bars\n  meter: 3/4\n  chords: | Em | % | D 2 B7 1 |\n  cue: the bell\n  Guitar: A 2 times\n  Second: rest 2 bars, A\norder: verse 2 times, verse held',
      ),
    );
    expect(made.sections[0]).toMatchObject({ name: 'Verse', bars: 4, cue: 'the bell' });
    expect(printForm(made)).toContain('chords: | Em | Em | D B7 |');
    const longer = by(
      made,
      readForm(made, 'verse, 6 bars\n  key: G major\n  tempo: 90\n  swing: 66\n  bass notes: | E |'),
    );
    expect(printForm(longer)).toContain('Verse, 6 bars');
    expect(longer.sections).toHaveLength(1);
    const key = must(applyEdit(piece, { type: 'patchPart', part: 'h', set: { name: 'Key' }, clear: [] }));
    const quoted = by(key, readForm(key, 'Verse, 4 bars\n  key: E minor\n  "Key": A 2 times'));
    expect(printForm(quoted)).toBe('Verse, 4 bars\n  key: E minor\n  "Key": A 2 times');
    const fault = (text: string): string => {
      const read = readForm(piece, text);
      return read.ok ? 'ok' : `${read.error.rule} ${read.error.locus.text?.from ?? ''}`.trim();
    };
    expect(fault('Guitar: A')).toBe('form-text 0');
    expect(fault('Verse, 4 bars\n  Drums: A')).toBe('no-part 14');
    expect(fault('Verse, 4 bars\n  Guitar: Z')).toBe('no-riff 14');
    expect(fault('Verse, 4 bars\n  tempo: fast')).toBe('tempo 14');
    expect(fault('Verse, 4 bars\n  chords: | X |')).toMatch(/^unknown-chord/);
    expect(fault('Verse, 4 bars\n  nothing')).toBe('form-text 14');
    expect(fault('')).toBe('no-change');
  });
});
