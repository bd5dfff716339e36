import { randomBytes } from 'node:crypto';
import type { ClipId, InstrumentId, PieceId } from './ids';
import { programIn } from './actor';
import { DEMO_PIECES, type DemoPiece } from '../../demo/pieces';
import { DEMO_CLIPS, type DemoClip } from '../../demo/clips';
import { DEMO_INSTRUMENTS, DEMO_READINGS, DEMO_TUNING, type DemoInstrument } from '../../demo/rack';
import { easierBars } from '@/core/arrange';
import { fail, must, ok, type Result } from '@/core/base';
import { acceptEasier, addClaim, levelPart } from '@/core/command';
import { applyEdit } from '@/core/edit';
import { writeWav } from '@/core/formats/wav';
import { CLIP_LIMITS, emptyClip } from '@/core/hearing';
import { checkInstrument, findInstrument, makeSetup, type RackInstrument } from '@/core/instrument';
import { placeRiff } from '@/core/place';
import { overviewOf } from '@/core/listen';
import {
  findPart,
  findRiff,
  makePart,
  makePiece,
  makeRiff,
  riffEnd,
  tempoOf,
  type Part,
  type Piece,
  type Riff,
} from '@/core/score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { playedNotes, renderTake } from '@/core/synth';
import { add, barOf, parseMeter, quarter, secondsAtNumber, toNumber, ZERO } from '@/core/time';
import type { Db } from './db/connection';
import { loadDemoDesk } from './demo-desk';
import { withForm, withVariants } from './demo-form';
import { createPiece } from './pieces';
import { keepTuning } from './rack';
import { insertClip, keepClip, putChunk } from './repositories/clips';
import { addReadings, putInstrument } from './repositories/rack';
import { ensureStudio } from './repositories/studios';
import { indexPiece } from './search';
import { today } from './today';

export const DEMO_STUDIO = { id: 'wicker-street', name: 'Wicker Street Puppet Theatre' } as const;

