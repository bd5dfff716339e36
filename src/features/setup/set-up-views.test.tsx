import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { carryOver } from '@/core/carry';
import { makeSetup, setupWords, type Setup } from '@/core/instrument';
import { keyOf, tempoOf, type Piece } from '@/core/score';
import { findSetup, foundClues, questionOf, type Clue, type FinderAnswer } from '@/core/setup-finder';
import { buildDemoPiece } from '@/server/demo';
import { DEMO_PIECES } from '../../../demo/pieces';
import { CarriedRow } from './carried-row';
import { ClueDesk } from './clue-desk';
import { FoundSetups } from './found-setups';
import { HandRibbon } from './hand-ribbon';
import { textOf } from '@/ui/test-support/text';

const demo = (title: string): Piece =>
  must(buildDemoPiece(DEMO_PIECES.find((one) => one.title === title) as (typeof DEMO_PIECES)[number]));
const moth = demo('Moth at the Lamp');
const part = moth.parts[0] as Piece['parts'][number];
const riff = part.riffs[0] as (typeof part.riffs)[number];
const setupOf = (instrument: string, tuning?: string): Setup => must(makeSetup({ instrument, tuning })).setup;
const question = (clues: readonly Clue[] = []) =>
  questionOf([riff], part.setup, tempoOf(moth, riff), clues, { instruments: [part.setup.instrument] }).question;

describe('the notes and their clues, as drawn', () => {
  const draw = (clues: readonly Clue[]): string =>
    renderToStaticMarkup(
      <ClueDesk
        question={question(clues)}
        clues={clues}
        found={foundClues(question().events, question().meters)}
        onChange={vi.fn()}
      />,
    );

  it('shows every note by bar and the keys; what is said stands on its note and in the list', () => {
    const { events } = question();
    const notes = events.reduce((sum, event) => sum + event.notes.length, 0);
    const plain = draw([]);
    expect(plain.match(/data-spot/g)).toHaveLength(notes);
    expect(plain).not.toContain('aria-label="Clues"');
    const said = draw([{ kind: 'open', event: events[0]?.id ?? '', note: 0 }]);
    expect(said).toContain('aria-label="Clues"');
    expect(textOf(said)).toContain('bar 1: sounds open');
    expect(said).toMatch(/aria-label="[A-G]#?\d, bar 1, sounds open"/);
  });

  it('a clue the program sees is offered until it is said', () => {
    const [first] = foundClues(question().events, question().meters);
    if (!first) throw new Error('nothing seen in the ringing picks of the demo');
    expect(textOf(draw([]))).toContain(first.words);
    expect(textOf(draw([first.clue]))).not.toContain(first.words);
  });
});

describe('the ranking, as drawn', () => {
  const answer = findSetup(question());
  const draw = (one: FinderAnswer): string =>
    renderToStaticMarkup(
      <FoundSetups
        answer={one}
        starts={[{ riff: riff.id, bar: 0 }]}
        riffs={[riff]}
        now={part.setup}
        onUse={vi.fn()}
        onClue={vi.fn()}
      />,
    );

  it('says how sure it is, what would decide, and marks the set-up there is', () => {
    const drawn = textOf(draw(answer));
    expect(drawn).toContain(answer.certain ? 'Most likely' : 'Can’t tell yet');
    expect(drawn).toContain('as it is now');
    if (answer.ask) expect(drawn).toContain(answer.ask.first.words);
    expect(drawn).toContain(`${answer.looked} sets of open strings`);
  });

  it('says plainly when it can’t tell', () => {
    expect(textOf(draw({ ...answer, certain: false, ask: null }))).toContain('Can’t tell yet');
  });
});

describe('one set-up of the table, as drawn', () => {
  const row = (to: Setup, keep: 'sound' | 'shape', ready = true): string => {
    const made = carryOver({
      ...{ riff, from: part.setup, to, keep, tempo: tempoOf(moth, riff), key: keyOf(moth, null) },
    });
    return renderToStaticMarkup(
      <table>
        <CarriedRow
          setup={to}
          from={part.setup}
          riffs={[riff]}
          carried={ready ? [made] : null}
          keep={keep}
          octaves={undefined}
          substitute={false}
          onOctaves={vi.fn()}
          onSubstitute={vi.fn()}
          onEdition={vi.fn()}
          onMove={vi.fn()}
          onDelete={vi.fn()}
        />
      </table>,
    );
  };

  it('on strings tuned alike nothing is lost, and those strings are named', () => {
    const drawn = textOf(row(setupOf('guitar-6', 'drop-d'), 'sound'));
    expect(drawn).toContain('strings 5-4-3-2-1 are the same in both');
    expect(drawn).toContain('nothing');
    expect(drawn).toMatch(/(\d+) of \1 on their string and fret/);
    expect(drawn).toContain('written A3 to');
  });

  it('the same shape lower says what each note becomes and both keys', () => {
    const drawn = textOf(row(setupOf('guitar-6', 'down-2'), 'shape'));
    expect(drawn).toContain('A2 becomes G2');
    expect(drawn).toContain('sounds G minor, A minor shapes');
    expect(drawn).toContain('as its strings sound');
  });

  it('another instrument is named, and while it is tried that is said', () => {
    const bass = setupOf('bass-4');
    expect(textOf(row(bass, 'sound'))).toContain(`${bass.instrument.name}: ${setupWords(bass)}`);
    expect(textOf(row(bass, 'sound', false))).toContain('Trying it with the hand');
  });
});

describe('the ribbon of the hand', () => {
  it('draws both lines, and stays where the hand has nothing to do', () => {
    const drawn = renderToStaticMarkup(<HandRibbon before={[1, 1, 5, 0]} after={[0, 3, 3, 3]} label="hand" />);
    expect(drawn.match(/<path/g)).toHaveLength(2);
    expect(drawn).not.toContain('NaN');
    expect(renderToStaticMarkup(<HandRibbon before={[]} after={[0]} label="none" />)).not.toContain('NaN');
  });
});
