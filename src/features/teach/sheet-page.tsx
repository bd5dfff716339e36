'use client';

import { fretTextOf } from '@/ui/draw/lanes';
import { countingWords, keyLabels } from '@/core/schools';
import { useSchools } from '@/ui/schools';
import { Printer } from 'lucide-react';
import { useState } from 'react';
import { callRiff } from '@/core/callout';
import { capoWords, soundingName, spellTuning, stringNumbers, type Setup } from '@/core/instrument';

import { keyAt, type Part, type Piece, type Riff } from '@/core/score';
import { bpmAt, ZERO } from '@/core/time';
import { Frame } from '@/features/piece/frame';
import { useRiff } from '@/features/piece/provider';
import { RiffSwitch } from '@/features/place/riff-switch';
import { packedRows } from '@/ui/draw/strip-layout';
import { TabSystem } from '@/ui/draw/tab-system';
import { Button } from '@/ui/button';

type Paper = 'A4' | 'letter';
const PAPER: Record<Paper, { css: string; width: string; height: string }> = {
  A4: { css: 'A4', width: '210mm', height: '297mm' },
  letter: { css: 'letter', width: '215.9mm', height: '279.4mm' },
};

/** The sheet as it prints, with the few choices that shape it. */
export function SheetPage({ riffId }: { readonly riffId: string }) {
  const found = useRiff(riffId);
  const [paper, setPaper] = useState<Paper>('A4');
  const [fingers, setFingers] = useState(true);
  const [spoken, setSpoken] = useState(false);
  if (!found) return <Frame><p className="py-20 text-center text-lg text-soft">This riff is not in the piece any more.</p></Frame>;
  return (
    <Frame riffId={riffId} partId={found.part.id} sub={<RiffSwitch riffId={riffId} />}>
      <style>{`@page { size: ${PAPER[paper].css}; margin: 14mm 14mm 16mm; }`}</style>
      <section aria-label="What the sheet shows" className="no-print flex items-center gap-6 border-b border-rule py-3">
        <fieldset className="flex items-center gap-4">
          <legend className="sr-only">Paper</legend>
          {(['A4', 'letter'] as const).map((p) => (
            <label key={p} className="flex items-center gap-1.5">
              <input type="radio" name="paper" checked={paper === p} onChange={() => setPaper(p)} /> {p === 'A4' ? 'A4' : 'Letter'}
            </label>
          ))}
        </fieldset>
        <label className="flex items-center gap-1.5"><input type="checkbox" checked={fingers} onChange={(e) => setFingers(e.target.checked)} /> Fingers</label>
        <label className="flex items-center gap-1.5"><input type="checkbox" checked={spoken} onChange={(e) => setSpoken(e.target.checked)} /> Spoken text below</label>
        <Button tone="yours" className="ml-auto" onClick={() => window.print()}><Printer size={18} aria-hidden /> Print</Button>
      </section>
      <main className="min-h-0 flex-1 overflow-auto bg-rule/40 py-6 print:overflow-visible print:bg-white print:p-0">
        <article
          aria-label="Sheet"
          className="mx-auto bg-white p-[14mm] text-black shadow print:m-0 print:min-h-0! print:max-w-none! print:p-0 print:shadow-none"
          style={{ maxWidth: PAPER[paper].width, minHeight: PAPER[paper].height }}
        >
          <Sheet {...found} fingers={fingers} spoken={spoken} />
        </article>
      </main>
    </Frame>
  );
}

function Sheet({ piece, part, riff, fingers, spoken }: { readonly piece: Piece; readonly part: Part; readonly riff: Riff; readonly fingers: boolean; readonly spoken: boolean }) {
  const schools = useSchools();
  const { setup } = part;
  const key = keyAt(piece, ZERO);
  const strings = stringNumbers(setup).reverse();
  const rows = packedRows(riff, 640);
  const unplaced = riff.events.some((e) => e.notes.some((n) => !n.place));
  return (
    <div className="flex flex-col gap-4">
      <header className="flex items-end justify-between border-b border-black/60 pb-2">
        <div>
          <h2 className="text-3xl">{piece.title}</h2>
          <p>{part.name}{part.role ? `, ${part.role}` : ''} · {riff.name}</p>
        </div>
        <dl className="grid shrink-0 grid-cols-[auto_auto] gap-x-3 text-right text-[14px]">
          <dt>Tuning, thick to thin</dt><dd className="font-figures font-bold">{spellTuning(setup.open, setup.absent)}</dd>
          <dt>Capo</dt><dd className="font-bold">{capoWords(setup)}</dd>
          {setup.capos.length > 0 ? <><dt>Frets</dt><dd className="max-w-72">{countingWords(setup, schools.frets)}</dd></> : null}
          <dt>Tempo</dt><dd className="font-bold">{bpmAt(piece.lanes.tempo, ZERO)} quarters a minute</dd>
          {key ? <><dt>Key</dt><dd className="font-bold">{keyLabels(key, setup, schools).words}</dd></> : null}
        </dl>
      </header>
      <div className="flex flex-col gap-3">
        {rows.map((row, i) => (
          <TabSystem
            key={row.index}
            row={row}
            next={rows[i + 1]?.events[0] ?? null}
            width={690}
            meters={riff.meters}
            strings={strings}
            names={strings.map((s) => soundingName({ ...setup, capos: [] }, s, { key, naming: schools.notes }))}
            fingers={fingers}
            fretText={fretTextOf(setup, schools.frets)}
            label={`Tab of bars ${row.firstBar + 1} to ${row.firstBar + row.bars}`}
          />
        ))}
      </div>
      {unplaced ? <p className="text-[14px]">Some notes are not placed yet and are missing from this sheet.</p> : null}
      {spoken ? (
        <section aria-label="Spoken" className="text-[14px] leading-6">
          {callRiff(riff, setup, { schools, key }).map((line) => <p key={line}>{line}</p>)}
        </section>
      ) : null}
      <footer className="mt-2 text-[12px] leading-5">
        Digits under the rhythm are fingers: 1 index to 4 little. Stop at pain and rest; a clinician helps if it lasts.{cautions(setup)}
      </footer>
    </div>
  );
}

/** Said where it matters: only tuning up from what the strings are made for raises the tension. */
function cautions(setup: Setup): string {
  const raised = setup.open.some((m, i) => m > (setup.instrument.strings[i]?.pitch ?? m));
  return raised ? ' This tuning raises strings above what they are made for: a string can snap. Tune slowly, keep the face away, and ask a repairer before large changes.' : '';
}
