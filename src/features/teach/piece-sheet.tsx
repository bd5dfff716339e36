import { counted } from '@/core/base';
import { Fragment } from 'react';
import { callRiff } from '@/core/callout';
import {
  mapOf,
  playsWords,
  resolve,
  sheetOf,
  stopWords,
  type SheetBlock,
  type SheetMusic,
  type SheetSection,
} from '@/core/form';
import { capoWords, changesFromReference, retunePlan, spellTuning, type Setup } from '@/core/instrument';
import { keyLabels, pitchLabel } from '@/core/schools';
import { findPart, keyOf, type Part, type Piece } from '@/core/score';
import { swingWords } from '@/core/time';
import { Dial } from '@/ui/draw/dial';
import { useSchools } from '@/ui/schools';
import { Music, type Printed } from './music';
import { cautions, tempoWords } from './sheet-common';

export interface SheetChoice {
  readonly parts: readonly string[];
  /** Sections by id; null for all. */
  readonly sections: readonly string[] | null;
  readonly unfolded: boolean;
  readonly staff: boolean;
  readonly fingers: boolean;
  readonly strokes: boolean;
  readonly spoken: boolean;
  readonly large: boolean;
  /** Sounds of the parts, with where their knobs stand. */
  readonly tones: boolean;
  /** Parts under one another as a score, every bar of them. */
  readonly together: boolean;
}

const partTitle = (part: Part): string => (part.role ? `${part.name}, ${part.role}` : part.name);

/** The piece as it prints: a title, the order of playing, and each chosen part with its own head. */
export function PieceSheet({ piece, choice }: { readonly piece: Piece; readonly choice: SheetChoice }) {
  const parts = choice.parts.flatMap((id) => findPart(piece, id) ?? []);
  const map = mapOf(piece);
  if (parts.length === 0) return <p>Choose a part to print.</p>;
  const score = choice.together && parts.length > 1;
  return (
    <div className={choice.large ? 'flex flex-col gap-5 text-[17px]' : 'flex flex-col gap-4'}>
      <header className="border-b border-black/60 pb-2">
        <h2 className={choice.large ? 'text-4xl' : 'text-3xl'}>{piece.title}</h2>
        <div className="flex flex-wrap items-baseline justify-between gap-x-6">
          <p>
            {score
              ? parts.map((part) => part.name).join(', ')
              : parts.length === 1
                ? partTitle(parts[0] as Part)
                : counted(parts.length, 'part')}
          </p>
          {piece.credit ? <p className="text-[14px]">{piece.credit}</p> : null}
        </div>
      </header>
      {piece.sections.length > 0 ? <Order piece={piece} /> : <p>There is no form yet: lay out sections first.</p>}
      {score ? (
        <>
          <div className="flex flex-col gap-1.5">
            {parts.map((part) => (
              <Fragment key={part.id}>
                <SetupLine piece={piece} part={part} named />
                {choice.tones ? <ToneLines part={part} /> : null}
              </Fragment>
            ))}
          </div>
          <Score piece={piece} parts={parts} choice={choice} />
        </>
      ) : (
        parts.map((part, i) => (
          <section
            key={part.id}
            aria-label={part.name}
            className={i > 0 ? 'flex break-before-page flex-col gap-4' : 'flex flex-col gap-4'}
          >
            {parts.length > 1 ? <h3 className="border-b border-black/40 text-2xl">{partTitle(part)}</h3> : null}
            <SetupLine piece={piece} part={part} named={false} />
            {choice.tones ? <ToneLines part={part} /> : null}
            <OnePart piece={piece} part={part} choice={choice} />
          </section>
        ))
      )}
      <footer className="mt-1 text-[12px] leading-5">
        {choice.fingers ? 'Digits under the rhythm are fingers: 1 index to 4 little. ' : ''}Stop at pain and rest; a
        clinician helps if it lasts.
        {parts.map((part) => cautions(part.setup)).find(Boolean) ?? ''}
        {map.bars > 0 ? ` ${counted(map.bars, 'bar')} in all.` : ''}
      </footer>
    </div>
  );
}

/** The order of playing in a line, with the bars each place begins at. */
function Order({ piece }: { readonly piece: Piece }) {
  const map = mapOf(piece);
  const firsts = map.passes.filter((pass) => pass.pass === 1);
  return (
    <p className="break-inside-avoid leading-6">
      {firsts.map((pass, i) => (
        <Fragment key={pass.index}>
          {i > 0 ? ' – ' : ''}
          <b>{pass.section.name}</b>
          {pass.passes > 1 ? ` ${playsWords(pass.passes)}` : ''}
          {pass.entry?.stop ? `, ${stopWords(pass.entry.stop)}` : ''}
          <span className="text-[13px]"> ({pass.firstBar + 1})</span>
        </Fragment>
      ))}
    </p>
  );
}

