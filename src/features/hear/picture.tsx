'use client';

import { useCallback, useEffect, useRef, useState, type PointerEvent } from 'react';
import type { Channels, HeardNote, Manner } from '@/core/listen';
import { ROWS_PER_SEMITONE } from '@/core/listen';
import { noteName, type Key } from '@/core/pitch';
import { cn } from '@/ui/cn';
import { bendText } from '@/ui/draw/lanes';
import type { ClipSound } from './clip-sound';

export interface View {
  readonly from: number;
  readonly to: number;
}

/** A written note in the recording's time. */
export interface Written {
  readonly at: number;
  readonly until: number;
  readonly string: number;
  readonly fret: number;
}

/** A heard note as it is drawn. */
type ShownNote = Pick<HeardNote, 'at' | 'until' | 'midi' | 'certainty' | 'begins' | 'manner'> & {
  readonly own: boolean;
};

/** What a note does, in a sign or a word over it. */
const mannerSign = (manner: Manner): string => (manner.kind === 'bend' ? `↑${bendText(manner.cents)}` : manner.kind);

interface Props {
  readonly sound: ClipSound | null;
  /** Which of its channels are drawn: those that are heard. */
  readonly channels: Channels;
  /** Seconds of it that are there. */
  readonly arrived: number;
  readonly overview: Uint8Array | null;
  readonly seconds: number;
  readonly view: View;
  readonly onView: (view: View) => void;
  readonly low: number;
  readonly high: number;
  readonly cents: number;
  readonly keyShown: Key | null;
  /** Open strings, in MIDI: their rows are marked. */
  readonly open: readonly number[];
  readonly loop: View | null;
  /** What of the recording is used; the rest is drawn faint. */
  readonly used: View;
  readonly onLoop: (loop: View | null) => void;
  readonly onSeek: (at: number, midi: number | null) => void;
  readonly playhead: () => number;
  readonly lines: readonly { readonly bar: number; readonly at: number; readonly laid: boolean }[];
  readonly onMoveLine: (bar: number, at: number) => void;
  readonly markers: readonly { readonly at: number; readonly say: string }[];
  readonly notes: readonly ShownNote[];
  /** What is written, where the recording's bars put it. */
  readonly written: readonly Written[];
  readonly strings: number;
  readonly candidate: number | null;
  readonly describe: string;
}

const NATURALS = [0, 2, 4, 5, 7, 9, 11];
const AXIS = 44;
const RULER = 22;
const WAVE = 64;
/** Between the strings of what is written below. */
const LINE = 13;

