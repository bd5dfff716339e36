import { renderToStaticMarkup } from 'react-dom/server';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { pieceToMidi } from '@/core/formats/midi';
import type { Answers } from '@/core/formats/music';
import { makePiece } from '@/core/score';
import { buildDemoPiece } from '@/server/demo';
import type { FileSummary, ImportDoor } from '@/workers/import.worker';
import { comlinkStandIn, openDoor } from '@/workers/test-support/door';
import { DEMO_PIECES } from '../../../demo/pieces';
import { FileCard } from './file-card';
import { QuestionList } from './question-list';
import { TextPreview } from './text-preview';
import type { ImportedFile } from './use-import';
import { textOf } from '@/ui/test-support/text';

/** The import desk as it is drawn, of what the reader really says of a file. */
vi.mock('comlink', () => comlinkStandIn());

const moth = must(
  buildDemoPiece(DEMO_PIECES.find((one) => one.title === 'Moth at the Lamp') as (typeof DEMO_PIECES)[0]),
);

let read: (bytes: Uint8Array, answers?: Answers) => Promise<FileSummary>;
beforeEach(async () => {
  const door = await openDoor<ImportDoor>(() => import('@/workers/import.worker'));
  read = async (bytes, answers = {}) => must(await door.read('a', bytes, { grid: 'auto', answers }, () => undefined));
});
const bytes = (typed: string): Uint8Array => new TextEncoder().encode(typed);

const fileOf = (name: string, reading: ImportedFile['reading'], answers: Answers = {}): ImportedFile => ({
  ...{ id: 'a', name, bytes: new Uint8Array(0), grid: 'auto', answers, reading },
  parts:
    reading.state === 'read'
      ? reading.summary.parts.map((part) => ({
          ...{ take: part.kind !== 'drums', name: part.name, setup: part.setup, shift: null, trust: null },
        }))
      : [],
});
const card = (file: ImportedFile): string =>
  renderToStaticMarkup(
    <FileCard
      {...{ file, shown: null, onShow: vi.fn(), onPlan: vi.fn(), onRead: vi.fn(), onRemove: vi.fn(), onStop: vi.fn() }}
    />,
  );
const shown = async (name: string, file: Uint8Array): Promise<string> =>
  card(fileOf(name, { state: 'read', summary: await read(file) }));

describe('a file on the desk', () => {
  it('that is being read says how far, and can be stopped', () => {
    const html = card(fileOf('long.mid', { state: 'reading', share: 0.4 }));
    expect(html).toContain('value="0.4"');
    expect(textOf(html)).toContain('Stop');
  });

  it('that can’t be read says which and why', () => {
    const html = card(fileOf('shopping.txt', { state: 'fault', words: 'This is no music the program reads.' }));
    expect(html).toContain('role="alert"');
    expect(textOf(html)).toContain('“shopping.txt”: This is no music the program reads.');
  });

  it('of MIDI shows its parts with their range, and offers grids', async () => {
    const html = await shown('moth.mid', pieceToMidi(moth));
    for (const part of moth.parts) expect(html, part.name).toContain(`aria-label="Bring in ${part.name}"`);
    expect(textOf(html)).toMatch(/\d+ notes [A-G]♯?♭?\d – [A-G]♯?♭?\d/);
    expect(textOf(html)).toContain('Draw times to');
  });

  it('of text shows the text, and every place in doubt by its line', async () => {
    const tab = 'G|--------|\nD|--2-?--|\nA|0-----3-|\nE|--------|\n';
    const html = await shown('pasted.txt', bytes(tab));
    expect(html).toContain('aria-label="Text of the tab"');
    expect(textOf(html)).toContain('Line 2: “?” means nothing here');
    expect(html).toContain('<mark');
    expect(textOf(html)).not.toContain('Draw times to');
  });

  it('that is a whole piece says that it comes in as one', async () => {
    const whole = makePiece('p', 'Whole', { parts: [] });
    const html = await shown('whole.json', bytes(JSON.stringify(whole)));
    expect(textOf(html)).toContain('A whole piece');
    expect(html).not.toContain('Parts of whole.json');
  });

  it('shows a part without notes, and drums, as nothing to bring in', async () => {
    const xml = `<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Guitar</part-name></score-part><score-part id="P2"><part-name>Silent</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions></attributes><note><pitch><step>E</step><octave>3</octave></pitch><duration>4</duration></note></measure></part><part id="P2"><measure number="1"><note><rest/><duration>4</duration></note></measure></part></score-partwise>`;
    const html = await shown('two.musicxml', bytes(xml));
    expect(html).toMatch(/aria-label="Bring in Silent"[^>]*disabled|disabled[^>]*aria-label="Bring in Silent"/);
    expect(textOf(html)).toContain('no notes');
    expect(textOf(html)).toContain('1 note ');
  });
});

describe('what a file leaves open', () => {
  const question = {
    id: 'q1',
    usual: 'pitch',
    finding: { rule: 'two-ways', severity: 'question', words: 'Fret and pitch differ: which is meant?', locus: {} },
    answers: [
      { id: 'pitch', words: 'The pitch' },
      { id: 'place', words: 'String and fret' },
    ],
  } as unknown as Parameters<typeof QuestionList>[0]['questions'][number];
  const draw = (answers: Answers): string =>
    renderToStaticMarkup(<QuestionList questions={[question]} answers={answers} name="a" onAnswer={vi.fn()} />);
  /** The words beside the radio that is on. */
  const chosen = (html: string): string => /<input[^>]*checked=""[^>]*\/?>([^<]*)/.exec(html)?.[1] ?? '';

  it('is asked with what is done unasked chosen, or what was answered', () => {
    expect(textOf(draw({}))).toContain('Fret and pitch differ: which is meant?');
    expect(chosen(draw({}))).toBe('The pitch');
    expect(chosen(draw({ q1: 'place' }))).toBe('String and fret');
    expect(renderToStaticMarkup(<QuestionList questions={[]} answers={{}} name="a" onAnswer={vi.fn()} />)).toBe('');
  });

  it('in a text is marked once where stretches overlap, and the text is whole', () => {
    const typed = 'A|0-??--3-|\nE|--------|\n';
    const doubt = (from: number, to: number) => ({
      ...{ rule: 'x', severity: 'question' as const, words: `from ${from}`, evidence: null, mends: [] },
      locus: { text: { from, to } },
    });
    const html = renderToStaticMarkup(
      <TextPreview text={typed} doubts={[doubt(4, 6), doubt(5, 7), doubt(14, 15)]} onChange={vi.fn()} />,
    );
    expect(html.match(/<mark/g)).toHaveLength(3);
    const pre = /<pre[^>]*>(.*?)<\/pre>/s.exec(html)?.[1]?.replaceAll(/<[^>]+>/g, '');
    expect(pre).toBe(typed);
    expect(textOf(html)).toContain('Line 2: from 14');
  });
});
