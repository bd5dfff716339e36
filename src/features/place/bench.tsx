'use client';

import { useDeferredValue, useMemo } from 'react';
import { callEvent } from '@/core/callout';
import { openPitch, stringNumbers } from '@/core/instrument';
import { lockAt, moveEvents } from '@/core/command';
import { contextsOf, writtenChords, type RiffContext } from '@/core/form';
import { parseName, pitchClass } from '@/core/pitch';
import { keyOf, riffEnd, tempoOf, type Part, type Piece, type Riff, type RiffEvent } from '@/core/score';
import { barOf, bpmAt, cmp, meterAt, ZERO, type Quarter } from '@/core/time';
import { Frame } from '@/features/piece/frame';
import { useRiffQuestions } from '@/features/check/riff-questions';
import { usePiece, useRiff, VariantProvider } from '@/features/piece/provider';
import { SetupBand } from '@/features/setup/setup-band';
import { Later } from '@/ui/later';
import { useSchools } from '@/ui/schools';
import { BenchDialogs } from './bench-dialogs';
import { BenchFoot } from './bench-foot';
import { BenchNeck } from './bench-neck';
import { useAnswer } from './bench-parts';
import { PIANO, usePlayIn } from './play-in';
import { RiffPlace } from './riff-place';
import { RiffSwitch } from './riff-switch';
import { Side, type SideTab } from './side';
import { Strip } from './strip';
import { useAlternatives } from './use-alternatives';
import { useBench } from './use-bench';
import type { DragTarget } from './use-dragging';

interface Start {
  readonly startBar: number | null;
  /** The event a deep link asks for, and the side it opens. */
  readonly startNote: string | null;
  readonly startTab: SideTab;
  /** The use of the form it is looked at in, with its play: "u4" or "u4.2". */
  readonly use: string | null;
  /** The variant that is open; null for the riff as written. */
  readonly variant: string | null;
}

/** The bench: strip, neck, reasons and call line around one riff. */
export function Bench(given: { readonly riffId: string } & Start) {
  const { riffId, variant } = given;
  const found = useRiff(riffId);
  if (variant !== null && found?.riff.variants?.some((one) => one.id === variant))
    return (
      <VariantProvider key={`${riffId} ${variant}`} riff={riffId} variant={variant}>
        <OpenBench {...given} />
      </VariantProvider>
    );
  return <OpenBench {...given} variant={null} />;
}

function OpenBench({ riffId, ...start }: { readonly riffId: string } & Start) {
  const found = useRiff(riffId);
  if (!found) {
    return (
      <Frame>
        <p className="py-20 text-center text-lg text-soft">This riff is not in the piece any more.</p>
      </Frame>
    );
  }
  return <RiffBench key={`${riffId} ${start.variant ?? ''}`} {...found} {...start} />;
}

interface Given extends Start {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
}

