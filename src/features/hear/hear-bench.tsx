'use client';

import { useRef, useState } from 'react';
import { clipTime, type ClipDocument, type Offer } from '@/core/hearing';
import { baseNut } from '@/core/instrument';
import { noteName } from '@/core/pitch';
import { usePiece } from '@/features/piece/provider';
import type { ClipEntry } from '@/server/repositories/clips';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { useToast } from '@/ui/toast';
import { AboutClip } from './about-clip';
import type { ClipKeeper } from './clip-keeper';
import type { ClipSound } from './clip-sound';
import { GaveWay } from './gave-way';
import { runKey, type HearCommand } from './hear-keys';
import { HearPlayer } from './hear-player';
import { HearSide } from './hear-side';
import { Picture } from './picture';
import { held, type View } from './picture-frame';
import { useClipContext } from './use-clip-context';
import { useClipPlayer } from './use-clip-player';
import { useKeeping } from './use-keeping';
import { useLaying } from './use-laying';
import { useOffers } from './use-offers';
import { useOverview } from './use-overview';

interface Props {
  readonly clip: ClipEntry;
  readonly sound: ClipSound | null;
  /** Share of it that has come in. */
  readonly arrived: number;
  readonly startAt: number | null;
  readonly keeper: ClipKeeper;
}

/** Notes put by the instructor's own ear, newest last. */
function useOwnNotes() {
  const toast = useToast();
  const [own, setOwn] = useState<readonly Offer[]>([]);
  const put = (candidate: number | null, here: number): void => {
    if (candidate === null)
      return toast('Choose the pitch first: click at its height in the picture, or step with the arrows.');
    setOwn((list) => [
      ...list.map((offer, i) => (i === list.length - 1 && offer.until > here ? { ...offer, until: here } : offer)),
      {
        at: here,
        until: here + 0.35,
        midi: candidate,
        cents: 0,
        certainty: 1,
        begins: 'struck',
        manner: null,
        by: 'ear',
        basis: 'attack',
      },
    ]);
  };
  const restOn = (basis: Offer['basis']): void =>
    setOwn((list) => list.map((offer, i) => (i === list.length - 1 ? { ...offer, basis } : offer)));
  const removeLast = (): void => setOwn((list) => list.slice(0, -1));
  return { own, put, restOn, removeLast, clear: () => setOwn([]) };
}

