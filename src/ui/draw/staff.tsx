'use client';

import { useEffect, useRef } from 'react';
import type * as Flow from 'vexflow/core';
import { clefOf, signatureOf, staffBars, type Head, type StaffBar, type StaffChoice } from '@/core/staff';
import type { Setup } from '@/core/instrument';
import type { Riff } from '@/core/score';
import type { Quarter } from '@/core/time';

interface Props {
  readonly riff: Riff;
  readonly setup: Setup;
  readonly bars: { readonly from: number; readonly count: number };
  readonly choice: StaffChoice;
  readonly width: number;
  /** Where a time lies, in pixels from the left. */
  readonly x: (at: Quarter) => number;
  /** How far before its notes a bar line stands. */
  readonly lead: number;
  readonly label: string;
  readonly scale?: number;
}

/** Height the staff takes above the strip, before scaling. */
export const STAFF_HEIGHT = 118;

type Engraver = typeof Flow;

let engraver: Promise<Engraver> | null = null;

/** The engraving library with its music face, loaded once and only where a staff is shown. */
function loadEngraver(): Promise<Engraver> {
  engraver ??= (async () => {
    const [flow] = await Promise.all([import('vexflow/core'), document.fonts.load('30pt Bravura')]);
    flow.VexFlow.setFonts('Bravura');
    return flow;
  })();
  return engraver;
}

/** Standard notation of some bars, engraved, its signs standing exactly over the strip's or the tab's. */
export function Staff(props: Props) {
  const host = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let stale = false;
    void loadEngraver().then((flow) => {
      if (!stale && host.current) draw(flow, host.current, props);
    });
    return () => {
      stale = true;
    };
  });
  return (
    <div
      ref={host}
      role="img"
      aria-label={props.label}
      className="pointer-events-none text-ink"
      style={{ height: STAFF_HEIGHT * (props.scale ?? 1) }}
      data-staff
    />
  );
}

const KEYS = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#'] as const;

function draw(
  flow: Engraver,
  host: HTMLElement,
  { riff, setup, bars, choice, width, x, lead, scale = 1 }: Props,
): void {
  const { Renderer, Stave } = flow;
  host.replaceChildren();
  const renderer = new Renderer(host as HTMLDivElement, Renderer.Backends.SVG);
  renderer.resize(width, STAFF_HEIGHT * scale);
  // The lowest ledger lines hang into the lane below rather than being cut off.
  host.querySelector('svg')?.style.setProperty('overflow', 'visible');
  const context = renderer.getContext();
  context.scale(scale, scale);
  context.setFillStyle('currentColor');
  context.setStrokeStyle('currentColor');
  const clef = clefOf(setup);
  const stave = new Stave(0, 8, width / scale - 1, { spaceAboveStaffLn: 3.2, leftBar: false, rightBar: false });
  stave.addClef(clef);
  const signature = signatureOf(choice.key);
  if (signature !== 0) stave.addKeySignature(KEYS[signature + 7] ?? 'C');
  stave.setStyle({ strokeStyle: 'currentColor', fillStyle: 'currentColor' });
  stave.setContext(context).draw();
  const made = staffBars(riff, setup, bars, choice);
  let open: { note: InstanceType<Engraver['StaveNote']>; heads: readonly Head[]; slur: boolean; tied: boolean } | null =
    null;
  for (const bar of made) {
    const right = stave.getYForLine(0);
    const line = (x(bar.from) - lead) / scale;
    context.fillRect(line, right, 1, stave.getYForLine(4) - right);
    open = drawBar(flow, context, stave, bar, clef, (at) => x(at) / scale, open);
  }
  const last = made.at(-1);
  if (last) context.fillRect(width / scale - 8, stave.getYForLine(0), 1, stave.getYForLine(4) - stave.getYForLine(0));
  const svg = host.querySelector('svg');
  svg?.setAttribute('aria-hidden', 'true');
}

const DURATIONS: Readonly<Record<number, string>> = { 1: 'w', 2: 'h', 4: 'q', 8: '8', 16: '16', 32: '32', 64: '64' };

const keyOf = (one: Pick<Head, 'letter' | 'octave'>, suffix = ''): string =>
  `${one.letter.toLowerCase()}/${one.octave}${suffix}`;

