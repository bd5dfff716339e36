'use client';

import dynamic from 'next/dynamic';
import { Link } from '@/ui/link';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { dropRiff, formFromRiffs, moveSection } from '@/core/command';
import type { Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { chartOf, inBars, mapOf, type Slip } from '@/core/form';
import { barCount, type Piece } from '@/core/score';
import { barStart, quarter, secondsAt, toNumber } from '@/core/time';
import type { TransportHandle } from '@/features/hear/transport';
import { Frame } from '@/features/piece/frame';
import { usePiece, usePieceStore } from '@/features/piece/provider';
import { Button, buttonClass } from '@/ui/button';
import { useSchools } from '@/ui/schools';
import { Switch } from '@/ui/switch';
import { useToast } from '@/ui/toast';
import { useNarrow } from '@/ui/use-narrow';
import { Chart } from './chart';
import type { ChartDesk, Stretch } from './chart-line';
import { FormBand } from './form-band';
import { NewSection } from './new-section';
import { Route } from './route';

// What is not seen at first is fetched after the chart has been drawn.
const SectionEditor = dynamic(() => import('./section-editor').then((file) => file.SectionEditor), { ssr: false });
const FoldDialog = dynamic(() => import('./fold-dialog').then((file) => file.FoldDialog), { ssr: false });
const TextDialog = dynamic(() => import('./text-dialog').then((file) => file.TextDialog), { ssr: false });
const FormPlayer = dynamic(() => import('./form-player').then((file) => file.FormPlayer), {
  ssr: false,
  loading: () => <footer className="min-h-13 border-t border-rule" />,
});

/** Where the music is, in bars; looked at with every frame while it plays. */
function useSounding(playing: boolean, at: () => number | null, map: ReturnType<typeof mapOf>): number | null {
  const [bar, setBar] = useState<number | null>(null);
  useEffect(() => {
    if (!playing) return;
    let frame = requestAnimationFrame(function follow() {
      frame = requestAnimationFrame(follow);
      const now = at();
      setBar(now === null ? null : Math.floor(inBars(map.meters, quarter(Math.round(Math.max(0, now) * 96), 96))));
    });
    return () => {
      cancelAnimationFrame(frame);
      setBar(null);
    };
  }, [playing, at, map]);
  return bar;
}

/**
 * How the piece goes: its sections as a chart, the order they are played in, and all of it played. What is in sight of
 * the chart is drawn on the server: nothing of it waits for a measure or for a program.
 */
export function FormPage({
  start,
}: {
  readonly start: { readonly section: string | null; readonly bar: number | null };
}) {
  const piece = usePiece((state) => state.document);
  const dispatch = usePiece((state) => state.dispatch);
  const toast = useToast();
  const schools = useSchools();
  const narrow = useNarrow();
  const [unfolded, setUnfolded] = useState(false);
  const [chosen, setChosen] = useState<string | null>(start.section);
  const [folding, setFolding] = useState(false);
  const [text, setText] = useState(false);
  const [follow, setFollow] = useState<string | null>(null);
  const [playing, setPlaying] = useState(false);
  const map = mapOf(piece);
  const [stretch, setStretch] = useState<Stretch | null>(
    start.bar === null ? null : { from: Math.min(start.bar, map.bars), to: map.bars },
  );
  const transport = useRef<TransportHandle>(null);
  const at = useCallback(() => transport.current?.at() ?? null, []);
  const sounding = useSounding(playing, at, map);
  // The route shows at once what was done to it; the chart follows with the next paint.
  const drawn = useDeferredValue(piece);
  const blocks = useMemo(() => chartOf(drawn, { unfolded, schools }), [drawn, unfolded, schools]);
  const section = piece.sections.find((one) => one.id === chosen) ?? null;

  const edit = useCallback(
    (made: Result<Edit>): Result<unknown> => {
      const done = made.ok ? dispatch(made.value) : made;
      if (!done.ok && done.error.rule !== 'no-change') toast(done.error.words);
      return done.ok || done.error.rule !== 'no-change' ? done : { ok: true, value: null };
    },
    [dispatch, toast],
  );
  const playFrom = (bar: number): void => transport.current?.playFrom(toNumber(barStart(map.meters, bar - 1)));
  // What the chart does works on the piece as it then is, so that the chart isn't drawn anew for it.
  const store = usePieceStore();
  const desk = useMemo(
    (): ChartDesk => ({
      narrow,
      onChoose: (id) => setChosen((now) => (now === id ? null : id)),
      onBar: (bar, extend) =>
        setStretch((now) =>
          extend && now
            ? { from: Math.min(now.from, bar), to: Math.max(now.from, bar) }
            : { from: bar, to: mapOf(store.getState().document).bars },
        ),
      onMove: (id, to) => {
        const { document } = store.getState();
        edit(
          moveSection(
            document,
            id,
            document.sections.findIndex((one) => one.id === to),
          ),
        );
      },
      href: (slip) => slipHref(store.getState().document.id, slip),
      onDrop: (id, part, riff, bar, chord) => {
        const move = chord ? { by: 'chord' as const, chord: chord.replaceAll('♭', 'b').replaceAll('♯', '#') } : null;
        const use = { riff, plays: 1, ...(move ? { move } : {}) };
        edit(dropRiff(store.getState().document, id, part, use, bar));
      },
    }),
    [narrow, store, edit],
  );
  const passOf = (entryIndex: number): Stretch | null => {
    const passes = map.passes.filter((one) => one.entryIndex === entryIndex);
    const [first] = passes;
    const last = passes.at(-1);
    return first && last ? { from: first.firstBar + 1, to: last.firstBar + last.bars } : null;
  };
  const soundingEntry =
    sounding === null ? null : (map.passes.findLast((pass) => pass.firstBar <= sounding)?.entryIndex ?? null);
  const foldable = piece.parts.some((part) => part.riffs.some((riff) => barCount(riff) >= 4));

  return (
    <Frame>
      <FormBand piece={piece} map={map} seconds={secondsAt(map.tempo, map.end)}>
        <Switch on={unfolded} onSwitch={setUnfolded}>
          Unfolded
        </Switch>
        <NewSection piece={piece} edit={edit} onMade={setChosen} />
        {piece.parts.length > 1 ? (
          <Link href={`/pieces/${piece.id}/together`} prefetch={false} className={buttonClass()}>
            Parts together
          </Link>
        ) : null}
        <Button onClick={() => setText(true)}>As text…</Button>
        {foldable ? <Button onClick={() => setFolding(true)}>Fold a part…</Button> : null}
      </FormBand>
      <div className="flex min-h-0 flex-1 gap-4 py-2 max-[899px]:flex-col max-[899px]:overflow-y-auto">
        <div className="w-52 shrink-0 overflow-y-auto pr-1 max-[899px]:w-auto max-[899px]:overflow-visible">
          <Route
            {...{ piece, map, edit }}
            sounding={soundingEntry}
            onPlay={(index) => {
              const pass = passOf(index);
              if (pass) playFrom(pass.from);
            }}
            onLoop={(index) => setStretch(passOf(index))}
          />
        </div>
        <main aria-label="Chart" className="min-w-0 flex-1 overflow-y-auto pr-1 max-[899px]:overflow-visible">
          {blocks.length === 0 ? (
            <Empty piece={piece} onLay={() => edit(formFromRiffs(piece))} />
          ) : (
            <Chart {...{ blocks, desk, chosen, sounding, stretch }} />
          )}
        </main>
        {section ? (
          <div className="flex w-80 shrink-0 min-h-0 flex-col max-[899px]:w-auto">
            <SectionEditor
              key={section.id}
              {...{ piece, section, edit }}
              onClose={() => setChosen(null)}
              onChoose={setChosen}
            />
          </div>
        ) : null}
      </div>
      <FormPlayer
        {...{ piece, stretch, follow, sounding, playing, at }}
        handle={transport}
        onStretch={setStretch}
        onFollow={setFollow}
        onPlaying={setPlaying}
        onFault={toast}
      />
      {text ? <TextDialog piece={piece} edit={edit} onClose={() => setText(false)} /> : null}
      {folding ? <FoldDialog piece={piece} edit={edit} onClose={() => setFolding(false)} onMade={setChosen} /> : null}
    </Frame>
  );
}

/** Where a slip's notes are worked on: its riff on the bench, as its variant, in its place. */
function slipHref(piece: string, slip: Slip): string | null {
  if (slip.use.riff === undefined) return null;
  const variant = slip.use.variant ? `&variant=${slip.use.variant}` : '';
  return `/pieces/${piece}/riffs/${slip.use.riff}?use=${slip.use.id}${variant}`;
}

function Empty({ piece, onLay }: { readonly piece: Piece; readonly onLay: () => void }) {
  const riffs = piece.parts.flatMap((part) => part.riffs.filter((riff) => riff.events.length > 0));
  return (
    <div className="mx-auto max-w-xl py-16 text-center">
      <h2 className="text-2xl">No section yet</h2>
      <p className="mt-2 text-soft">
        A section is a stretch of bars with a name: a verse, a refrain, twelve bars. Add one above, type the order of
        playing at the left, or begin from the riffs there are.
      </p>
      {riffs.length > 0 ? (
        <Button tone="yours" className="mt-4" onClick={onLay}>
          Lay out the {riffs.length} {riffs.length === 1 ? 'riff' : 'riffs'} in order
        </Button>
      ) : null}
    </div>
  );
}