/** Waveform above, pitch by time below, on one time axis; bar lines, the loop and what was heard drawn over. */
export function Picture(one: Props) {
  const { view, low, high } = one;
  const box = useRef<HTMLDivElement | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const [{ width, height }, setSize] = useState({ width: 0, height: 420 });
  const [image, setImage] = useState<{ readonly bitmap: ImageData; readonly view: View } | null>(null);
  const [drag, setDrag] = useState<{
    readonly kind: 'loop' | 'line';
    readonly bar: number;
    readonly start: number;
    readonly now: number;
  } | null>(null);
  const inner = Math.max(100, width - AXIS);
  const span = view.to - view.from;
  const x = useCallback((at: number): number => AXIS + ((at - view.from) / span) * inner, [view.from, span, inner]);
  const rows = high - low;
  const lane = one.written.length > 0 ? one.strings * LINE + 12 : 0;
  const floor = height - RULER - WAVE - lane;
  const y = (midi: number): number => RULER + WAVE + (1 - (midi - low + 0.5) / rows) * floor;

  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const observer = new ResizeObserver(() => setSize({ width: el.clientWidth, height: el.clientHeight }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);

  // The picture for what is in sight, a moment after it stands still; until then the last one is shown, moved.
  const { sound, channels } = one;
  const there = Math.min(view.to, one.arrived);
  useEffect(() => {
    if (!sound || width === 0 || there <= view.from) return;
    let wanted = true;
    const columns = Math.min(1400, Math.round(inner));
    const timer = setTimeout(() => {
      void sound.door
        .picture(
          { from: view.from, to: view.to, columns, low: low + one.cents / 100, high: high + one.cents / 100 },
          channels,
        )
        .then((values) => {
          if (wanted) setImage({ bitmap: coloured(values, columns, rows * ROWS_PER_SEMITONE), view });
        });
    }, 60);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [sound, channels, there, view, low, high, rows, inner, width, one.cents]);

  useEffect(() => {
    const el = canvas.current;
    const context = el?.getContext('2d');
    if (!el || !context || width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = width * ratio;
    el.height = height * ratio;
    context.scale(ratio, ratio);
    const style = getComputedStyle(document.documentElement);
    context.fillStyle = style.getPropertyValue('--sheet');
    context.fillRect(0, 0, width, height);
    if (image) {
      const flat = new OffscreenCanvas(image.bitmap.width, image.bitmap.height);
      flat.getContext('2d')?.putImageData(image.bitmap, 0, 0);
      context.imageSmoothingEnabled = true;
      context.drawImage(flat, x(image.view.from), RULER + WAVE, x(image.view.to) - x(image.view.from), floor);
    }
    // Rows of the naturals, and of open strings.
    for (let midi = low; midi < high; midi++) {
      const strong = one.open.includes(midi);
      if (!strong && midi % 12 !== 0) continue;
      context.strokeStyle = style.getPropertyValue(strong ? '--proposed' : '--rule');
      context.globalAlpha = strong ? 0.55 : 0.8;
      context.lineWidth = 1;
      const at = RULER + WAVE + (1 - (midi - low + 0.5) / rows) * floor;
      context.beginPath();
      context.moveTo(AXIS, at);
      context.lineTo(width, at);
      context.stroke();
    }
    context.globalAlpha = 1;
    context.fillStyle = style.getPropertyValue('--sheet');
    context.fillRect(0, 0, AXIS, height);
    if (one.overview) {
      context.fillStyle = style.getPropertyValue('--line');
      const count = one.overview.length / 2;
      for (let px = 0; px < inner; px++) {
        const i = Math.floor(((view.from + (px / inner) * span) / one.seconds) * count);
        if (i < 0 || i >= count) continue;
        const top = RULER + 4 + ((255 - (one.overview[2 * i + 1] ?? 128)) / 255) * (WAVE - 8);
        const bottom = RULER + 4 + ((255 - (one.overview[2 * i] ?? 128)) / 255) * (WAVE - 8);
        context.fillRect(AXIS + px, top, 1, Math.max(1, bottom - top));
      }
    }
  }, [image, width, height, lane, view, one.overview, one.seconds, one.open, low, high, rows, floor, inner, span, x]);

  const { playhead } = one;
  useEffect(() => {
    let frame = 0;
    const follow = (): void => {
      frame = requestAnimationFrame(follow);
      const el = head.current;
      if (!el) return;
      const px = x(playhead());
      el.style.opacity = px >= AXIS && px <= AXIS + inner ? '1' : '0';
      el.style.transform = `translateX(${px - 1}px)`;
    };
    frame = requestAnimationFrame(follow);
    return () => cancelAnimationFrame(frame);
  }, [x, inner, playhead]);

  // The wheel zooms about the pointer, with Shift it goes along; React's own listener could not keep the page from
  // scrolling.
  const { onView, seconds } = one;
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      const along = event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY);
      const at = view.from + ((event.clientX - el.getBoundingClientRect().left - AXIS) / inner) * span;
      if (along)
        onView(
          held(
            {
              from: view.from + ((event.deltaX || event.deltaY) / inner) * span,
              to: view.to + ((event.deltaX || event.deltaY) / inner) * span,
            },
            seconds,
          ),
        );
      else {
        const factor = Math.exp(event.deltaY * 0.0016);
        onView(held({ from: at - (at - view.from) * factor, to: at + (view.to - at) * factor }, seconds));
      }
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => el.removeEventListener('wheel', wheel);
  }, [view, inner, span, onView, seconds]);

  const timeAt = (event: PointerEvent): number =>
    view.from + ((event.clientX - (box.current?.getBoundingClientRect().left ?? 0) - AXIS) / inner) * span;
  const press = (event: PointerEvent): void => {
    const bar = (event.target as Element).closest('[data-bar]')?.getAttribute('data-bar');
    const at = Math.max(0, Math.min(seconds, timeAt(event)));
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ kind: bar === null || bar === undefined ? 'loop' : 'line', bar: Number(bar ?? 0), start: at, now: at });
  };
  const move = (event: PointerEvent): void => {
    if (drag) setDrag({ ...drag, now: Math.max(0, Math.min(seconds, timeAt(event))) });
  };
  const release = (event: PointerEvent): void => {
    if (!drag) return;
    const far = Math.abs(x(drag.now) - x(drag.start)) > 5;
    if (drag.kind === 'line') {
      if (far) one.onMoveLine(drag.bar, drag.now);
    } else if (far) one.onLoop({ from: Math.min(drag.start, drag.now), to: Math.max(drag.start, drag.now) });
    else {
      const py = event.clientY - (box.current?.getBoundingClientRect().top ?? 0);
      one.onSeek(drag.now, py > RULER + WAVE ? Math.round(low - 0.5 + (1 - (py - RULER - WAVE) / floor) * rows) : null);
    }
    setDrag(null);
  };
  const shownLoop =
    drag?.kind === 'loop' && Math.abs(x(drag.now) - x(drag.start)) > 5
      ? { from: Math.min(drag.start, drag.now), to: Math.max(drag.start, drag.now) }
      : one.loop;
  const names = Array.from({ length: high - low }, (_, i) => low + i).filter(
    (m) => one.open.includes(m) || m % 12 === 0 || (floor / rows > 15 && NATURALS.includes(m % 12)),
  );
  return (
    <div
      ref={box}
      role="img"
      aria-label={one.describe}
      className="relative min-h-0 flex-1 touch-none overflow-hidden border border-rule bg-sheet select-none"
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={release}
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden />
      <svg width={width} height={height} className="absolute inset-0" aria-hidden>
        {[
          { from: 0, to: one.used.from },
          { from: one.used.to, to: seconds },
        ].map(({ from, to }) => {
          const [a, b] = [Math.max(AXIS, x(from)), Math.min(width, x(to))];
          return to > from && b > a ? (
            <rect
              key={from}
              x={a}
              y={RULER}
              width={b - a}
              height={height - RULER}
              className="fill-paper"
              opacity={0.75}
            />
          ) : null;
        })}
        {lane > 0 ? (
          <WrittenLane
            written={one.written}
            strings={one.strings}
            view={view}
            x={x}
            top={height - lane}
            width={width}
          />
        ) : null}
        {shownLoop && shownLoop.to > view.from ? (
          <rect
            x={Math.max(AXIS, x(shownLoop.from))}
            y={RULER}
            width={Math.max(1, x(shownLoop.to) - Math.max(AXIS, x(shownLoop.from)))}
            height={height - RULER}
            className="fill-chosen"
            opacity={0.3}
          />
        ) : null}
        {shownLoop
          ? [shownLoop.from, shownLoop.to]
              .filter((t) => t >= view.from)
              .map((t) => (
                <line key={t} x1={x(t)} x2={x(t)} y1={RULER} y2={height} className="stroke-ink" strokeWidth={1.5} />
              ))
          : null}
        {one.lines
          .filter((one) => one.at >= view.from && one.at <= view.to)
          .map((one) => {
            const at = drag?.kind === 'line' && drag.bar === one.bar ? drag.now : one.at;
            return (
              <g key={one.bar} data-bar={one.bar} className="cursor-ew-resize">
                <line
                  x1={x(at)}
                  x2={x(at)}
                  y1={RULER - 4}
                  y2={height}
                  className={one.laid ? 'stroke-yours' : 'stroke-line'}
                  strokeWidth={one.laid ? 1.6 : 1}
                  strokeDasharray={one.laid ? undefined : '3 4'}
                />
                <rect x={x(at) - 9} y={0} width={34} height={RULER} fill="transparent" />
                <text
                  x={x(at) + 3}
                  y={15}
                  className={cn('font-figures text-[13px] font-bold', one.laid ? 'fill-yours' : 'fill-soft')}
                >
                  {one.bar + 1}
                </text>
              </g>
            );
          })}
        {one.notes
          .filter((one) => one.until >= view.from && one.at <= view.to && one.midi >= low && one.midi < high)
          .map((one, i) => {
            const tall = Math.max(5, floor / rows);
            const left = Math.max(AXIS, x(one.at));
            return (
              <g key={i}>
                <rect
                  x={left}
                  y={y(one.midi) - tall / 2}
                  width={Math.max(3, x(one.until) - left)}
                  height={tall}
                  rx={2}
                  className={one.own ? 'stroke-yours' : 'stroke-proposed'}
                  fill="none"
                  strokeWidth={one.own ? 2.4 : 2}
                  strokeDasharray={one.certainty < 0.55 ? '3 3' : undefined}
                  opacity={one.certainty > 0.85 || one.own ? 1 : 0.75}
                />
                {one.manner && x(one.at) >= AXIS ? (
                  <text x={left} y={y(one.midi) - tall / 2 - 3} className="fill-proposed text-[12px] font-bold">
                    {mannerSign(one.manner)}
                  </text>
                ) : null}
              </g>
            );
          })}
        {one.notes.flatMap((other, i) => {
          const before = one.notes[i - 1];
          if (!before || other.begins !== 'joined' || other.at < view.from || other.at > view.to || x(other.at) < AXIS)
            return [];
          // An arc over the two that one stroke set off.
          const reach = Math.min(14, (x(other.until) - x(before.at)) / 4);
          const [from, to] = [y(before.midi), y(other.midi)].map((v) => v - Math.max(5, floor / rows) / 2 - 2) as [
            number,
            number,
          ];
          return [
            <path
              key={i}
              data-joined
              d={`M${x(other.at) - reach},${from} Q${x(other.at)},${Math.min(from, to) - 9} ${x(other.at) + reach},${to}`}
              fill="none"
              className="stroke-proposed"
              strokeWidth={2}
            />,
          ];
        })}
        {one.candidate !== null && one.candidate >= low && one.candidate < high ? (
          <g>
            <line
              x1={AXIS}
              x2={width}
              y1={y(one.candidate)}
              y2={y(one.candidate)}
              className="stroke-question"
              strokeWidth={1.5}
            />
            <text x={AXIS + 4} y={y(one.candidate) - 4} className="fill-question text-[15px] font-bold">
              {noteName(one.candidate, { key: one.keyShown })}
            </text>
          </g>
        ) : null}
        {one.markers
          .filter((one) => one.at >= view.from && one.at <= view.to)
          .map((one) => (
            <g key={one.at}>
              <path d={`M${x(one.at)},${RULER} l5,-8 h-10 z`} className="fill-yours" />
              <text x={x(one.at) + 7} y={RULER + 12} className="fill-yours text-[13px]">
                {one.say}
              </text>
            </g>
          ))}
        {names.map((m) => (
          <text
            key={m}
            x={4}
            y={y(m) + 4}
            className={cn('text-[12px]', one.open.includes(m) ? 'fill-proposed font-bold' : 'fill-soft')}
          >
            {noteName(m, { key: one.keyShown })}
          </text>
        ))}
      </svg>
      <div
        ref={head}
        aria-hidden
        className="pointer-events-none absolute top-0 bottom-0 left-0 w-[2.5px] bg-question opacity-0"
      />
    </div>
  );
}

