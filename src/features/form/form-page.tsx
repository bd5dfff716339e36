'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { dropRiff, formFromRiffs } from '@/core/command';
import type { Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { chartOf, inBars, mapOf, type ChartRow, type Slip } from '@/core/form';
import { barCount, type Piece } from '@/core/score';
import { barStart, meterAt, quarter, secondsAt, toNumber, ZERO } from '@/core/time';
import { SoundTransport, type TransportHandle } from '@/features/hear/transport';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { useOnPage } from '@/ui/on-page';
import { useSchools } from '@/ui/schools';
import { Switch } from '@/ui/switch';
import { useToast } from '@/ui/toast';
import { useNarrow } from '@/ui/use-narrow';
import { ChartSection, type ChartDesk } from './chart';
import { FoldDialog } from './fold-dialog';
import { FollowPart } from './follow-part';
import { FormBand } from './form-band';
import { NewSection } from './new-section';
import { Route } from './route';
import { SectionEditor } from './section-editor';
import { TextDialog } from './text-dialog';
import { useFormSounds } from './use-form-sounds';

/** How the piece goes: its sections as a chart, the order they are played in, and all of it played. */
export function FormPage({
  start,
}: {
  readonly start: { readonly section: string | null; readonly bar: number | null };
}) {
  const onPage = useOnPage();
  const piece = usePiece((state) => state.document);
  if (!onPage)
    return (
      <Frame>
        <p className="py-20 text-center text-lg text-soft">Opening the form…</p>
      </Frame>
    );
  return <FormBench piece={piece} start={start} />;
}

interface Stretch {
  readonly from: number;
  readonly to: number;
}

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

function FormBench({
  piece,
  start,
}: {
  readonly piece: Piece;
  readonly start: { readonly section: string | null; readonly bar: number | null };
}) {
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
  const sounds = useFormSounds(piece);
  const blocks = useMemo(() => chartOf(piece, { unfolded, schools }), [piece, unfolded, schools]);
  const section = piece.sections.find((one) => one.id === chosen) ?? null;
  const followed = sounds.lines.find((line) => line.part.id === follow) ?? null;

  const edit = useCallback(
    (made: Result<Edit>): Result<unknown> => {
      const done = made.ok ? dispatch(made.value) : made;
      if (!done.ok && done.error.rule !== 'no-change') toast(done.error.words);
      return done.ok || done.error.rule !== 'no-change' ? done : { ok: true, value: null };
    },
    [dispatch, toast],
  );
  const from = stretch ? barStart(map.meters, stretch.from - 1) : ZERO;
  const to = stretch ? barStart(map.meters, Math.min(map.bars, stretch.to)) : map.end;
  const playFrom = (bar: number): void => transport.current?.playFrom(toNumber(barStart(map.meters, bar - 1)));
  const desk = useMemo(
    (): ChartDesk => ({
      ...{ chosen, stretch, sounding, narrow },
      onChoose: (id) => setChosen((now) => (now === id ? null : id)),
      onBar: (bar, extend) =>
        setStretch((now) =>
          extend && now ? { from: Math.min(now.from, bar), to: Math.max(now.from, bar) } : { from: bar, to: map.bars },
        ),
      href: (row, slip) => slipHref(piece.id, row, slip),
      onDrop: (id, part, riff, bar, chord) =>
        edit(
          dropRiff(
            piece,
            id,
            part,
            {
              riff,
              plays: 1,
              ...(chord
                ? { move: { by: 'chord' as const, chord: chord.replaceAll('♭', 'b').replaceAll('♯', '#') } }
                : {}),
            },
            bar,
          ),
        ),
    }),
    [chosen, stretch, sounding, narrow, map.bars, piece, edit],
  );
  const passOf = (entryIndex: number): Stretch | null => {
    const passes = map.passes.filter((one) => one.entryIndex === entryIndex);
    const [first] = passes;
    const last = passes.at(-1);
    return first && last ? { from: first.firstBar + 1, to: last.firstBar + last.bars } : null;
  };
  const soundingEntry =
    sounding === null ? null : (map.passes.findLast((pass) => pass.firstBar <= sounding)?.entryIndex ?? null);
  const beats = meterAt(map.meters, stretch ? stretch.from - 1 : 0).beats;
  const foldable = piece.parts.some((part) => part.riffs.some((riff) => barCount(riff) >= 4));

  return (
    <Frame>
      <FormBand piece={piece} map={map} seconds={secondsAt(map.tempo, map.end)}>
        <Switch on={unfolded} onSwitch={setUnfolded}>
          Unfolded
        </Switch>
        <NewSection piece={piece} edit={edit} onMade={setChosen} />
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
            blocks.map((block) => <ChartSection key={block.key} block={block} desk={desk} />)
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
      {followed ? (
        <FollowPart
          line={followed}
          bar={Math.min(map.bars - 1, sounding ?? (stretch?.from ?? 1) - 1)}
          {...{ playing, at }}
        />
      ) : null}
      <footer className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2">
        <SoundTransport
          ref={transport}
          riff={sounds.frame}
          sounds={sounds}
          tempo={map.tempo}
          {...{ from, to, beats }}
          partial={stretch !== null}
          loopFirst={false}
          onFault={toast}
          onPlaying={setPlaying}
        />
        <label className="flex items-center gap-1.5 text-[15px]">
          Follow
          <select
            className="min-h-8 rounded-sm border border-line/70 bg-sheet px-1.5"
            value={follow ?? ''}
            onChange={(event) => setFollow(event.target.value || null)}
          >
            <option value="">the chart only</option>
            {sounds.lines.map(({ part }) => (
              <option key={part.id} value={part.id}>
                {part.name}
              </option>
            ))}
          </select>
        </label>
        <StretchFields stretch={stretch} bars={map.bars} onStretch={setStretch} />
      </footer>
      {text ? <TextDialog piece={piece} edit={edit} onClose={() => setText(false)} /> : null}
      {folding ? <FoldDialog piece={piece} edit={edit} onClose={() => setFolding(false)} onMade={setChosen} /> : null}
    </Frame>
  );
}

/** Where a slip's notes are worked on: its riff on the bench, as its variant, in its place. */
function slipHref(piece: string, row: ChartRow, slip: Slip): string | null {
  if (slip.use.riff === undefined) return null;
  const variant = slip.use.variant ? `&variant=${slip.use.variant}` : '';
  return `/pieces/${piece}/riffs/${slip.use.riff}?use=${slip.use.id}${variant}`;
}

/** From which bar to which is played. */
function StretchFields({
  stretch,
  bars,
  onStretch,
}: {
  readonly stretch: Stretch | null;
  readonly bars: number;
  readonly onStretch: (stretch: Stretch | null) => void;
}) {
  const now = stretch ?? { from: 1, to: bars };
  const take = (from: number, to: number): void => {
    const first = Math.max(1, Math.min(bars, Math.round(from) || 1));
    const last = Math.max(first, Math.min(bars, Math.round(to) || bars));
    onStretch(first === 1 && last === bars ? null : { from: first, to: last });
  };
  const field = 'min-h-8 w-14 rounded-sm border border-line/70 bg-sheet px-1.5 text-right font-figures text-[15px]';
  return (
    <div className="flex items-center gap-1.5 text-[15px]">
      <label className="flex items-center gap-1.5">
        from bar
        <input
          key={`from ${now.from}`}
          type="number"
          className={field}
          min={1}
          max={bars}
          defaultValue={now.from}
          onBlur={(event) => take(Number(event.target.value), now.to)}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
      <label className="flex items-center gap-1.5">
        to
        <input
          key={`to ${now.to}`}
          type="number"
          className={field}
          min={1}
          max={bars}
          defaultValue={now.to}
          onBlur={(event) => take(now.from, Number(event.target.value))}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
      {stretch ? (
        <Button tone="word" size="small" onClick={() => onStretch(null)}>
          all of it
        </Button>
      ) : null}
    </div>
  );
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
