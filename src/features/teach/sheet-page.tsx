'use client';

import { fretTextOf } from '@/ui/draw/lanes';
import { countingWords, keyLabels } from '@/core/schools';
import { useSchools } from '@/ui/schools';
import { Printer } from 'lucide-react';
import { Link } from '@/ui/link';
import { useState } from 'react';
import { callRiff } from '@/core/callout';
import { capoWords, soundingName, spellTuning, stringNumbers } from '@/core/instrument';

import { strokesOf } from '@/core/rhythm';
import { keyOf, tempoOf, type Part, type Piece, type Riff } from '@/core/score';
import { staffBars, swingWrittenOut, type StaffChoice } from '@/core/staff';
import { barOf, swingWords } from '@/core/time';
import { Staff } from '@/ui/draw/staff';
import { LastLook } from '@/features/check/last-look';
import { Frame } from '@/features/piece/frame';
import { useRiff } from '@/features/piece/provider';
import { RiffSwitch } from '@/features/place/riff-switch';
import { packedRows } from '@/ui/draw/strip-layout';
import { tabScale, TabSystem, tabFigures, tabRoom } from '@/ui/draw/tab-system';
import { Button } from '@/ui/button';
import { SaveSheet } from './save-sheet';
import { cautions, PAPER, SHEET_WIDTH, tempoWords, type Paper } from './sheet-common';

/** The sheet as it prints, with the few choices that shape it. */
export function SheetPage({ riffId }: { readonly riffId: string }) {
  const found = useRiff(riffId);
  const [paper, setPaper] = useState<Paper>('A4');
  const [fingers, setFingers] = useState(true);
  const [spoken, setSpoken] = useState(false);
  const [short, setShort] = useState(false);
  const [staff, setStaff] = useState(false);
  const [strokes, setStrokes] = useState(false);
  if (!found)
    return (
      <Frame>
        <p className="py-20 text-center text-lg text-soft">This riff is not in the piece any more.</p>
      </Frame>
    );
  return (
    <Frame riffId={riffId} partId={found.part.id} sub={<RiffSwitch riffId={riffId} />}>
      <style>{`@page { size: ${PAPER[paper].css}; margin: 14mm 14mm 16mm; }`}</style>
      <section
        aria-label="What the sheet shows"
        className="no-print flex items-center gap-6 border-b border-rule py-3 max-[899px]:flex-wrap max-[899px]:gap-x-4 max-[899px]:gap-y-1.5 max-[899px]:py-2"
      >
        <fieldset className="flex items-center gap-4">
          <legend className="sr-only">Paper</legend>
          {(['A4', 'letter'] as const).map((path) => (
            <label key={path} className="flex items-center gap-1.5">
              <input type="radio" name="paper" checked={paper === path} onChange={() => setPaper(path)} />{' '}
              {path === 'A4' ? 'A4' : 'Letter'}
            </label>
          ))}
        </fieldset>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={fingers} onChange={(event) => setFingers(event.target.checked)} /> Fingers
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={spoken} onChange={(event) => setSpoken(event.target.checked)} /> Spoken text
          below
        </label>
        {spoken ? (
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={short} onChange={(event) => setShort(event.target.checked)} /> In short
          </label>
        ) : null}
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={staff} onChange={(event) => setStaff(event.target.checked)} /> Standard
          notation
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={strokes} onChange={(event) => setStrokes(event.target.checked)} /> Strokes
        </label>
        {found.piece.sections.length > 0 ? (
          <Link className="underline decoration-line underline-offset-4" href={`/pieces/${found.piece.id}/sheet`}>
            The whole piece
          </Link>
        ) : null}
        <LastLook />
        <SaveSheet title={`${found.piece.title}: ${found.riff.name}`} author={found.piece.credit ?? ''} paper={paper} />
        <Button tone="yours" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </Button>
      </section>
      <main className="flex min-h-0 flex-1 flex-col print:block">
        {/* Taller than the window, so it is scrolled by keys too. */}
        <div
          role="region"
          aria-label="The sheet as it prints"
          tabIndex={0}
          className="min-h-0 flex-1 overflow-auto bg-rule/40 py-6 max-[899px]:py-2 print:overflow-visible print:bg-white print:p-0"
        >
          <article
            aria-label="Sheet"
            className="mx-auto bg-white p-[14mm] text-black max-[899px]:p-3 shadow print:m-0 print:min-h-0! print:max-w-none! print:p-0 print:shadow-none"
            style={{ maxWidth: PAPER[paper].width, minHeight: PAPER[paper].height }}
          >
            <Sheet {...found} fingers={fingers} spoken={spoken} short={short} staff={staff} strokes={strokes} />
          </article>
        </div>
      </main>
    </Frame>
  );
}

