'use client';

import { scaleLinear } from 'd3-scale';
import { useMemo, useState } from 'react';
import { classesOf, parseChord } from '@/core/harmony';
import {
  fretsLeft,
  INSTRUMENTS,
  nominalName,
  openPitch,
  setupWords,
  stringNumbers,
  type Setup,
} from '@/core/instrument';
import { asciiPitch, noteName, parseName, parsePitch, pitchClass } from '@/core/pitch';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { useRack } from '@/features/rack/rack-context';
import { TextField } from '@/ui/field';
import { useWidth } from '@/ui/use-width';
import { PartPaths } from './part-paths';

/** One pitch or chord on every instrument at hand: strings laid under each other by what they sound. */
export function PlacesPage({ partId }: { readonly partId: string }) {
  const piece = usePiece((state) => state.document);
  const rack = useRack();
  const [text, setText] = useState('E3');
  const [all, setAll] = useState(false);
  const rows = useMemo((): readonly { readonly name: string; readonly setup: Setup }[] => {
    const parts = piece.parts.map((part) => ({ name: part.name, setup: part.setup }));
    const own = (all ? INSTRUMENTS : rack.instruments.map((entry) => entry.instrument)).map((instrument) => ({
      name: instrument.name,
      setup: {
        ...{ instrument, tuningId: null, open: instrument.strings.map((string) => string.pitch) },
        ...{ absent: [], capos: [] },
      } satisfies Setup,
    }));
    return [...parts, ...own];
  }, [piece, rack, all]);
  const wanted = useMemo(() => wantedOf(text), [text]);
  return (
    <Frame partId={piece.parts.some((part) => part.id === partId) ? partId : null}>
      <main className="min-h-0 flex-1 overflow-y-auto pb-8">
        <PartPaths piece={piece.id} part={partId} />
        <div className="flex flex-wrap items-end gap-5 py-4">
          <div className="w-64">
            <TextField
              label="Pitch, notes or chord"
              value={text}
              onChange={(event) => setText(event.target.value)}
              error={typeof wanted === 'string' ? wanted : null}
              hint="such as E3, D2 A2 D3, or Am7"
            />
          </div>
          <label className="flex min-h-9 items-center gap-1.5 text-[15px]">
            <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} />
            every instrument of the catalogue
          </label>
        </div>
        {typeof wanted === 'string' ? null : <Stacked rows={rows} wanted={wanted} />}
      </main>
    </Frame>
  );
}

/** What is looked for: exact pitches, or the names of a chord in any octave. */
interface Wanted {
  readonly pitches: readonly number[];
  readonly classes: readonly number[];
}

