'use client';

import { useCallback, useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { ROWS_PER_SEMITONE } from '@/core/listen';
import {
  AXIS,
  held,
  LINE,
  RULER,
  WAVE,
  type PictureDrag,
  type PictureProps,
  type PictureScale,
  type View,
} from './picture-frame';
import { PictureMarks } from './picture-marks';

/** Waveform above, pitch by time below, on one time axis; bar lines, the loop and what was heard drawn over. */
export function Picture(one: PictureProps) {
  const { view, low, high, open, overview, seconds } = one;
  const box = useRef<HTMLDivElement | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const [{ width, height }, setSize] = useState({ width: 0, height: 420 });
  const [image, setImage] = useState<{ readonly bitmap: ImageData; readonly view: View } | null>(null);
  const [drag, setDrag] = useState<PictureDrag | null>(null);
  const inner = Math.max(100, width - AXIS);
  const span = view.to - view.from;
  const x = useCallback((at: number): number => AXIS + ((at - view.from) / span) * inner, [view.from, span, inner]);
  const rows = high - low;
  const lane = one.written.length > 0 ? one.strings * LINE + 12 : 0;
  const floor = height - RULER - WAVE - lane;
  const y = useCallback(
    (midi: number): number => RULER + WAVE + (1 - (midi - low + 0.5) / rows) * floor,
    [low, rows, floor],
  );
  const scale: PictureScale = { width, height, inner, rows, lane, floor, x, y };

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
    paint(context, {
      shown: { view, low, high, open, overview, seconds },
      scale: { width, height, inner, rows, lane, floor, x, y },
      image,
    });
  }, [image, view, low, high, open, overview, seconds, width, height, inner, rows, lane, floor, x, y]);

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

  useWheel(box, one, inner);

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
      <PictureMarks one={one} scale={scale} drag={drag} shownLoop={shownLoop} />
      <div
        ref={head}
        aria-hidden
        className="pointer-events-none absolute top-0 bottom-0 left-0 w-[2.5px] bg-question opacity-0"
      />
    </div>
  );
}

/** The wheel zooms about the pointer, with Shift it goes along. */
function useWheel(box: RefObject<HTMLDivElement | null>, { view, onView, seconds }: PictureProps, inner: number): void {
  const span = view.to - view.from;
  // React's own listener could not keep the page from scrolling.
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
  }, [box, view, inner, span, onView, seconds]);
}

/** Waveform and pitches as ink: what does not change while the pointer moves. */
function paint(
  context: CanvasRenderingContext2D,
  {
    shown,
    scale: { width, height, inner, rows, floor, x },
    image,
  }: {
    readonly shown: Pick<PictureProps, 'view' | 'low' | 'high' | 'open' | 'overview' | 'seconds'>;
    readonly scale: PictureScale;
    readonly image: { readonly bitmap: ImageData; readonly view: View } | null;
  },
): void {
  const { view, low, high, open, overview, seconds } = shown;
  const span = view.to - view.from;
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
    const strong = open.includes(midi);
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
  if (overview) {
    context.fillStyle = style.getPropertyValue('--line');
    const count = overview.length / 2;
    for (let px = 0; px < inner; px++) {
      const i = Math.floor(((view.from + (px / inner) * span) / seconds) * count);
      if (i < 0 || i >= count) continue;
      const top = RULER + 4 + ((255 - (overview[2 * i + 1] ?? 128)) / 255) * (WAVE - 8);
      const bottom = RULER + 4 + ((255 - (overview[2 * i] ?? 128)) / 255) * (WAVE - 8);
      context.fillRect(AXIS + px, top, 1, Math.max(1, bottom - top));
    }
  }
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