function Sheet({
  piece,
  part,
  riff: asWritten,
  fingers,
  spoken,
  short,
  staff,
  strokes,
}: {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly fingers: boolean;
  readonly spoken: boolean;
  readonly short: boolean;
  readonly staff: boolean;
  readonly strokes: boolean;
}) {
  const schools = useSchools();
  const riff = schools.swing === 'triplets' ? swingWrittenOut(asWritten) : asWritten;
  const { setup } = part;
  const key = keyOf(piece, riff);
  const strings = stringNumbers(setup).reverse();
  const rows = packedRows(riff, tabRoom(SHEET_WIDTH), tabFigures(fretTextOf(setup, schools.frets)));
  const tempo = tempoOf(piece, riff);
  const choice: StaffChoice = { key, pitch: schools.staff };
  const struck = strokes
    ? new Map(strokesOf(riff, setup, riff.picking ?? schools.picking).map((struck) => [struck.event, struck]))
    : null;
  const unplaced = riff.events.some((event) => event.notes.some((note) => !note.place));
  return (
    <div className="flex flex-col gap-4">
      <header className="flex items-end justify-between border-b border-black/60 pb-2 max-[600px]:flex-wrap max-[600px]:gap-2">
        <div>
          <h2 className="text-3xl">{piece.title}</h2>
          <p>
            {part.name}
            {part.role ? `, ${part.role}` : ''} · {riff.name}
          </p>
        </div>
        <dl className="grid shrink-0 grid-cols-[auto_auto] gap-x-3 text-right text-[14px] max-[600px]:shrink">
          <dt>Tuning, thick to thin</dt>
          <dd className="font-figures font-bold">{spellTuning(setup.open, setup.absent, setup.signs)}</dd>
          <dt>Capo</dt>
          <dd className="font-bold">{capoWords(setup)}</dd>
          {setup.capos.length > 0 ? (
            <>
              <dt>Frets</dt>
              <dd className="max-w-72">{countingWords(setup, schools.frets)}</dd>
            </>
          ) : null}
          <dt>Tempo</dt>
          <dd className="font-bold">{tempoWords(tempo)}</dd>
          {riff.feel ? (
            <>
              <dt>Feel</dt>
              <dd className="font-bold">{feelWords(riff)}</dd>
            </>
          ) : null}
          {riff.plays !== undefined ? (
            <>
              <dt>Played</dt>
              <dd className="font-bold">{riff.plays === 1 ? 'once' : `${riff.plays} times`}</dd>
            </>
          ) : null}
          {key ? (
            <>
              <dt>Key</dt>
              <dd className="font-bold">{keyLabels(key, setup, schools).words}</dd>
            </>
          ) : null}
        </dl>
      </header>
      <div className="flex flex-col gap-3">
        {rows.map((row, i) => (
          <div key={row.index} className="break-inside-avoid">
            {staff ? (
              <Staff
                riff={riff}
                setup={setup}
                bars={{ from: row.firstBar, count: row.bars }}
                choice={choice}
                width={SHEET_WIDTH}
                scale={0.8}
                x={tabScale(row, riff.meters, SHEET_WIDTH, fretTextOf(setup, schools.frets))}
                lead={12}
                label={`Staff of bars ${row.firstBar + 1} to ${row.firstBar + row.bars}`}
              />
            ) : null}
            <TabSystem
              row={row}
              next={rows[i + 1]?.events[0] ?? null}
              width={SHEET_WIDTH}
              meters={riff.meters}
              strings={strings}
              names={strings.map((string) =>
                soundingName({ ...setup, capos: [] }, string, { key, naming: schools.notes }),
              )}
              fingers={fingers}
              fretText={fretTextOf(setup, schools.frets)}
              written={staffBars(riff, setup, { from: row.firstBar, count: row.bars }, choice)}
              strokes={struck}
              label={`Tab of bars ${row.firstBar + 1} to ${row.firstBar + row.bars}`}
            />
          </div>
        ))}
      </div>
      {unplaced ? <p className="text-[14px]">Some notes are not placed yet and are missing from this sheet.</p> : null}
      {spoken ? (
        <section
          aria-label="Spoken"
          className="gap-8 text-[12.5px] leading-[1.5] min-[600px]:columns-2 print:columns-2"
        >
          {callRiff(riff, setup, { schools, key, short }).map((line) => (
            <p key={line} className="mb-1.5 break-inside-avoid">
              {line}
            </p>
          ))}
        </section>
      ) : null}
      <footer className="mt-2 text-[12px] leading-5">
        Digits under the rhythm are fingers: 1 index to 4 little. Stop at pain and rest; a clinician helps if it lasts.
        {cautions(setup)}
      </footer>
    </div>
  );
}

/** The feel by its stretches: "swing 2 to 1 in eighths; straight from bar 5". */
function feelWords(riff: Riff): string {
  return (riff.feel ?? [])
    .map(
      (step, i) =>
        `${step.swing === 50 ? 'straight' : `swing ${swingWords(step.swing)} in ${step.unit === '1/2' ? 'eighths' : 'sixteenths'}`}${i === 0 ? '' : ` from bar ${barOf(riff.meters, step.at).bar + 1}`}`,
    )
    .join('; ');
}