/** Makes a demo piece the way a user does: a set-up typed, calls typed, the rest placed by the program. */
export function buildDemoPiece(demo: DemoPiece): Result<Piece> {
  const tempo = [{ at: quarter(0), bpm: demo.tempo }];
  const parts: Part[] = [];
  for (const [p, part] of demo.parts.entries()) {
    const made = makeSetup({ instrument: part.instrument, tuning: part.tuning, capo: part.capo ?? 0 });
    if (!made.ok) return made;
    const { setup } = made.value;
    const riffs: Riff[] = [];
    for (const [r, riff] of part.riffs.entries()) {
      const meters = [{ bar: 0, ...(parseMeter(riff.meter) ?? { beats: 4, unit: 4 }) }];
      const called = readCalls(riff.calls, { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
      const wrong = called.faults[0] ?? called.warnings[0];
      if (wrong)
        return fail(
          'demo-calls',
          `${demo.title}, ${riff.name}: ${wrong.words} At "${riff.calls.slice(wrong.locus.text.from, wrong.locus.text.to + 12)}"`,
        );
      const last = called.events.at(-1);
      const bars = last ? barOf(meters, add(last.at, quarter(0))).bar + 1 : 1;
      const written = makeRiff(`p${p}r${r}`, riff.name, {
        bars,
        events: calledToEvents(called, new Set()),
        meters,
        ...called.frame,
        ...(riff.plays === undefined ? {} : { plays: riff.plays }),
      });
      const placed = placeRiff(written, setup, written.tempo ?? tempo);
      if (placed.blocked[0]) return fail('demo-blocked', `${demo.title}, ${riff.name}: ${placed.blocked[0].words}`);
      const varied = withVariants(placed.riff, riff.variants ?? [], setup, written.tempo ?? tempo);
      if (!varied.ok) return fail(varied.error.rule, `${demo.title}, ${riff.name}: ${varied.error.words}`);
      riffs.push(varied.value);
    }
    parts.push(
      makePart(`p${p}`, part.name, setup, {
        ...{ role: part.role, riffs },
        ...(part.tone ? { tone: part.tone } : {}),
        ...(part.tones ? { tones: part.tones } : {}),
      }),
    );
  }
  const piece = makePiece('demo', demo.title, {
    ...{ parts, context: { tempo, key: [{ at: ZERO, ...demo.key }] } },
    ...(demo.source ? { source: demo.source } : {}),
  });
  const whole = demo.form ? withForm(piece, demo.form) : ok(piece);
  const levelled = whole.ok && demo.level ? withLevel(whole.value, demo.level) : whole;
  return levelled.ok ? withClaims(levelled.value, demo.claims ?? []) : levelled;
}

/** What the band said of it, kept as claims. */
function withClaims(start: Piece, said: NonNullable<DemoPiece['claims']>): Result<Piece> {
  let piece = start;
  for (const one of said) {
    const part = piece.parts.find(({ name }) => name === one.part);
    const riff = part?.riffs.find(({ name }) => name === one.riff);
    const made = addClaim(piece, one.words, {
      ...(part ? { part: part.id } : {}),
      ...(riff ? { riff: riff.id } : {}),
    });
    const next = made.ok ? applyEdit(piece, made.value) : made;
    if (!next.ok) return next;
    piece = next.value;
  }
  return ok(piece);
}

/** A level of the first part beside it, with the first thing that makes it easier taken up. */
function withLevel(piece: Piece, { name, level }: NonNullable<DemoPiece['level']>): Result<Piece> {
  const made = levelPart(piece, piece.parts[0]?.id ?? '', level, name);
  if (!made.ok) return made;
  const after = applyEdit(piece, made.value.edit);
  const part = after.ok ? findPart(after.value, made.value.part) : undefined;
  if (!after.ok || !part) return after;
  for (const riff of part.riffs) {
    const [easier] = easierBars(riff, part.setup, tempoOf(piece, riff));
    if (easier) return applyEdit(after.value, acceptEasier(part.id, riff.id, easier));
  }
  return after;
}

/** A demo instrument: a copy from the catalogue with what differs. */
export function buildDemoInstrument({
  from,
  id,
  name,
  description,
  scaleMm,
  gauges,
  tones,
}: DemoInstrument): Result<RackInstrument> {
  const found = findInstrument(from);
  if (!found.ok) return found;
  const strings = found.value.strings.map((string, i) => ({ ...string, gaugeMm: gauges?.[i] ?? string.gaugeMm }));
  const instrument = { ...found.value, id, name, strings, scaleMm: scaleMm ?? found.value.scaleMm };
  const checked = checkInstrument(instrument);
  return checked.ok ? ok({ instrument, description, tones }) : checked;
}

/** Silence before a demo clip's music begins, in seconds. */
const CLIP_LEAD = 0.6;
const CLIP_RATE = 44_100;

/**
 * A demo clip as a WAV: the riff played by another voice than the player's, in its own tuning, with what a room and a
 * band add.
 */
export function buildDemoClip(
  piece: Piece,
  { riff: name, take }: DemoClip,
): { readonly samples: Float32Array; readonly riff: string } {
  const riff = piece.parts.flatMap((part) => part.riffs).find((riff) => riff.name === name);
  const found = riff && findRiff(piece, riff.id);
  if (!found) throw new Error(`demo clip of a riff that is not there: ${name}`);
  const tempo = tempoOf(piece, found.riff);
  const to = riffEnd(found.riff);
  const seconds = CLIP_LEAD + secondsAtNumber(tempo, toNumber(to)) + 0.8;
  const notes = playedNotes(found.riff, found.part.setup, tempo, { from: ZERO, to, speed: 1 }).map((note) => ({
    ...note,
    at: note.at + CLIP_LEAD,
    end: note.end + CLIP_LEAD,
  }));
  const beats = Array.from({ length: Math.ceil(toNumber(to)) }, (_, i) => CLIP_LEAD + secondsAtNumber(tempo, i));
  return { samples: renderTake(notes, { ...take, rate: CLIP_RATE, seconds, beats }), riff: found.riff.id };
}

async function keepDemoClip(db: Db, piece: Piece, clip: DemoClip): Promise<void> {
  const { samples, riff } = buildDemoClip(piece, clip);
  const bytes = writeWav({ rate: CLIP_RATE, channels: [samples] });
  const id = randomBytes(9).toString('hex') as ClipId;
  await insertClip(db, programIn(DEMO_STUDIO.id), {
    id,
    piece: piece.id as PieceId,
    type: 'audio/wav',
    bytes: bytes.length,
    document: { ...emptyClip(clip.name), rights: 'Rendered for this demo; ours to use.', riff },
  });
  for (let n = 0; n * CLIP_LIMITS.chunk < bytes.length; n++)
    await putChunk(
      db,
      programIn(DEMO_STUDIO.id),
      id,
      n,
      bytes.subarray(n * CLIP_LIMITS.chunk, (n + 1) * CLIP_LIMITS.chunk),
    );
  await keepClip(db, programIn(DEMO_STUDIO.id), id, {
    seconds: samples.length / CLIP_RATE,
    rate: CLIP_RATE,
    channels: 1,
    overview: overviewOf(samples, 2400),
  });
}

/** Loads the demo studio once; gives the number of pieces put in. A studio that exists is left alone. */
export async function loadDemo(db: Db): Promise<number> {
  return db.transaction().execute(async (tx) => {
    // Whoever puts the studio in loads it: a second start waits here for the first, and then finds it there.
    if (!(await ensureStudio(tx, DEMO_STUDIO.id, DEMO_STUDIO.name))) return 0;
    for (const instrument of DEMO_INSTRUMENTS)
      await putInstrument(
        tx,
        programIn(DEMO_STUDIO.id),
        must(buildDemoInstrument(instrument)),
        0,
        `put on the rack, from ${instrument.from}`,
      );
    must(await keepTuning(tx, programIn(DEMO_STUDIO.id), DEMO_TUNING));
    for (const reading of DEMO_READINGS)
      await addReadings(tx, programIn(DEMO_STUDIO.id), 'r-loft' as InstrumentId, [reading]);
    const pieces = new Map<string, PieceId>();
    for (const demo of DEMO_PIECES) {
      const piece = must(await createPiece(tx, programIn(DEMO_STUDIO.id), must(buildDemoPiece(demo))));
      pieces.set(demo.title, piece.id as PieceId);
      await indexPiece(tx, programIn(DEMO_STUDIO.id), piece.id as PieceId);
      for (const clip of DEMO_CLIPS.filter((one) => one.piece === demo.title)) await keepDemoClip(tx, piece, clip);
    }
    await loadDemoDesk(tx, programIn(DEMO_STUDIO.id), today(), pieces);
    return DEMO_PIECES.length;
  });
}
