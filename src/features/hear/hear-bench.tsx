'use client';

import { Play, Repeat, Square, Volume2 } from 'lucide-react';
import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { BarMap, clipTime, type ClipDocument, type Offer } from '@/core/heard';
import { baseNut, openPitch, stringNumbers } from '@/core/instrument';
import type { Band, Channels } from '@/core/listen';
import { noteName } from '@/core/pitch';
import { endOf, findRiff, keyOf, tempoOf } from '@/core/score';
import { goneRound } from '@/core/synth';
import { barStart, bpmAt, quarter, toNumber, ZERO } from '@/core/time';
import { usePiece } from '@/features/piece/provider';
import type { ClipEntry } from '@/server/repositories/clips';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { Slider } from '@/ui/slider';
import { Switch } from '@/ui/switch';
import { useToast } from '@/ui/toast';
import { AboutClip } from './about-clip';
import { overviewAction } from './actions';
import { ClipPlayer, COMPARISONS, type Comparison, type HearRequest } from './clip-player';
import type { ClipKeeper } from './clip-keeper';
import type { ClipSound } from './clip-sound';
import { HearSide } from './hear-side';
import { held, Picture, type View, type Written } from './picture';
import { useKeeping } from './use-keeping';
import { useOffers } from './use-offers';

const CHANNELS: readonly (readonly [Channels, string])[] = [
  ['both', 'both channels'],
  ['left', 'left'],
  ['right', 'right'],
  ['middle', 'the middle'],
  ['sides', 'the sides'],
];
const BANDS: readonly (readonly [Band, string])[] = [
  ['all', 'whole band'],
  ['guitar', 'guitar band'],
  ['bass', 'bass band'],
];
const clock = (at: number): string =>
  new Date(at).toLocaleString('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' });
/** Above this level a headphone tires the ears soon. */
const LOUD = -9;
const HOW: Readonly<Record<Comparison, string>> = {
  recording: 'the recording',
  together: 'with what is written',
  sides: 'recording left, written right',
  turn: 'in turn with what is written',
};

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'play, or stop'],
  ['Left, right', 'a tenth of a second; with Shift a whole one'],
  ['Up, down', 'the pitch to compare, by semitones'],
  ['P', 'hear that pitch; with Shift together with the recording'],
  ['T', 'a note begins here, at that pitch: by your own ear'],
  ['R, S', 'what the last note by ear rests on: it rings, or a slide is heard'],
  ['Backspace', 'take the last note by ear away'],
  ['B', 'a bar begins here'],
  ['M', 'a marker here'],
  ['L', 'loop, or not'],
  ['O', 'loop the bar at the playhead; with Shift a bar more'],
  [', .', 'the loop a bar earlier, later'],
  ['[ ]', 'the loop’s beginning earlier, later; with Shift its end'],
  ['+ and −', 'closer, wider'],
  ['?', 'these keys'],
];