/** What is written, as tab under the picture, at the times the recording's bars give it. */
function WrittenLane({
  written,
  strings,
  view,
  x,
  top,
  width,
}: {
  readonly written: readonly Written[];
  readonly strings: number;
  readonly view: View;
  readonly x: (at: number) => number;
  readonly top: number;
  readonly width: number;
}) {
  const y = (string: number): number => top + 8 + (string - 0.5) * LINE;
  return (
    <g>
      <rect x={0} y={top} width={width} height={strings * LINE + 12} className="fill-sheet" />
      <line x1={0} x2={width} y1={top} y2={top} className="stroke-rule" />
      {Array.from({ length: strings }, (_, i) => (
        <line key={i} x1={AXIS} x2={width} y1={y(i + 1)} y2={y(i + 1)} className="stroke-rule" />
      ))}
      <text x={4} y={y((strings + 1) / 2) + 4} className="fill-soft text-[12px]">
        written
      </text>
      {written
        .filter((place) => place.until >= view.from && place.at <= view.to && x(place.at) >= AXIS)
        .map((place, i) => (
          <g key={i}>
            <rect
              x={x(place.at) - 1}
              y={y(place.string) - 6}
              width={String(place.fret).length * 8 + 2}
              height={12}
              className="fill-sheet"
            />
            <text x={x(place.at)} y={y(place.string) + 5} className="fill-ink font-figures text-[14px] font-bold">
              {place.fret}
            </text>
          </g>
        ))}
    </g>
  );
}

/** Kept within the recording, no closer than a fifth of a second. */
export function held(view: View, seconds: number): View {
  const span = Math.min(Math.max(0.2, view.to - view.from), seconds);
  const from = Math.max(0, Math.min(seconds - span, view.from + (view.to - view.from - span) / 2));
  return { from, to: from + span };
}

/** Values as ink on paper, row 0 at the bottom. */
function coloured(values: Uint8ClampedArray, columns: number, rows: number): ImageData {
  const style = getComputedStyle(document.documentElement);
  const rgb = (name: string): number[] => {
    const hex = style.getPropertyValue(name).trim().replace('#', '');
    return [0, 2, 4].map((i) => parseInt(hex.slice(i, i + 2), 16));
  };
  const paper = rgb('--sheet');
  const ink = rgb('--ink');
  const out = new ImageData(columns, rows);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      const v = ((values[r * columns + c] ?? 0) / 255) ** 1.4;
      const at = 4 * ((rows - 1 - r) * columns + c);
      for (let k = 0; k < 3; k++) out.data[at + k] = (paper[k] ?? 0) + ((ink[k] ?? 0) - (paper[k] ?? 0)) * v;
      out.data[at + 3] = 255;
    }
  }
  return out;
}
