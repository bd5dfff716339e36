'use client';

import { Link } from '@/ui/link';
import { useMemo, useState } from 'react';
import { carryPart } from '@/core/carry';
import { confirm, together } from '@/core/command';
import type { Edit } from '@/core/edit';
import { INSTRUMENTS, setupWords, type Instrument, type Setup, type TuningFamily } from '@/core/instrument';
import { tempoOf, type Part, type Piece, type Riff } from '@/core/score';
import { foundClues, questionOf, type Clue, type FinderAnswer, type FinderLimits } from '@/core/setup-finder';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { instrumentBy, useRack } from '@/features/rack/rack-context';
import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';
import type { Bars } from './bar-range';
import { RiffChoice } from './riff-choice';
import { ClueDesk } from './clue-desk';
import { FoundSetups } from './found-setups';
import { HearSetups } from './hear-setups';
import { PairFinder } from './pair-finder';
import { PartPaths } from './part-paths';
import { useHearIn } from './use-hear-in';
import { useLongWork } from './use-long-work';
import { useEdit } from './setup-inputs';

const FAMILIES: readonly (readonly [TuningFamily, string])[] = [
  ['standard', 'standard'],
  ['dropped', 'dropped'],
  ['detuned', 'detuned'],
  ['open', 'open'],
  ['modal', 'modal'],
  ['altered', 'altered'],
];

/** What a link from the bench asks about. */
interface Start {
  readonly riff: string | null;
  readonly bars: Bars | null;
}

/** Which set-up was it? Clues on the notes, the ranking with its reasons, and the way to use one. */
export function FindSetupPage({ partId, start }: { readonly partId: string; readonly start: Start }) {
  const piece = usePiece((state) => state.document);
  const part = piece.parts.find((one) => one.id === partId);
  return (
    <Frame partId={part?.id ?? null}>
      {part ? (
        <main className="min-h-0 flex-1 overflow-y-auto pb-8">
          <PartPaths piece={piece.id} part={part.id} />
          {part.riffs.some((riff) => riff.events.length > 0) ? (
            <Finder piece={piece} part={part} start={start} />
          ) : (
            <p className="py-16 text-center text-lg text-soft">
              {part.name} has no notes yet.{' '}
              <Link
                className="underline underline-offset-4"
                href={`/pieces/${piece.id}/riffs/${part.riffs[0]?.id ?? ''}`}
              >
                Call its notes first
              </Link>
              , then this page tells which tuning and capo they suggest.
            </p>
          )}
        </main>
      ) : (
        <p className="py-20 text-center text-lg text-soft">This part is not in the piece any more.</p>
      )}
    </Frame>
  );
}