/** One recording: waveform and pitch on one time axis, playing, and what was heard. */
export function HearBench({
  clip,
  sound,
  arrived,
  startAt,
  keeper,
}: {
  readonly clip: ClipEntry;
  readonly sound: ClipSound | null;
  /** Share of it that has come in. */ readonly arrived: number;
  readonly startAt: number | null;
  readonly keeper: ClipKeeper;
}) {
  const piece = usePiece((state) => state.document);
  const toast = useToast();
  const seconds = clip.seconds ?? 1;
  const [view, setView] = useState<View>(() =>
    startAt === null ? { from: 0, to: Math.min(seconds, 30) } : held({ from: startAt - 4, to: startAt + 8 }, seconds),
  );
  const [overview, setOverview] = useState<Uint8Array | null>(null);
  const [loop, setLoop] = useState<View | null>(null);
  const [looping, setLooping] = useState(true);
  const [speed, setSpeed] = useState(100);
  const [semitones, setSemitones] = useState(0);
  const [channels, setChannels] = useState<Channels>('both');
  const [band, setBand] = useState<Band>('all');
  const [how, setHow] = useState<Comparison>('recording');
  const [level, setLevel] = useState(0.7);
  const [playing, setPlaying] = useState(false);
  const [candidate, setCandidate] = useState<number | null>(null);
  const [own, setOwn] = useState<readonly Offer[]>([]);
  const offers = useOffers(own);
  const { heard } = offers;
  const [help, setHelp] = useState(false);
  const cursor = useRef(startAt ?? 0);
  const player = useRef<ClipPlayer | null>(null);
  const box = useRef<HTMLDivElement>(null);

  const riffs = useMemo(() => piece.parts.flatMap((part) => part.riffs.map((riff) => ({ part, riff }))), [piece]);
  const target = findRiff(piece, clip.document.riff ?? '') ?? riffs[0] ?? null;
  const setup = target?.part.setup ?? null;
  const open = useMemo(
    () => (setup ? stringNumbers(setup).map((string) => openPitch(setup, string)) : [40, 45, 50, 55, 59, 64]),
    [setup],
  );
  const low = Math.min(...open) - 3;
  const high = Math.max(...open) + 22;
  const { trim } = clip.document;
  const used = useMemo(
    () =>
      trim && trim.from < seconds ? { from: trim.from, to: Math.min(seconds, trim.to) } : { from: 0, to: seconds },
    [trim, seconds],
  );
  const key = keyOf(piece, null);
  const bpm = target ? bpmAt(tempoOf(piece, target.riff), ZERO) : 100;
  const bars = useMemo(
    () => (target ? new BarMap(target.riff.meters, clip.document.marks, bpm) : null),
    [target, clip.document.marks, bpm],
  );
  // What is written goes round again for as long as the recording lasts, at the times its bars give it.
  const written = useMemo((): Written[] => {
    if (!target || !bars?.known || target.riff.events.length === 0) return [];
    const until = quarter(Math.max(1, Math.ceil(Math.min(bars.quarters(seconds), 4000))));
    return goneRound(target.riff, until).events.flatMap((event) =>
      event.notes.flatMap((note) =>
        note.place
          ? [
              {
                at: bars.seconds(toNumber(event.at)),
                until: bars.seconds(toNumber(endOf(event))),
                string: note.place.string,
                fret: note.place.fret,
              },
            ]
          : [],
      ),
    );
  }, [target, bars, seconds]);
  const lines = useMemo(
    () =>
      bars?.known
        ? bars
            .lines(view.from, view.to)
            .map((one) => ({ ...one, laid: clip.document.marks.some((other) => other.bar === one.bar) }))
        : [],
    [bars, view, clip.document.marks],
  );

  useEffect(() => {
    let wanted = true;
    void overviewAction(clip.id).then((text) => {
      if (wanted && text) setOverview(Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0)));
    });
    return () => {
      wanted = false;
    };
  }, [clip.id]);

  const volume = useRef(level);
  const failed = useEffectEvent((reason: unknown) =>
    toast(`The sound broke off: ${reason instanceof Error ? reason.message : String(reason)}. Play it again.`),
  );
  useEffect(() => {
    if (!sound) return;
    const made = new ClipPlayer(sound, setPlaying, failed);
    made.setLevel(volume.current);
    player.current = made;
    return () => {
      player.current = null;
      made.close();
    };
  }, [sound]);

  const { waiting, refused } = useKeeping(keeper);
  const change = (document: ClipDocument): void => void keeper.keep(document);
  const gaveWay = refused.at(-1);

  // Turning it louder or softer is heard as it plays, and begins nothing anew.
  useEffect(() => {
    volume.current = level;
    player.current?.setLevel(level);
  }, [level]);
  const request = useCallback((): HearRequest => {
    const stretch = loop ?? used;
    const beside =
      how !== 'recording' && target && bars?.known && target.riff.events.length > 0
        ? { riff: target.riff, setup: target.part.setup, bars, cents: clip.document.cents, how }
        : null;
    return { ...stretch, loop: looping && loop !== null, speed, semitones, channels, band, beside };
  }, [loop, looping, used, speed, semitones, channels, band, how, target, bars, clip.document.cents]);
  const play = useCallback((): void => {
    const wanted = request();
    const start = cursor.current >= wanted.from && cursor.current < wanted.to - 0.05 ? cursor.current : wanted.from;
    void player.current?.play(wanted, start);
  }, [request]);
  // What is changed while it plays is heard at once.
  const wasPlaying = useRef(false);
  useEffect(() => {
    wasPlaying.current = playing;
  }, [playing]);
  useEffect(() => {
    if (wasPlaying.current) play();
  }, [play]);

  const at = useCallback((): number => {
    const now = player.current?.at() ?? null;
    if (now !== null) cursor.current = now;
    return cursor.current;
  }, []);
  const toggle = (): void => {
    if (playing) {
      at();
      player.current?.stop();
    } else play();
  };
  const seek = (to: number): void => {
    cursor.current = Math.max(0, Math.min(seconds, to));
    if (playing) void player.current?.play(request(), cursor.current);
    if (cursor.current < view.from || cursor.current > view.to)
      setView(
        held(
          { from: cursor.current - (view.to - view.from) / 4, to: cursor.current + (3 * (view.to - view.from)) / 4 },
          seconds,
        ),
      );
  };
  const hearPitch = (together: boolean): void => {
    if (candidate === null || !sound) return;
    void sound.door.tone(candidate, clip.document.cents, 1.4).then(async (tone) => {
      if (together && !playing)
        void player.current?.play(
          { ...request(), loop: false, from: cursor.current, to: Math.min(seconds, cursor.current + 1.4) },
          cursor.current,
        );
      await player.current?.sounding(tone);
    });
  };
  const putOwn = (): void => {
    if (candidate === null)
      return toast('Choose the pitch first: click at its height in the picture, or step with the arrows.');
    const here = at();
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
  const layBar = (): void => {
    const here = Math.round(at() * 1000) / 1000;
    const { marks } = clip.document;
    const last = marks.at(-1);
    const near = bars?.known
      ? Math.round(
          bars
            .lines(here - 20, here + 20)
            .reduce((best, one) => (Math.abs(one.at - here) < Math.abs(best.at - here) ? one : best), {
              bar: 0,
              at: -1e9,
            }).bar,
        )
      : last
        ? last.bar + 1
        : 0;
    const kept = marks.filter((one) => one.bar !== near && Math.abs(one.at - here) > 0.05);
    const next = [...kept, { bar: near, at: here }].sort((a, b) => a.at - b.at);
    if (!next.every((one, i) => i === 0 || one.bar > (next[i - 1]?.bar ?? -99)))
      return toast('That bar would stand before one that comes earlier. Move the other line first.');
    change({ ...clip.document, marks: next });
  };
  /** The loop by whole bars: the bar at the playhead, or the loop grown or moved by a bar. */
  const loopBars = (grow: number, move = 0): void => {
    if (!bars?.known) return toast('Lay bars first: B at each bar’s beginning, or let the program listen.');
    // Before the first bar it is the first bar that is meant.
    const first = bars.barAt(Math.max(bars.seconds(0), loop?.from ?? at()) + 0.01);
    const last = loop ? bars.barAt(loop.to - 0.01) : first;
    const edge = (bar: number): number =>
      bars.seconds(toNumber(barStart(target?.riff.meters ?? [{ bar: 0, beats: 4, unit: 4 }], bar)));
    const from = Math.max(0, edge(first.bar + move));
    const to = Math.min(
      seconds,
      edge(Math.max(first.bar + 1, (grow === 0 && move === 0 ? first.bar : last.bar) + 1 + grow) + move),
    );
    if (to - from < 0.05) return;
    setLoop({ from, to });
    setLooping(true);
    if (!playing) cursor.current = from;
    if (from < view.from || to > view.to)
      setView(held({ from: from - (to - from) / 2, to: to + (to - from) / 2 }, seconds));
  };
  const zoom = (factor: number): void => {
    const middle = Math.max(view.from, Math.min(view.to, at()));
    setView(held({ from: middle - (middle - view.from) * factor, to: middle + (view.to - middle) * factor }, seconds));
  };

  const onKeyDown = (event: KeyboardEvent): void => {
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      (event.target as Element).closest('input, select, textarea, [role=slider]')
    )
      return;
    const nudge = (edge: 'from' | 'to', by: number): void => {
      if (loop) setLoop({ ...loop, [edge]: Math.max(0, Math.min(seconds, loop[edge] + by)) });
    };
    const runs: Record<string, () => void> = {
      ' ': toggle,
      ArrowLeft: () => seek(at() - (event.shiftKey ? 1 : 0.1)),
      ArrowRight: () => seek(at() + (event.shiftKey ? 1 : 0.1)),
      ArrowUp: () => setCandidate((candidate ?? Math.round((low + high) / 2)) + 1),
      ArrowDown: () => setCandidate((candidate ?? Math.round((low + high) / 2)) - 1),
      p: () => hearPitch(false),
      P: () => hearPitch(true),
      t: putOwn,
      r: () => restOn('ring'),
      s: () => restOn('slide'),
      Backspace: () => setOwn((list) => list.slice(0, -1)),
      b: layBar,
      m: () =>
        change({
          ...clip.document,
          markers: [...clip.document.markers, { at: at(), say: String(clip.document.markers.length + 1) }],
        }),
      l: () => setLooping(!looping),
      o: () => loopBars(0),
      O: () => loopBars(1),
      ',': () => loopBars(0, -1),
      '.': () => loopBars(0, 1),
      '[': () => nudge('from', -0.02),
      ']': () => nudge('from', 0.02),
      '{': () => nudge('to', -0.02),
      '}': () => nudge('to', 0.02),
      '+': () => zoom(0.7),
      '=': () => zoom(0.7),
      '-': () => zoom(1.4),
      '?': () => setHelp(true),
    };
    const run = runs[event.key];
    if (!run || (event.key === ' ' && (event.target as Element).closest('button'))) return;
    event.preventDefault();
    run();
  };

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
      <div ref={box} onKeyDown={onKeyDown} className="flex min-h-0 flex-1 flex-col gap-2 py-2">
        {gaveWay ? (
          <div
            role="status"
            className="flex items-center gap-3 border-l-4 border-trouble bg-trouble-wash px-3 py-1.5 text-[15px]"
          >
            <p>
              Another window laid something else on this recording: it is shown. What was laid here ({clock(gaveWay.at)}
              ) is held on this device.
            </p>
            <Button size="small" className="ml-auto" onClick={() => void keeper.use()}>
              Use mine
            </Button>
            <Button
              tone="word"
              size="small"
              onClick={() => {
                const gone = keeper.drop();
                if (gone) toast('It was let go.', { label: 'Undo', run: () => keeper.putBack(gone) });
              }}
            >
              Let it go
            </Button>
          </div>
        ) : null}
        <div className="flex min-h-0 flex-1 gap-5">
          <main className="flex min-w-0 flex-1 flex-col" tabIndex={-1}>
            <Picture
              sound={sound}
              channels={channels}
              arrived={arrived * seconds}
              overview={overview}
              seconds={seconds}
              view={view}
              onView={setView}
              low={low}
              high={high}
              cents={clip.document.cents}
              keyShown={key}
              open={open}
              loop={loop}
              used={used}
              onLoop={(one) => {
                setLoop(one);
                if (one) cursor.current = one.from;
              }}
              onSeek={(to, midi) => {
                seek(to);
                if (midi !== null) setCandidate(midi);
              }}
              playhead={at}
              written={written}
              strings={open.length}
              lines={lines}
              markers={clip.document.markers}
              notes={notes}
              candidate={candidate}
              onMoveLine={(bar, to) => {
                const next = [
                  ...clip.document.marks.filter((one) => one.bar !== bar),
                  { bar, at: Math.round(to * 1000) / 1000 },
                ].sort((a, b) => a.bar - b.bar);
                if (next.every((one, i) => i === 0 || one.at > (next[i - 1]?.at ?? -1e9)))
                  change({ ...clip.document, marks: next });
                else toast('A bar line can’t go past its neighbour.');
              }}
              describe={`${clip.document.name}, ${clipTime(seconds)} long, seen from ${clipTime(view.from)} to ${clipTime(view.to)}${
                heard
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
            stretch={loop ?? used}
            whole={loop === null}
            channels={channels}
            target={target}
            riffs={riffs}
            bars={bars}
            offers={offers}
            open={open}
            frets={setup ? setup.instrument.frets - baseNut(setup) : 22}
            cursor={at}
            onChange={change}
            onAccepted={() => setOwn([])}
            onSeek={seek}
          />
        </div>
        <section aria-label="Player" data-playing={playing} className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <Button tone={playing ? 'yours' : 'plain'} onClick={toggle} disabled={!sound} className="w-24">
            {playing ? <Square size={16} aria-hidden /> : <Play size={16} aria-hidden />}
            {playing ? 'Stop' : 'Play'}
          </Button>
          <Switch on={looping} onSwitch={setLooping}>
            <Repeat size={16} aria-hidden /> Loop
          </Switch>
          <Measure label="Speed in percent" value={speed} min={25} max={150} onValue={setSpeed} text={`${speed} %`} />
          <Measure
            label="Pitch moved by semitones"
            value={semitones}
            min={-12}
            max={12}
            step={0.5}
            onValue={setSemitones}
            text={semitones === 0 ? 'at pitch' : `${semitones > 0 ? '+' : '−'}${Math.abs(semitones)} semitones`}
          />
          <select
            aria-label="Channels"
            value={channels}
            onChange={(event) => setChannels(event.target.value as Channels)}
            className="min-h-9 rounded-sm border border-rule bg-sheet px-2 text-[15px]"
          >
            {CHANNELS.map(([one, words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </select>
          <select
            aria-label="Band"
            value={band}
            onChange={(event) => setBand(event.target.value as Band)}
            className="min-h-9 rounded-sm border border-rule bg-sheet px-2 text-[15px]"
          >
            {BANDS.map(([one, words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </select>
          <Volume2 size={16} aria-hidden className="text-soft" />
          <Measure
            label="Volume"
            value={Math.round(level * 100)}
            min={0}
            max={100}
            onValue={(v) => setLevel(v / 100)}
            text=""
          />
          <Loudness level={() => player.current?.level() ?? null} />
          <span aria-hidden className="basis-full" />
          <div role="group" aria-label="Loop by bars" className="flex items-center gap-1">
            <Button size="small" disabled={!bars?.known} onClick={() => loopBars(0)}>
              Loop this bar
            </Button>
            <Button size="small" disabled={!bars?.known || !loop} onClick={() => loopBars(1)} aria-label="A bar more">
              + bar
            </Button>
            {loop ? (
              <Button tone="word" size="small" onClick={() => setLoop(null)}>
                All of it
              </Button>
            ) : null}
          </div>
          <span aria-hidden className="ml-2 text-[15px] text-soft">
            Hear
          </span>
          <select
            aria-label="Hear"
            value={how}
            onChange={(event) => setHow(event.target.value as Comparison)}
            disabled={!bars?.known || !target || target.riff.events.length === 0}
            title={bars?.known ? undefined : 'Lay bars first: then what is written can be heard beside it.'}
            className="min-h-9 max-w-56 rounded-sm border border-rule bg-sheet px-2 text-[15px] disabled:opacity-45"
          >
            {COMPARISONS.map((letter) => (
              <option key={letter} value={letter}>
                {HOW[letter]}
              </option>
            ))}
          </select>
          <div className="ml-auto flex items-center gap-4">
            {waiting ? (
              <p role="status" className="text-sm font-semibold text-trouble">
                Not saved: kept on this device
              </p>
            ) : null}
            <AboutClip
              key={clip.document.name}
              document={clip.document}
              seconds={seconds}
              loop={loop}
              onChange={change}
            />
            <Button tone="word" size="small" onClick={() => setHelp(true)}>
              Keys
            </Button>
          </div>
        </section>
      </div>
      <Dialog open={help} onOpenChange={setHelp} title="Keys at the hearing bench">
        <dl className="grid grid-cols-[9rem_1fr] gap-y-1 text-[15px]">
          {KEYS.map(([one, what]) => (
            <div key={one} className="contents">
              <dt className="font-figures font-bold">{one}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
    </>
  );
}

function Measure({ text, ...slider }: Parameters<typeof Slider>[0] & { readonly text: string }) {
  return (
    <div className="flex items-center gap-2">
      <Slider {...slider} />
      {text ? <span className="font-figures text-[15px] whitespace-nowrap">{text}</span> : null}
    </div>
  );
}

/** Level of what sounds, with a word of caution where it stays loud. */
function Loudness({ level }: { readonly level: () => number | null }) {
  const bar = useRef<HTMLDivElement>(null);
  const read = useRef(level);
  useEffect(() => {
    read.current = level;
  }, [level]);
  const [loud, setLoud] = useState(false);
  useEffect(() => {
    let frame = 0;
    let over = 0;
    const follow = (): void => {
      frame = requestAnimationFrame(follow);
      const db = read.current();
      if (bar.current) bar.current.style.width = `${db === null ? 0 : Math.max(0, Math.min(100, (db + 54) * 2))}%`;
      over = db !== null && db > LOUD ? Math.min(240, over + 1) : Math.max(0, over - 2);
      setLoud(over > 100);
    };
    frame = requestAnimationFrame(follow);
    return () => cancelAnimationFrame(frame);
  }, []);
  return (
    <div className="flex items-center gap-2">
      <div aria-hidden className="h-2 w-16 border border-rule">
        <div ref={bar} className="h-full bg-proposed" style={{ width: 0 }} />
      </div>
      {loud ? (
        <p role="status" className="text-sm font-semibold text-trouble">
          Loud for long: turn down, rest your ears.
        </p>
      ) : null}
    </div>
  );
}