/** One recording: waveform and pitch on one time axis, playing, and what was heard. */
export function HearBench({ clip, sound, arrived, startAt, keeper }: Props) {
  const piece = usePiece((state) => state.document);
  const [view, setView] = useState<View>(() =>
    startAt === null
      ? { from: 0, to: Math.min(clip.seconds ?? 1, 30) }
      : held({ from: startAt - 4, to: startAt + 8 }, clip.seconds ?? 1),
  );
  const context = useClipContext(piece, clip, view);
  const { seconds, riffs, target, setup, open, low, high, used, key, bars, written, lines } = context;
  const { document } = clip;
  const player = useClipPlayer({ sound, context, cents: document.cents, startAt: startAt ?? 0, view, setView });
  const overview = useOverview(clip.id);
  const [candidate, setCandidate] = useState<number | null>(null);
  const byEar = useOwnNotes();
  const offers = useOffers(byEar.own);
  const [help, setHelp] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const { waiting, refused } = useKeeping(keeper);
  const change = (next: ClipDocument): void => void keeper.keep(next);
  const laying = useLaying({ context, player, view, setView, change });
  const gaveWay = refused.at(-1);
  const zoom = (factor: number): void => {
    const middle = Math.max(view.from, Math.min(view.to, player.at()));
    setView(held({ from: middle - (middle - view.from) * factor, to: middle + (view.to - middle) * factor }, seconds));
  };
  const nudge = (edge: 'from' | 'to', by: number): void => {
    const { loop } = player;
    if (loop) player.setLoop({ ...loop, [edge]: Math.max(0, Math.min(seconds, loop[edge] + by)) });
  };
  const step = (by: number): void => setCandidate((candidate ?? Math.round((low + high) / 2)) + by);
  const mark = (): void => {
    const { markers } = document;
    change({ ...document, markers: [...markers, { at: player.at(), say: String(markers.length + 1) }] });
  };
  const moveBy = (direction: 1 | -1) => (event: React.KeyboardEvent) =>
    player.seek(player.at() + direction * (event.shiftKey ? 1 : 0.1));
  const commands: readonly HearCommand[] = [
    { keys: [' '], shown: ['Space', 'play, or stop'], run: player.toggle },
    { keys: ['ArrowLeft'], shown: ['Left, right', 'a tenth of a second; with Shift a whole one'], run: moveBy(-1) },
    { keys: ['ArrowRight'], run: moveBy(1) },
    { keys: ['ArrowUp'], shown: ['Up, down', 'the pitch to compare, by semitones'], run: () => step(1) },
    { keys: ['ArrowDown'], run: () => step(-1) },
    {
      keys: ['p'],
      shown: ['P', 'hear that pitch; with Shift together with the recording'],
      run: () => player.hearPitch(candidate, false),
    },
    { keys: ['P'], run: () => player.hearPitch(candidate, true) },
    {
      keys: ['t'],
      shown: ['T', 'a note begins here, at that pitch: by your own ear'],
      run: () => byEar.put(candidate, player.at()),
    },
    {
      keys: ['r'],
      shown: ['R, S', 'what the last note by ear rests on: it rings, or a slide is heard'],
      run: () => byEar.restOn('ring'),
    },
    { keys: ['s'], run: () => byEar.restOn('slide') },
    { keys: ['Backspace'], shown: ['Backspace', 'delete the last note by ear'], run: byEar.removeLast },
    { keys: ['b'], shown: ['B', 'a bar begins here'], run: laying.layBar },
    { keys: ['m'], shown: ['M', 'a marker here'], run: mark },
    { keys: ['l'], shown: ['L', 'loop, or not'], run: () => player.setLooping(!player.looping) },
    { keys: ['o'], shown: ['O', 'loop the bar at the playhead; with Shift a bar more'], run: () => laying.loopBars(0) },
    { keys: ['O'], run: () => laying.loopBars(1) },
    { keys: [','], shown: [', .', 'the loop a bar earlier, later'], run: () => laying.loopBars(0, -1) },
    { keys: ['.'], run: () => laying.loopBars(0, 1) },
    {
      keys: ['['],
      shown: ['[ ]', 'the loop’s beginning earlier, later; with Shift its end'],
      run: () => nudge('from', -0.02),
    },
    { keys: [']'], run: () => nudge('from', 0.02) },
    { keys: ['{'], run: () => nudge('to', -0.02) },
    { keys: ['}'], run: () => nudge('to', 0.02) },
    { keys: ['+', '='], shown: ['+ and −', 'closer, wider'], run: () => zoom(0.7) },
    { keys: ['-'], run: () => zoom(1.4) },
    { keys: ['?'], shown: ['?', 'these keys'], run: () => setHelp(true) },
  ];

  const notes = offers.all.map((offer) => ({
    at: offer.at,
    until: offer.until,
    midi: offer.midi,
    certainty: offer.certainty,
    begins: offer.begins,
    manner: offer.manner,
    own: offer.by === 'ear',
  }));
  return (
    <>
      {/* Keys of the whole bench: each has its button or is in the sheet of keys. */}
      {/* eslint-disable-next-line jsx-a11y-x/no-static-element-interactions -- see above */}
      <div ref={box} onKeyDown={(event) => runKey(commands, event)} className="flex min-h-0 flex-1 flex-col gap-2 py-2">
        {gaveWay ? <GaveWay at={gaveWay.at} keeper={keeper} /> : null}
        <div className="flex min-h-0 flex-1 gap-5 max-[899px]:flex-col max-[899px]:gap-2">
          <main className="flex min-w-0 flex-1 flex-col" tabIndex={-1}>
            <Picture
              sound={sound}
              channels={player.channels}
              arrived={arrived * seconds}
              overview={overview}
              seconds={seconds}
              view={view}
              onView={setView}
              low={low}
              high={high}
              cents={document.cents}
              keyShown={key}
              open={open}
              loop={player.loop}
              used={used}
              onLoop={(one) => {
                player.setLoop(one);
                if (one) player.stand(one.from);
              }}
              onSeek={(to, midi) => {
                player.seek(to);
                if (midi !== null) setCandidate(midi);
              }}
              playhead={player.at}
              written={written}
              strings={open.length}
              lines={lines}
              markers={document.markers}
              notes={notes}
              candidate={candidate}
              onMoveLine={laying.moveLine}
              describe={`${document.name}, ${clipTime(seconds)} long, seen from ${clipTime(view.from)} to ${clipTime(view.to)}${
                offers.listening
                  ? `; heard: ${offers.all
                      .slice(0, 24)
                      .map(
                        (offer) =>
                          `${noteName(offer.midi, { key, octave: true })} at ${clipTime(offer.at)}${offer.begins === 'joined' ? ', joined' : ''}${offer.manner ? `, ${offer.manner.kind}` : ''}`,
                      )
                      .join(', ')}`
                  : ''
              }`}
            />
          </main>
          <HearSide
            clip={clip}
            sound={arrived < 1 ? null : sound}
            stretch={player.loop ?? used}
            whole={player.loop === null}
            channels={player.channels}
            target={target}
            forms={context.whole}
            withMarks={context.withMarks}
            riffs={riffs}
            bars={bars}
            offers={offers}
            open={open}
            frets={setup ? setup.instrument.frets - baseNut(setup) : 22}
            cursor={player.at}
            onChange={change}
            onAccepted={byEar.clear}
            onSeek={player.seek}
          />
        </div>
        <HearPlayer player={player} context={context} ready={sound !== null} loopBars={laying.loopBars}>
          {waiting ? (
            <p role="status" className="text-sm font-semibold text-trouble">
              Not saved: kept on this device
            </p>
          ) : null}
          <AboutClip key={document.name} document={document} seconds={seconds} loop={player.loop} onChange={change} />
          <Button tone="word" size="small" onClick={() => setHelp(true)}>
            Keys
          </Button>
        </HearPlayer>
      </div>
      <HearKeySheet commands={commands} open={help} onOpenChange={setHelp} />
    </>
  );
}

function HearKeySheet({
  commands,
  open,
  onOpenChange,
}: {
  readonly commands: readonly HearCommand[];
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
}) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys at the hearing bench">
      <dl className="grid grid-cols-[9rem_1fr] gap-y-1 text-[15px]">
        {commands.flatMap(({ shown }) =>
          shown
            ? [
                <div key={shown[0]} className="contents">
                  <dt className="font-figures font-bold">{shown[0]}</dt>
                  <dd>{shown[1]}</dd>
                </div>,
              ]
            : [],
        )}
      </dl>
    </Dialog>
  );
}