function Finder({ piece, part, start }: { readonly piece: Piece; readonly part: Part; readonly start: Start }) {
  const rack = useRack();
  const edit = useEdit();
  const toast = useToast();
  const riffs = part.riffs.filter((riff) => riff.events.length > 0);
  const [which, setWhich] = useState((riffs.find((riff) => riff.id === start.riff) ?? riffs[0])?.id ?? '');
  const [bars, setBars] = useState<Bars | null>(start.bars);
  const [clues, setClues] = useState<readonly Clue[]>([]);
  const [instruments, setInstruments] = useState<readonly string[]>([part.setup.instrument.id]);
  const [families, setFamilies] = useState<readonly TuningFamily[]>([]);
  const [capo, setCapo] = useState(true);
  const { share, answer, fault, ask, stop } = useLongWork<FinderAnswer>();
  const chosen = which === 'all' ? riffs : riffs.filter((riff) => riff.id === which);
  const one = chosen.length === 1 ? (chosen[0] ?? null) : null;
  const tempo = useMemo(() => (one ? tempoOf(piece, one) : piece.context.tempo), [piece, one]);
  const known = useMemo(() => {
    const all = [...rack.instruments.map((entry) => entry.instrument), ...INSTRUMENTS];
    return all.filter((it) => it.id === part.setup.instrument.id || it.strings.length !== 12);
  }, [rack, part]);
  const limits = useMemo((): FinderLimits => {
    const of = instruments.map(
      (id) => instrumentBy(rack, id) ?? (id === part.setup.instrument.id ? part.setup.instrument : null),
    );
    return {
      instruments: of.filter((it): it is Instrument => it !== null),
      ...(families.length > 0 ? { families } : {}),
      capo,
      tunings: rack.tunings,
    };
  }, [instruments, families, capo, rack, part]);
  const asked = useMemo(
    () => questionOf(chosen, part.setup, tempo, clues, limits, one ? bars : null),
    [chosen, part.setup, tempo, clues, limits, one, bars],
  );
  const found = useMemo(() => foundClues(asked.question.events, asked.question.meters), [asked]);
  const answerWith = (clue: Clue): void => {
    setClues([...clues, clue]);
    const { question } = questionOf(chosen, part.setup, tempo, [...clues, clue], limits, one ? bars : null);
    ask((door, progress) => door.find(question, progress));
  };
  const use = (setup: Setup): void => {
    const set: Edit = { type: 'setSetup', part: part.id, setup, riffs: carryPart(part, setup, 'sound').riffs };
    if (edit(part.unspecified ? together(`set up ${part.name}`, [set, confirm(part.id)]) : set))
      toast(`${part.name} is now in ${setupWords(setup)}; the hand finds its places anew. Undo brings back what was.`);
  };
  return (
    <div className="grid grid-cols-[minmax(0,6fr)_minmax(0,5fr)] gap-10 pt-4 max-[899px]:grid-cols-1 max-[899px]:gap-6">
      <section aria-label="What is known" className="flex min-w-0 flex-col gap-4">
        <div className="flex flex-wrap items-end gap-3">
          <RiffChoice label="Looked at" {...{ riffs, which, bars }} onWhich={setWhich} onBars={setBars} />
        </div>
        <ClueDesk question={asked.question} clues={clues} found={found} onChange={setClues} />
        <details>
          <summary className="min-h-6 cursor-pointer font-semibold">What the player may have used</summary>
          <div className="mt-2 flex flex-col gap-3 text-[15px]">
            <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
              <legend className="text-sm font-semibold text-soft">Instruments</legend>
              {known.slice(0, 24).map((it) => (
                <label key={it.id} className="flex min-h-6 items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={instruments.includes(it.id)}
                    onChange={(event) =>
                      setInstruments(
                        event.target.checked ? [...instruments, it.id] : instruments.filter((id) => id !== it.id),
                      )
                    }
                  />
                  {it.name}
                </label>
              ))}
            </fieldset>
            <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
              <legend className="text-sm font-semibold text-soft">Only these families; none ticked means any</legend>
              {FAMILIES.map(([family, words]) => (
                <label key={family} className="flex min-h-6 items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={families.includes(family)}
                    onChange={(event) =>
                      setFamilies(event.target.checked ? [...families, family] : families.filter((it) => it !== family))
                    }
                  />
                  {words}
                </label>
              ))}
            </fieldset>
            <label className="flex min-h-6 items-center gap-1.5">
              <input type="checkbox" checked={!capo} onChange={(event) => setCapo(!event.target.checked)} />
              no capo
            </label>
          </div>
        </details>
        <div className="flex flex-wrap items-center gap-3">
          <Button
            tone="yours"
            disabled={limits.instruments.length === 0}
            onClick={() => ask((door, progress) => door.find(asked.question, progress))}
          >
            Find the set-up
          </Button>
          {share !== null ? (
            <>
              <progress aria-label="Looking" value={share} max={1} className="w-40" />
              <Button size="small" onClick={stop}>
                Stop
              </Button>
            </>
          ) : null}
          {limits.instruments.length === 0 ? <span className="text-trouble">Tick at least one instrument.</span> : null}
          {fault ? (
            <span role="alert" className="text-trouble">
              It broke off: {fault}. Try fewer bars.
            </span>
          ) : null}
        </div>
        <PairFinder piece={piece} part={part} question={asked.question} />
      </section>
      <section aria-label="Answers" aria-live="polite" className="flex min-w-0 flex-col gap-3">
        {answer ? (
          <>
            <FoundSetups
              answer={answer}
              starts={asked.starts}
              riffs={chosen}
              onUse={use}
              onClue={answerWith}
              now={part.setup}
            />
            {one && answer.ranking.length > 1 ? <HearTwo piece={piece} riff={one} answer={answer} /> : null}
          </>
        ) : (
          <div className="max-w-prose text-soft">
            <h2 className="text-xl text-ink">Which set-up was it?</h2>
            <p className="mt-1">
              The program tries every tuning it knows, moved up and down and with a capo, and ranks them by what their
              open strings explain, what can ring, and how it lies under the hand. Clues decide most: say which notes
              sound open.
            </p>
          </div>
        )}
      </section>
    </div>
  );
}

function HearTwo({
  piece,
  riff,
  answer,
}: {
  readonly piece: Piece;
  readonly riff: Riff;
  readonly answer: FinderAnswer;
}) {
  const tempo = useMemo(() => tempoOf(piece, riff), [piece, riff]);
  const { hearIn } = useHearIn();
  return (
    <HearSetups
      label="Hear the first two, one after the other"
      tempo={tempo}
      make={() =>
        hearIn(
          riff,
          answer.ranking.slice(0, 2).map((it) => it.setup),
          tempo,
        )
      }
    />
  );
}