function drawBar(
  flow: Engraver,
  context: ReturnType<InstanceType<Engraver['Renderer']>['getContext']>,
  stave: InstanceType<Engraver['Stave']>,
  bar: StaffBar,
  clef: string,
  x: (at: Quarter) => number,
  before: { note: InstanceType<Engraver['StaveNote']>; heads: readonly Head[]; slur: boolean; tied: boolean } | null,
): typeof before {
  const { StaveNote, Voice, Formatter, Accidental, Beam, Tuplet, Dot, StaveTie, GraceNote, GraceNoteGroup } = flow;
  const middle = clef === 'bass' ? 'd/3' : 'b/4';
  const notes = bar.signs.map((sign) => {
    const rest = sign.heads.length === 0 && !sign.slash;
    const keys =
      sign.heads.length > 0
        ? sign.heads.map((head) => keyOf(head, head.dead ? '/x2' : head.harmonic ? '/d2' : ''))
        : [sign.slash ? `${middle}/s` : middle];
    const note = new StaveNote({
      keys,
      duration: `${DURATIONS[sign.base] ?? '64'}${'d'.repeat(sign.dots)}${rest ? 'r' : ''}`,
      clef,
      autoStem: true,
    });
    for (let d = 0; d < sign.dots; d++) Dot.buildAndAttach([note], { all: true });
    sign.heads.forEach((head, i) => {
      if (head.sign) note.addModifier(new Accidental(head.sign), i);
    });
    if (sign.graces.length > 0) {
      const graces = sign.graces.map(
        (one) => new GraceNote({ keys: one.heads.map((head) => keyOf(head)), duration: '8', slash: true, clef }),
      );
      note.addModifier(
        new GraceNoteGroup(
          graces,
          sign.graces.some((one) => one.slurred),
        ),
        0,
      );
    }
    note.setStave(stave);
    return note;
  });
  if (notes.length === 0) return before;
  const voice = new Voice({ numBeats: 4, beatValue: 4 }).setMode(Voice.Mode.SOFT);
  voice.addTickables(notes);
  const beams = bar.beams.map(
    (group) =>
      new Beam(
        group.flatMap((i) => notes[i] ?? []),
        true,
      ),
  );
  const tuplets = bar.tuplets.map(
    (one) =>
      new Tuplet(notes.slice(one.from, one.to + 1), {
        numNotes: one.notes,
        notesOccupied: one.time,
        ratioed: false,
        location: notes[one.from]?.getStemDirection() === -1 ? Tuplet.LOCATION_BOTTOM : Tuplet.LOCATION_TOP,
        bracketed: !bar.beams.some((b) => b[0] === one.from && b.at(-1) === one.to),
      }),
  );
  new Formatter().joinVoices([voice]).format([voice], Math.max(60, x(bar.to) - x(bar.from) - 20));
  bar.signs.forEach((sign, i) => {
    const note = notes[i];
    if (!note) return;
    const whole = sign.heads.length === 0 && !sign.slash && bar.signs.length === 1;
    // A rest that fills its bar stands in the middle of it.
    const target = whole ? (x(bar.from) + x(bar.to)) / 2 : x(sign.at);
    note.getTickContext().setX(note.getTickContext().getX() + target - note.getAbsoluteX() - 6);
  });
  voice.draw(context, stave);
  for (const beam of beams) beam.setContext(context).draw();
  for (const tuplet of tuplets) tuplet.setContext(context).draw();
  let open = before;
  bar.signs.forEach((sign, i) => {
    const note = notes[i];
    if (!note) return;
    if (open && sign.heads.length > 0) {
      if (open.tied) {
        const pairs = sign.heads.flatMap((head, index) => {
          const from = open?.heads.findIndex((one) => one.note === head.note) ?? -1;
          return from >= 0 ? [[from, index] as const] : [];
        });
        if (pairs.length > 0)
          new StaveTie({
            firstNote: open.note,
            lastNote: note,
            firstIndexes: pairs.map((list) => list[0]),
            lastIndexes: pairs.map((list) => list[1]),
          })
            .setContext(context)
            .draw();
      } else if (open.slur)
        new StaveTie({ firstNote: open.note, lastNote: note, firstIndexes: [0], lastIndexes: [0] })
          .setContext(context)
          .draw();
    }
    open = sign.tied || sign.slur ? { note, heads: sign.heads, slur: sign.slur, tied: sign.tied } : null;
  });
  return open;
}
