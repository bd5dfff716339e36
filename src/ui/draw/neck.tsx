import { scaleLinear } from 'd3-scale';
import { useState, type PointerEvent } from 'react';
import {
  baseNut,
  fretDistance,
  nutOf,
  pressPoint,
  stringNumbers,
  type FretCounting,
  type Setup,
} from '@/core/instrument';
import { Pin } from './pin';

/** A place shown on the neck. Frets count from the nut. */
export interface NeckPlace {
  readonly string: number;
  readonly fretFromNut: number;
  readonly kind: 'chosen' | 'locked' | 'possible' | 'other' | 'playing';
  /** Finger digit, or the cost as "+1.2". */
  readonly text: string;
  readonly title: string;
}

interface Props {
  readonly setup: Setup;
  readonly stringNames: readonly (readonly [string, string])[];
  readonly places: readonly NeckPlace[];
  /** The hand: frets from the nut that it covers. */
  readonly hand: { readonly from: number; readonly to: number } | null;
  /** The fret that has to be in sight, from the nut, whatever is shown. */
  readonly furthest?: number;
  readonly width: number;
  readonly label: string;
  readonly mirrored?: boolean;
  /** Where the numbers under the neck count from; the nut when not said. */
  readonly counting?: FretCounting;
  readonly onPick?: (string: number, fretFromNut: number) => void;
}

const INLAYS = [3, 5, 7, 9, 12, 15, 17, 19, 21, 24];
const LABEL = 74;

/**
 * The neck to scale: true fret distances of this instrument, its real number of strings, the
 * capo, the body joint. Thin strings above, as in tab. Shown as far as the work needs it.
 */
export function Neck({
  setup,
  stringNames,
  places,
  hand,
  furthest: least = 0,
  width,
  label,
  mirrored = false,
  counting = 'nut',
  onPick,
}: Props) {
  const { scaleMm, frets, easyFrets } = setup.instrument;
  const strings = stringNumbers(setup).reverse();
  const base = baseNut(setup);
  const zero = counting === 'capo' ? base : 0;
  const furthest = Math.max(
    ...setup.capos.map((capo) => capo.fret),
    hand?.to ?? 0,
    least,
    ...places.map((place) => place.fretFromNut),
  );
  const shown = Math.min(frets, Math.max(12, furthest + 2));
  const gap = strings.length > 6 ? 18 : 20;
  const height = strings.length * gap + 40;
  const top = 18;
  const side = mirrored ? [width - LABEL - 6, 26] : [LABEL + 6, width - 26];
  const one = scaleLinear([0, fretDistance(scaleMm, shown)], side);
  const y = (s: number): number => top + strings.indexOf(s) * gap + gap / 2;
  const at = (fret: number): number => (fret === 0 ? one(0) - (mirrored ? -22 : 22) : one(pressPoint(scaleMm, fret)));
  const boardTop = top - 2;
  const boardBottom = top + strings.length * gap + 2;
  const wire = (fret: number): number => one(fretDistance(scaleMm, fret));
  const placeAt = (event: PointerEvent<SVGSVGElement>): { readonly string: number; readonly fret: number } | null => {
    const box = event.currentTarget.getBoundingClientRect();
    const mm = one.invert(event.clientX - box.left);
    const string = strings[Math.floor((event.clientY - box.top - top) / gap)];
    if (string === undefined) return null;
    let fret = 0;
    while (fret < shown && fretDistance(scaleMm, fret) < mm) fret++;
    return { string, fret: Math.max(fret, nutOf(setup, string)) };
  };
  const board: BoardFrame = {
    one,
    wire,
    at,
    y,
    top: boardTop,
    bottom: boardBottom,
    gap,
    shown,
    zero,
    base,
    width,
    scaleMm,
    mirrored,
  };
  // Where the pointer was put down and where it is now: a click picks a place, a drag carries the note there.
  const [held, setHeld] = useState<{ readonly string: number; readonly fret: number } | null>(null);
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={label}
      className="block touch-none select-none"
      onPointerDown={
        onPick
          ? (event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setHeld(placeAt(event));
            }
          : undefined
      }
      onPointerMove={
        held
          ? (event) => {
              const at = placeAt(event);
              if (at && (at.string !== held.string || at.fret !== held.fret)) setHeld(at);
            }
          : undefined
      }
      onPointerUp={
        onPick
          ? (event) => {
              const at = placeAt(event) ?? held;
              setHeld(null);
              if (held && at) onPick(at.string, at.fret);
            }
          : undefined
      }
      onPointerCancel={() => setHeld(null)}
    >
      <rect
        x={Math.min(one(0), wire(shown))}
        y={boardTop}
        width={Math.abs(wire(shown) - one(0))}
        height={boardBottom - boardTop}
        className="fill-wood"
      />
      {hand ? <HandOver hand={hand} board={board} /> : null}
      <Board board={board} setup={setup} strings={strings} stringNames={stringNames} easyFrets={easyFrets} />
      {held ? (
        <rect
          x={(held.fret === nutOf(setup, held.string) ? openX(held.fret, at, one, scaleMm) : at(held.fret)) - 14}
          y={y(held.string) - 12}
          width={28}
          height={24}
          rx={12}
          fill="none"
          className="stroke-yours"
          strokeWidth={2.5}
          strokeDasharray="4 3"
        />
      ) : null}
      {places.map((other) => (
        <PlaceMark
          key={`${other.string}.${other.fretFromNut}`}
          place={other}
          cx={
            other.fretFromNut === nutOf(setup, other.string)
              ? openX(other.fretFromNut, at, one, scaleMm)
              : at(other.fretFromNut)
          }
          cy={y(other.string)}
        />
      ))}
    </svg>
  );
}