function wantedOf(text: string): Wanted | string {
  const tokens = text
    .trim()
    .split(/[\s,]+/)
    .filter(Boolean)
    .slice(0, 12);
  if (tokens.length === 0) return 'Type a pitch such as E3, or a chord such as Am7.';
  const pitches = tokens.map((token) => parsePitch(token));
  if (pitches.every((midi) => midi !== null)) return { pitches, classes: [] };
  if (tokens.length === 1) {
    const chord = parseChord(tokens[0] ?? '');
    if (chord.ok && !/^[A-G][#b♯♭]?$/.test(tokens[0] ?? ''))
      return { pitches: [], classes: [...classesOf(chord.value)] };
  }
  const names = tokens.map((token) => parseName(token));
  if (names.every((name) => name !== null)) return { pitches: [], classes: names.map((name) => pitchClass(name)) };
  const chord = parseChord(text.trim());
  return chord.ok
    ? 'One chord at a time, or notes with their octave.'
    : `“${text.trim()}” is no pitch and no chord. Write E3, D2 A2 D3, or Am7.`;
}

const ROW = 17;
const LABEL = 62;
const LEAST_WIDTH = 860;

function Stacked({
  rows,
  wanted,
}: {
  readonly rows: readonly { readonly name: string; readonly setup: Setup }[];
  readonly wanted: Wanted;
}) {
  const [ref, room] = useWidth();
  // Figures of a chord need their width: where there is none, the page scrolls within.
  const width = room > 0 ? Math.max(room, LEAST_WIDTH) : 0;
  const ends = rows.flatMap(({ setup }) =>
    stringNumbers(setup).flatMap((string) => [
      openPitch(setup, string),
      openPitch(setup, string) + fretsLeft(setup, string),
    ]),
  );
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const x = scaleLinear([low, high], [LABEL, Math.max(LABEL + 200, width - 14)]);
  const octaves = Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((midi) => midi % 12 === 0);
  const hit = (midi: number): boolean => wanted.pitches.includes(midi) || wanted.classes.includes(midi % 12);
  return (
    <div ref={ref} className="flex flex-col gap-5">
      {rows.map(({ name, setup }, k) => {
        const strings = [...stringNumbers(setup)].reverse();
        const height = strings.length * ROW + 20;
        const places = strings.flatMap((string, row) =>
          Array.from({ length: fretsLeft(setup, string) + 1 }, (_, fret) => ({ string, fret, row })).filter(
            ({ fret }) => hit(openPitch(setup, string) + fret),
          ),
        );
        const said = places
          .map(({ string, fret }) => `string ${string} ${fret === 0 ? 'open' : `fret ${fret}`}`)
          .join(', ');
        return (
          <section key={`${name}${k}`} aria-label={name}>
            <h2 className="text-lg">
              {name} <span className="text-sm text-soft">{setupWords(setup)}</span>
            </h2>
            {width > 0 ? (
              <div
                role="group"
                aria-label={`Strings of ${name}`}
                tabIndex={room < LEAST_WIDTH ? 0 : -1}
                className="overflow-x-auto"
              >
                <svg width={width} height={height} role="img" aria-label={`${name}: ${said || 'no place'}`}>
                  {octaves.map((midi) => (
                    <g key={midi}>
                      <line x1={x(midi)} x2={x(midi)} y1={0} y2={height - 14} className="stroke-rule" />
                      <text
                        x={x(midi)}
                        y={height - 2}
                        textAnchor="middle"
                        className="fill-soft font-figures text-[11px]"
                      >
                        {asciiPitch(midi)}
                      </text>
                    </g>
                  ))}
                  {wanted.pitches.map((midi) => (
                    <line
                      key={midi}
                      x1={x(midi)}
                      x2={x(midi)}
                      y1={0}
                      y2={height - 14}
                      strokeWidth={2}
                      className="stroke-yours"
                    />
                  ))}
                  {strings.map((string, row) => {
                    const [from, to] = [openPitch(setup, string), openPitch(setup, string) + fretsLeft(setup, string)];
                    const y = row * ROW + 9;
                    return (
                      <g key={string}>
                        <text x={0} y={y + 4} className="fill-ink font-figures text-[12px]">
                          {string} {nominalName(setup, string)}
                        </text>
                        <line
                          x1={x(from)}
                          x2={x(to)}
                          y1={y}
                          y2={y}
                          strokeWidth={1 + row * 0.25}
                          className="stroke-line"
                        />
                        <line x1={x(from)} x2={x(from)} y1={y - 5} y2={y + 5} strokeWidth={3} className="stroke-ink" />
                        {from + 12 <= to ? (
                          <line x1={x(from + 12)} x2={x(from + 12)} y1={y - 4} y2={y + 4} className="stroke-line" />
                        ) : null}
                      </g>
                    );
                  })}
                  {places.map(({ string, fret, row }) => {
                    const midi = openPitch(setup, string) + fret;
                    return (
                      <g key={`${string}.${fret}`}>
                        <title>{`${noteName(midi, { octave: true })}: string ${string}, ${fret === 0 ? 'open' : `fret ${fret}`}`}</title>
                        <rect
                          x={x(midi) - 10}
                          y={row * ROW + 1}
                          width={20}
                          height={16}
                          rx={3}
                          className="fill-chosen"
                        />
                        <text
                          x={x(midi)}
                          y={row * ROW + 13.5}
                          textAnchor="middle"
                          className="fill-ink font-figures text-[13px] font-bold"
                        >
                          {fret}
                        </text>
                      </g>
                    );
                  })}
                </svg>
              </div>
            ) : null}
            {places.length === 0 ? <p className="text-[15px] text-soft">No place on this instrument.</p> : null}
          </section>
        );
      })}
    </div>
  );
}