/** How a part is tuned and what it stands in, said once: with the way there from the usual tuning. */
function SetupLine({ piece, part, named }: { readonly piece: Piece; readonly part: Part; readonly named: boolean }) {
  const schools = useSchools();
  const { setup } = part;
  const key = keyOf(piece, null);
  const map = mapOf(piece);
  const [feel] = map.feel;
  return (
    <p className="break-inside-avoid text-[14px] leading-[20px]">
      {named ? <b>{part.name}: </b> : null}
      {setup.instrument.name}, tuned{' '}
      <b className="font-figures">{spellTuning(setup.open, setup.absent, setup.signs)}</b> from thick to thin
      {retuning(setup, schools.notes)}; capo {capoWords(setup)}
      {key ? `; ${keyLabels(key, setup, schools).words}` : ''}
      {named ? '' : `; ${tempoWords(map.tempo.slice(0, 1))}`}
      {!named && feel ? `, ${feel.swing === 50 ? 'straight' : `swing ${swingWords(feel.swing)}`}` : ''}
      {part.tone ? `; tone: ${part.tone}` : ''}.
    </p>
  );
}

/** The sounds of a part: what each should be, and pictures of its knobs. */
function ToneLines({ part }: { readonly part: Part }) {
  return (part.tones ?? []).map((tone) => (
    <div key={tone.name} className="flex break-inside-avoid flex-wrap items-center gap-x-4 gap-y-1 text-[14px]">
      <span>
        <b>{tone.name}</b>
        {tone.goal ? `: ${tone.goal}` : ''}
      </span>
      {tone.knobs.map((knob, i) => (
        <span key={i} className="flex items-center gap-1.5">
          <Dial value={knob.value} print />
          {knob.device} {knob.knob} {knob.value}
        </span>
      ))}
    </div>
  ));
}

/** ": string 6 down 2 to D" where the tuning is not the instrument's usual one. */
function retuning(setup: Setup, notes: Parameters<typeof pitchLabel>[1]): string {
  const usual = setup.instrument.strings.map((string) => string.pitch);
  if (changesFromReference(setup.instrument, setup.open).every((change) => change === 0)) return '';
  const { steps } = retunePlan(setup.instrument, usual, setup.open, setup.absent);
  return ` (${steps.map((step) => `string ${step.string} ${step.direction} ${Math.abs(step.semitones)} to ${pitchLabel(step.to, notes)}`).join(', ')})`;
}

function Heading({ told, level: Level }: { readonly told: SheetSection; readonly level: 'h3' | 'h4' }) {
  return (
    <div className="flex break-after-avoid flex-wrap items-baseline gap-x-3">
      <Level className="border-[1.5px] border-black px-2 font-display text-lg leading-7 font-semibold">
        {told.title}
      </Level>
      <span className="text-[14px]">{told.words}</span>
      {told.remarks.map((remark) => (
        <i key={remark} className="text-[14px]">
          {remark}
        </i>
      ))}
      {told.tone ? <span className="text-[14px]">tone: {told.tone}</span> : null}
    </div>
  );
}

/** One part, section by section: its riffs once, named where they return. */
function OnePart({
  piece,
  part,
  choice,
}: {
  readonly piece: Piece;
  readonly part: Part;
  readonly choice: SheetChoice;
}) {
  const schools = useSchools();
  const { sections } = sheetOf(piece, part.id, {
    unfolded: choice.unfolded,
    schools,
    ...(choice.sections ? { sections: new Set(choice.sections) } : {}),
  });
  const line = resolve(piece, part.id);
  const meterNew = newMeters(sections);
  return (
    <>
      {sections.map((told, i) => (
        <div key={`${told.section.id} ${i}`} className="flex flex-col gap-2">
          <Heading told={told} level={choice.parts.length > 1 && !choice.together ? 'h4' : 'h3'} />
          {told.blocks.length === 0 ? <p className="text-[14px]">Nothing is played here.</p> : null}
          {told.blocks.map((block, k) => (
            <Block key={k} {...{ block, part, piece, choice }} meterShown={meterNew.has(block)} />
          ))}
        </div>
      ))}
      {choice.spoken && line ? (
        <section
          aria-label="Spoken"
          className="gap-8 text-[11.5px] leading-[1.45] min-[600px]:columns-2 print:columns-2"
        >
          {sections
            .flatMap((told) => told.blocks)
            .flatMap((block) => (block.kind === 'music' ? [block] : []))
            .map((block, k) => (
              <div key={k} className="mb-2 break-inside-avoid">
                <b>
                  {block.label || 'From'} bar {block.bar}
                </b>
                {callRiff(block.riff, part.setup, {
                  schools,
                  key: block.riff.key ?? keyOf(piece, null),
                  short: true,
                }).map((words) => (
                  <p key={words}>{words}</p>
                ))}
              </div>
            ))}
        </section>
      ) : null}
    </>
  );
}