/** Where things lie on a drawn neck, in pixels. */
interface BoardFrame {
  /** Of a distance from the nut, in millimetres. */
  readonly one: (mm: number) => number;
  /** Of a fret's wire, and of where a finger presses behind it. */
  readonly wire: (fret: number) => number;
  readonly at: (fret: number) => number;
  readonly y: (string: number) => number;
  readonly top: number;
  readonly bottom: number;
  readonly gap: number;
  /** The last fret drawn, the one counted as 0, and the one a full capo stands at. */
  readonly shown: number;
  readonly zero: number;
  readonly base: number;
  readonly width: number;
  readonly scaleMm: number;
  readonly mirrored: boolean;
}

/** The reach of the hand over the board, with its width. */
function HandOver({
  hand,
  board,
}: {
  readonly hand: { readonly from: number; readonly to: number };
  readonly board: BoardFrame;
}) {
  const { wire, at, top, bottom, scaleMm } = board;
  return (
    <g>
      <rect
        x={Math.min(wire(hand.from - 1), wire(hand.to))}
        y={top}
        width={Math.abs(wire(hand.to) - wire(hand.from - 1))}
        height={bottom - top}
        className="fill-proposed-wash"
      />
      <line x1={at(hand.from)} x2={at(hand.to)} y1={13} y2={13} className="stroke-proposed" strokeWidth={2} />
      <text
        x={(at(hand.from) + at(hand.to)) / 2}
        y={9}
        textAnchor="middle"
        className="fill-proposed font-figures text-[12px] font-bold"
      >
        {`${Math.round(pressPoint(scaleMm, hand.to) - pressPoint(scaleMm, hand.from))} mm`}
      </text>
    </g>
  );
}

interface BoardProps {
  readonly board: BoardFrame;
  readonly setup: Setup;
  readonly strings: readonly number[];
  readonly stringNames: Props['stringNames'];
  readonly easyFrets: number;
}

