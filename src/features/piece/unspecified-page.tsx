'use client';

import Link from 'next/link';
import { confirm } from '@/core/command';
import { findRiff, unspecifiedIn, type Piece, type OpenFinding } from '@/core/score';
import { placeInBars } from '@/core/rhythm';
import { Button } from '@/ui/button';
import { Frame } from './frame';
import { usePiece } from './provider';

/** Where an open point is settled. */
export function openHref(piece: Piece, finding: OpenFinding): string {
  const root = `/pieces/${piece.id}`;
  const part = finding.locus.part ?? piece.parts[0]?.id ?? '';
  if (finding.rule === 'tempo' || finding.rule === 'tuning') return `${root}/parts/${part}`;
  return `${root}/riffs/${finding.locus.riff ?? ''}${finding.locus.event ? `?note=${finding.locus.event}` : '?show=riff'}`;
}

/** Where it stands, in words. */
export function openWhere(piece: Piece, finding: OpenFinding): string {
  const found = finding.locus.riff ? findRiff(piece, finding.locus.riff) : null;
  const event = found?.riff.events.find((event) => event.id === finding.locus.event);
  return found
    ? `${found.part.name}, ${found.riff.name}${event ? `, ${placeInBars(found.riff.meters, event.at)}` : ''}`
    : 'the piece';
}

const SHOWN = 200;

/** Everything that is still unsaid in the piece, each a link to its place. */
export function UnspecifiedPage() {
  const piece = usePiece((state) => state.document);
  const dispatch = usePiece((state) => state.dispatch);
  const all = unspecifiedIn(piece);
  return (
    <Frame>
      <main className="mx-auto w-full max-w-3xl flex-1 overflow-y-auto py-6">
        <h2 className="text-2xl">Still unsaid</h2>
        <p className="mt-1 text-soft">
          {all.length === 0
            ? 'Nothing: tuning, tempo, strings, bends, trills and repeats are all said.'
            : 'Ask, listen again or decide; nothing here stops the work.'}
        </p>
        <ul className="mt-4 divide-y divide-rule border-y border-rule">
          {all.slice(0, SHOWN).map((finding, i) => (
            <li key={i} className="flex items-baseline justify-between gap-4 py-2">
              <Link
                href={openHref(piece, finding)}
                className="font-semibold underline decoration-line underline-offset-4"
              >
                {finding.words.charAt(0).toUpperCase() + finding.words.slice(1)}
              </Link>
              <span className="text-right text-soft">{openWhere(piece, finding)}</span>
              {finding.rule === 'tempo' || finding.rule === 'tuning' ? (
                <Button size="small" onClick={() => dispatch(confirm(finding.locus.part ?? null))}>
                  It is right as set
                </Button>
              ) : null}
            </li>
          ))}
        </ul>
        {all.length > SHOWN ? <p className="mt-2 text-soft">And {all.length - SHOWN} more.</p> : null}
      </main>
    </Frame>
  );
}