/** The music at which a meter stands for the first time, or another than before. */
function newMeters(sections: readonly SheetSection[]): ReadonlySet<SheetBlock> {
  const out = new Set<SheetBlock>();
  let before = '';
  for (const block of sections.flatMap((told) => told.blocks)) {
    if (block.kind !== 'music') continue;
    const [first] = block.riff.meters;
    const last = block.riff.meters.at(-1);
    if (`${first?.beats}/${first?.unit}` !== before) out.add(block);
    before = `${last?.beats}/${last?.unit}`;
  }
  return out;
}

function Block({
  block,
  part,
  piece,
  choice,
  meterShown,
}: {
  readonly block: SheetBlock;
  readonly part: Part;
  readonly piece: Piece;
  readonly choice: SheetChoice;
  readonly meterShown: boolean;
}) {
  if (block.kind === 'rest')
    return (
      <p className="break-inside-avoid text-[14px]">
        <span className="text-[12px]">{block.bar}</span> <i>{block.words}</i>
      </p>
    );
  if (block.kind === 'again')
    return (
      <div className="flex break-inside-avoid items-baseline gap-3 border-x-[1.5px] border-black bg-black/5 px-3 py-1 print:bg-transparent">
        <span className="text-[12px]">{block.bars > 1 ? `${block.bar}–${block.bar + block.bars - 1}` : block.bar}</span>
        <b>{block.label}</b>
        <span className="text-[14px]">{block.words}</span>
        <span className="ml-auto font-semibold">{block.chords.map((chord) => chord.name).join('  ')}</span>
      </div>
    );
  return <MusicBlock block={block} printed={[{ part, riff: block.riff }]} {...{ piece, choice, meterShown }} />;
}

function MusicBlock({
  block,
  printed,
  piece,
  choice,
  meterShown,
}: {
  readonly block: SheetMusic;
  readonly meterShown: boolean;
  readonly printed: readonly Printed[];
  readonly piece: Piece;
  readonly choice: SheetChoice;
}) {
  const head = [block.label, block.words].filter(Boolean);
  return (
    <div className={block.ending ? 'border-t-[1.5px] border-l-[1.5px] border-black pt-0.5 pl-2' : ''}>
      {head.length > 0 ? (
        <p className="break-after-avoid text-[14px] leading-5">
          <b>{block.ending ? block.words : block.label}</b>
          {block.ending ? ` (${block.label})` : block.words ? ` ${block.words}` : ''}
        </p>
      ) : null}
      <Music
        printed={printed}
        keyShown={block.riff.key ?? keyOf(piece, null)}
        firstNumber={block.bar}
        chords={block.chords}
        {...{ meterShown }}
        repeated={block.repeated}
        choice={choice}
      />
    </div>
  );
}

const meterOf = (told: SheetSection | undefined, at: 0 | -1): string => {
  const [block] = told?.blocks ?? [];
  const meter = block?.kind === 'music' ? block.riff.meters.at(at) : undefined;
  return `${meter?.beats}/${meter?.unit}`;
};
const changedMeter = (before: SheetSection | undefined, told: SheetSection): boolean =>
  meterOf(before, -1) !== meterOf(told, 0);

/** All chosen parts under one another, every bar of them. */
function Score({
  piece,
  parts,
  choice,
}: {
  readonly piece: Piece;
  readonly parts: readonly Part[];
  readonly choice: SheetChoice;
}) {
  const schools = useSchools();
  const options = { unfolded: true, schools, ...(choice.sections ? { sections: new Set(choice.sections) } : {}) };
  const sheets = parts.map((part) => ({ part, sheet: sheetOf(piece, part.id, options) }));
  const [lead] = sheets;
  if (!lead) return null;
  // Without repeats written out each section stands once: its first pass.
  const seen = new Set<string>();
  const shown = lead.sheet.sections
    .map((told, i) => ({ told, i }))
    .filter(({ told }) => {
      if (choice.unfolded) return true;
      if (seen.has(told.section.id)) return false;
      seen.add(told.section.id);
      return true;
    });
  return shown.map(({ told, i }) => {
    const blocks = sheets.flatMap(({ part, sheet }) => {
      const [block] = sheet.sections[i]?.blocks ?? [];
      return block?.kind === 'music' ? [{ part, block }] : [];
    });
    const [first] = blocks;
    return first ? (
      <div key={i} className="flex flex-col gap-2">
        <Heading told={told} level={choice.parts.length > 1 && !choice.together ? 'h4' : 'h3'} />
        <MusicBlock
          block={first.block}
          meterShown={i === 0 || changedMeter(lead.sheet.sections[i - 1], told)}
          printed={blocks.map(({ part, block }) => ({ part, riff: block.riff }))}
          piece={piece}
          choice={choice}
        />
      </div>
    ) : null;
  });
}