function RiffBench(given: Given) {
  const { piece, part, riff, startBar, use, variant } = given;
  const state = useBench(given);
  const { bench, view, question, keys, stripBox, playhead } = state;
  const lines = usePiece((one) => one.lines);
  const schools = useSchools();
  const { setup } = part;
  // The whole form is looked through for it: what is typed is painted first.
  const settled = useDeferredValue(piece);
  const contexts = useMemo(() => contextsOf(settled, part.id, riff.id), [settled, part.id, riff.id]);
  const context = contexts.find((one) => one.id === use || one.use.id === use) ?? contexts[0] ?? null;
  const tempo = context?.tempo ?? tempoOf(piece, riff);
  const key = context?.key ?? keyOf(piece, riff);
  const chordsSaid = useMemo(
    () => (context && context.chords.length > 0 ? writtenChords(context, ZERO, riffEnd(riff)) : undefined),
    [context, riff],
  );
  const { hands, blocked } = useAnswer(riff);
  const asked = useRiffQuestions(piece, riff.id);
  const askedEvents = useMemo(() => new Set(asked.flatMap((one) => one.locus.event ?? [])), [asked]);
  const { chosen, edit } = bench;
  const { focus, noteIndex, events, focusIndex } = chosen;
  const weighed = useAlternatives(part, riff, tempo, focusIndex, noteIndex);
  const player = usePlayIn(bench, view.playIn, view.playLength);
  const sub = useMemo(() => <RiffSwitch riffId={riff.id} />, [riff.id]);
  const meter = meterAt(riff.meters, Math.max(0, barOf(riff.meters, focus?.at ?? ZERO).bar));

  const onPianoKey = (event: React.KeyboardEvent): boolean => {
    if (!view.playIn || event.ctrlKey || event.metaKey || event.altKey) return false;
    const low = Math.ceil(Math.min(...stringNumbers(setup).map((string) => openPitch(setup, string))) / 12) * 12;
    const step = PIANO[event.key.toLowerCase()];
    if (step !== undefined) player.note(low + step);
    else if (event.key === ' ') player.rest();
    else return false;
    event.preventDefault();
    return true;
  };
  const onDrag = (event: RiffEvent, noteId: string, to: DragTarget): void => {
    const note = event.notes.find((one) => one.id === noteId);
    const ids = events.some((one) => one.id === event.id) ? events.map((one) => one.id) : [event.id];
    if (to.by !== null) edit(moveEvents(piece, riff.id, ids, to.by));
    else if (to.string !== null && note) {
      const ref = { riff: riff.id, event: event.id, note: noteId };
      edit(lockAt(piece, ref, to.string, note.pitch.midi - openPitch(setup, to.string)));
    }
  };
  const spoken = focus ? callEvent(focus, riff.events[focusIndex - 1], setup, { schools, key }) : '';

  return (
    <Frame riffId={riff.id} partId={part.id} open={blocked.length} sub={sub}>
      {/* What is beside the strip takes its room where there is little. */}
      {view.narrow && view.panel !== 'none' ? null : (
        <Later>
          <SetupBand
            setup={setup}
            keyShown={key}
            tempo={Math.round(bpmAt(tempo, ZERO) * 10) / 10}
            meter={`${meter.beats}/${meter.unit}`}
            href={`/pieces/${piece.id}/parts/${part.id}`}
          >
            <RiffPlace {...{ piece, riff, variant, context, contexts }} />
          </SetupBand>
        </Later>
      )}
      <div className="flex min-h-0 flex-1 gap-5 py-2 max-[899px]:flex-col max-[899px]:gap-2 max-[899px]:py-1">
        <main className="flex min-h-0 min-w-0 flex-1 flex-col gap-1.5" ref={stripBox}>
          <Strip
            {...{ riff, setup, hands, chosen, playhead, startBar, tempo, onDrag }}
            keyShown={key}
            lanes={view.lanes}
            harmony={context}
            asked={askedEvents}
            playing={view.playing}
            perRow={view.perRow}
            target={view.target}
            onKeyDown={(event) => {
              if (!onPianoKey(event)) keys.onKeyDown(event);
            }}
          />
          {(view.narrow ? view.panel === 'neck' : view.neck) ? (
            <BenchNeck state={state} keyShown={key} hands={hands} weighed={weighed} player={player} />
          ) : null}
        </main>
        {(view.narrow ? view.panel !== 'side' : view.wide) ? null : (
          <Later>
            <Side
              desk={bench}
              {...{ lines, weighed, blocked, asked }}
              bass={focus && context ? bassUnder(context, focus.at) : null}
              keyShown={key}
              phrases={question.phrases}
              asking={question.asking}
              onAnswer={question.answer}
              onPass={question.pass}
              tab={view.tab}
              onTab={view.setTab}
            />
          </Later>
        )}
      </div>
      <BenchFoot {...{ state, tempo, chordsSaid }} beats={meter.beats} onNote={player.note} />
      <Later>
        <p aria-live="polite" className="sr-only">
          {spoken}
        </p>
      </Later>
      {/* At once: what is typed next is meant for them. */}
      <BenchDialogs state={state} />
    </Frame>
  );
}

/** The bass a section says under a time of the riff, as a pitch class. */
function bassUnder({ bass }: Pick<RiffContext, 'bass'>, at: Quarter): number | null {
  const under = bass.find((one) => cmp(one.at, at) <= 0 && cmp(at, one.to) < 0);
  const read = under ? parseName(under.note) : null;
  return read ? pitchClass(read) : null;
}
