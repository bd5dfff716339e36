import type { Manner } from '@/core/listen';
import { noteName } from '@/core/pitch';
import { cn } from '@/ui/cn';
import { bendText } from '@/ui/draw/lanes';
import {
  AXIS,
  LINE,
  NATURALS,
  RULER,
  type PictureDrag,
  type PictureProps,
  type PictureScale,
  type View,
  type Written,
} from './picture-frame';

/** What a note does, in a sign or a word over it. */
const mannerSign = (manner: Manner): string => (manner.kind === 'bend' ? `↑${bendText(manner.cents)}` : manner.kind);

interface Props {
  readonly one: PictureProps;
  readonly scale: PictureScale;
  readonly drag: PictureDrag | null;
  readonly shownLoop: View | null;
}

/** Everything drawn over the picture: the loop, bar lines, what was heard and written, names and markers. */
export function PictureMarks({ one, scale, drag, shownLoop }: Props) {
  const { view, low, high, seconds } = one;
  const { width, height, rows, lane, floor, x, y } = scale;
  const names = Array.from({ length: high - low }, (_, i) => low + i).filter(
    (midi) => one.open.includes(midi) || midi % 12 === 0 || (floor / rows > 15 && NATURALS.includes(midi % 12)),
  );
  return (
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
        <WrittenLane written={one.written} strings={one.strings} view={view} x={x} top={height - lane} width={width} />
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