/** Frets, strings, nut and capos, with their names and numbers. */
function Board({ board, setup, strings, stringNames, easyFrets }: BoardProps) {
  const { one, wire, y, top, bottom, gap, shown, zero, base, width, scaleMm, mirrored } = board;
  return (
    <>
      {Array.from({ length: shown }, (_, i) => i + 1).map((f) => (
        <line
          key={f}
          x1={wire(f)}
          x2={wire(f)}
          y1={top}
          y2={bottom}
          className="stroke-line"
          strokeWidth={2}
          opacity={0.75}
        />
      ))}
      {easyFrets < shown ? (
        <line
          x1={wire(easyFrets)}
          x2={wire(easyFrets)}
          y1={top - 6}
          y2={bottom + 6}
          className="stroke-question"
          strokeWidth={1.5}
          strokeDasharray="4 3"
        />
      ) : null}
      <rect x={one(0) - 4} y={top} width={7} height={bottom - top} className="fill-ink" />
      {base > 0 ? (
        <rect
          x={Math.min(one(0), wire(base))}
          y={top}
          width={Math.abs(wire(base) - one(0))}
          height={bottom - top}
          className="fill-paper"
          opacity={0.65}
        />
      ) : null}
      {strings.map((string, i) => (
        <g key={string}>
          <text
            x={mirrored ? width - 4 : 4}
            y={y(string) + 5}
            textAnchor={mirrored ? 'end' : 'start'}
            className="fill-ink font-figures text-[14px] font-bold"
          >
            {stringNames[i]?.[0]}
            {stringNames[i]?.[1] ? (
              <tspan dx={6} className="fill-soft text-[12px] font-normal">
                {stringNames[i]?.[1]}
              </tspan>
            ) : null}
          </text>
          <line
            x1={one(0)}
            x2={wire(shown)}
            y1={y(string)}
            y2={y(string)}
            className="stroke-soft"
            strokeWidth={1 + i * 0.45}
          />
        </g>
      ))}
      {setup.capos.map((capo) => {
        const held = strings.filter((string) => capo.strings === null || capo.strings.includes(string)).map(y);
        if (held.length === 0) return null;
        const up = Math.min(...held) - gap / 2 - (capo.strings === null ? 6 : 0);
        return (
          <rect
            key={capo.fret}
            x={one(fretDistance(scaleMm, capo.fret - 0.32)) - 5}
            y={up}
            width={10}
            height={Math.max(...held) + gap / 2 + (capo.strings === null ? 6 : 0) - up}
            rx={4}
            className="fill-soft"
          >
            <title>{`capo at fret ${capo.fret}`}</title>
          </rect>
        );
      })}
      {INLAYS.map((f) => f + zero)
        .filter((f) => f <= shown)
        .map((f) => (
          <text
            key={f}
            x={(wire(f - 1) + wire(f)) / 2}
            y={bottom + 15}
            textAnchor="middle"
            className="fill-soft font-figures text-[13px]"
          >
            {f - zero}
          </text>
        ))}
    </>
  );
}

/** An open note sits at the nut, or at the capo where there is one. */
function openX(nut: number, at: (fret: number) => number, x: (mm: number) => number, scaleMm: number): number {
  return nut === 0 ? at(0) + 8 : x(fretDistance(scaleMm, nut));
}

function PlaceMark({ place, cx, cy }: { readonly place: NeckPlace; readonly cx: number; readonly cy: number }) {
  const wide = Math.max(24, place.text.length * 8 + 10);
  const tone = {
    chosen: 'fill-ink stroke-ink',
    locked: 'fill-yours stroke-yours',
    possible: 'fill-sheet stroke-proposed',
    other: 'fill-sheet stroke-line',
    playing: 'fill-chosen stroke-ink',
  }[place.kind];
  const ink = place.kind === 'chosen' || place.kind === 'locked' ? 'fill-sheet' : 'fill-ink';
  return (
    <g className="cursor-pointer">
      <title>{place.title}</title>
      <rect x={cx - wide / 2} y={cy - 10} width={wide} height={20} rx={10} className={tone} strokeWidth={1.8} />
      <text x={cx} y={cy + 5} textAnchor="middle" className={`font-figures text-[14px] font-bold ${ink}`}>
        {place.text}
      </text>
      {place.kind === 'locked' ? <Pin x={cx + wide / 2} y={cy - 10} /> : null}
    </g>
  );
}
