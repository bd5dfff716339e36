import type { FitId, PieceId } from './ids';
import type { Actor } from './actor';
import { randomUUID } from 'node:crypto';
import { fail, ok, type Result } from '@/core/base';
import { DEFAULT_COSTS } from '@/core/hand';
import {
  alternativesFor,
  crossChecked,
  fitting,
  optionsFor,
  phrasesOf,
  placedPhrase,
  priced,
  problemOf,
  RECALL_LEAST,
  recallShape,
  signatureOf,
  signatureText,
  type ChosenNote,
  type Problem,
  type RecalledShape,
} from '@/core/place';
import { findRiff, tempoOf, type Part, type Piece, type PieceCosts, type Riff } from '@/core/score';
import type { Db } from './db/connection';
import { enqueue } from './jobs/queue';
import type { FitResult, KeptAlternative, KeptSample } from './learning-types';
import {
  addCostTable,
  currentCosts,
  findPlaced,
  getFit,
  insertFit,
  latestFit,
  moveFit,
  newestSamples,
  replaceChoices,
  replacePlaced,
  type Choice,
  type KeptFit,
} from './repositories/learning';
import { getPiece } from './repositories/pieces';

/** What is learnt from an instructor's own choices. Every function acts for one studio. */

/** Phrases a fit looks at, the newest first, and how many there have to be. */
const FIT_MOST = 150;
/** Parts a fit is checked in, each left out once. */
const FOLDS = 3;
export const FIT_LEAST = 6;
/** Phrases of one piece that are logged: enough for any song, too few to drown the others. */
const LOGGED_MOST = 60;
/** Milliseconds of computing before the server answers others, and between two words on progress. */
const BREATH = 15;
const TELL = 700;

/**
 * Logs the places an instructor locked in a piece, each with its alternatives, and what recurs; run after saves, and
 * repeatable.
 */
export async function logChoices(db: Db, actor: Actor, pieceId: PieceId): Promise<void> {
  const piece = await getPiece(db, actor, pieceId);
  if (!piece) return;
  const { document } = piece;
  const choices: Choice[] = [];
  const breath = new Breath();
  const placed: {
    riffId: string;
    riffName: string;
    tokens: string;
    phrase: NonNullable<ReturnType<typeof placedPhrase>>;
  }[] = [];
  for (const part of document.parts) {
    for (const riff of part.riffs) {
      choices.push(...(await choicesIn(document, part, riff, LOGGED_MOST - choices.length, breath)));
      await breath.take();
      const phrase = decided(riff) ? placedPhrase(riff.events, part.setup) : null;
      if (phrase && riff.events.length >= RECALL_LEAST)
        placed.push({
          riffId: riff.id,
          riffName: riff.name,
          tokens: signatureText(signatureOf(riff.events).tokens),
          phrase,
        });
    }
  }
  await db.transaction().execute(async (tx) => {
    await replaceChoices(tx, actor, pieceId, choices);
    await replacePlaced(tx, actor, pieceId, placed);
  });
}

/** Whether a riff's places speak for its instructor: some were decided by hand. */
const decided = (riff: Riff): boolean => riff.events.some((event) => event.notes.some((note) => note.place?.locked));

/** Lets others be answered as often as a breath is due: the process that computes here serves pages as well. */
class Breath {
  private last = performance.now();

  async take(): Promise<void> {
    if (performance.now() - this.last < BREATH) return;
    await pause();
    this.last = performance.now();
  }
}

/** Phrases of a riff with three or more places of the instructor's, `most` of them. */
async function choicesIn(piece: Piece, part: Part, riff: Riff, most: number, breath: Breath): Promise<Choice[]> {
  const found: Choice[] = [];
  if (!decided(riff) || most <= 0) return found;
  const whole = problemOf(riff, part.setup, tempoOf(piece, riff), optionsFor(piece, part));
  for (const phrase of phrasesOf(whole.events, whole.meters)) {
    if (found.length >= most) break;
    await breath.take();
    const events = whole.events.slice(phrase.from, phrase.to + 1);
    const chosen: ChosenNote[] = [];
    events.forEach((other, event) =>
      other.notes.forEach((one, note) => {
        if (one.lock && riff.events[phrase.from + event]?.notes[note]?.place?.by === 'instructor')
          chosen.push({ event, note, string: one.lock.string, fret: one.lock.fret });
      }),
    );
    if (chosen.length < 3 || events.length < 3) continue;
    const free: Problem = {
      ...whole,
      events: events.map((event, i) => ({
        ...event,
        link: i === events.length - 1 ? null : event.link,
        notes: event.notes.map((note) => ({ ...note, lock: null })),
      })),
    };
    const known = priced(free);
    const alternatives: KeptAlternative[] = [];
    for (const place of chosen) {
      await breath.take();
      alternatives.push({
        note: riff.events[phrase.from + place.event]?.notes[place.note]?.id ?? '',
        chosen: { string: place.string, fret: place.fret },
        others: alternativesFor(free, place.event, place.note, known)
          .filter((a) => a.string !== place.string || a.fret !== place.fret)
          .map(({ string, fret, extra }) => ({ string, fret, extra })),
      });
    }
    const sample: KeptSample = { problem: { ...free, options: { ...free.options, costs: DEFAULT_COSTS } }, chosen };
    found.push({ riffId: riff.id, phrase: events[0]?.id ?? '', sample, alternatives });
  }
  return found;
}

const pause = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Asks for a fit of the weights to the studio's own choices. One at a time. */
export async function askFit(db: Db, actor: Actor): Promise<Result<KeptFit>> {
  const last = await latestFit(db, actor);
  if (last && (last.state === 'waiting' || last.state === 'working')) return ok(last);
  const samples = await newestSamples(db, actor, FIT_LEAST);
  if (samples.length < FIT_LEAST)
    return fail(
      'too-few',
      `There are ${samples.length} phrases with three or more places of your own; ${FIT_LEAST} are needed. Lock places as you work, and they are logged by themselves.`,
    );
  const id = randomUUID() as FitId;
  await db.transaction().execute(async (tx) => {
    await insertFit(tx, actor, id);
    await enqueue(tx, {
      ...{ task: 'fit-weights', payload: { studio: actor.studio, fit: id } },
      key: `fit ${actor.studio}`,
    });
  });
  return ok({ id, state: 'waiting', progress: 0, result: null });
}

/** Works a fit off in small steps, so that the process goes on answering. */
export async function runFit(db: Db, actor: Actor, id: FitId): Promise<void> {
  if (!(await moveFit(db, actor, id, ['waiting', 'working'], { state: 'working', progress: 0 }))) return;
  try {
    const samples = await newestSamples(db, actor, FIT_MOST);
    const start = (await currentCosts(db, actor))?.weights ?? DEFAULT_COSTS;
    let told = Date.now();
    const tell = async (share: number): Promise<boolean> => {
      if (Date.now() - told < TELL) return true;
      told = Date.now();
      // A fit that was set aside meanwhile is given up.
      return moveFit(db, actor, id, ['working'], { state: 'working', progress: share });
    };
    const fit = await slowly(fitting(samples, start), (p) => tell(p * 0.6));
    const unseen =
      fit && samples.length >= FIT_LEAST * 2
        ? await slowly(crossChecked(samples, start, FOLDS), (p) => tell(0.6 + p * 0.4))
        : null;
    if (!fit) return;
    const result: FitResult = { start, costs: fit.costs, before: fit.before, after: fit.after, unseen };
    await moveFit(db, actor, id, ['working'], { state: 'done', progress: 1, result });
  } catch (reason) {
    await moveFit(db, actor, id, ['working'], { state: 'failed' });
    throw reason;
  }
}

/** Runs a computation in breaths; null when `go` says to stop. */
async function slowly<T>(
  steps: Generator<number | null, T>,
  go: (share: number) => Promise<boolean>,
): Promise<T | null> {
  let until = performance.now() + BREATH;
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    if (performance.now() < until) continue;
    if (step.value !== null && !(await go(step.value))) return null;
    await pause();
    until = performance.now() + BREATH;
  }
}

/** Makes a finished fit the studio's table. It is used from then on for new pieces; others keep theirs. */
export async function acceptFit(db: Db, actor: Actor, id: FitId): Promise<Result<PieceCosts>> {
  return db.transaction().execute(async (tx) => {
    const fit = await getFit(tx, actor, id);
    if (!fit?.result || !(await moveFit(tx, actor, id, ['done'], { state: 'accepted' })))
      return fail('no-fit', 'That proposal is not there any more.', id);
    return ok(await addCostTable(tx, actor, 'From your own choices', fit.result.costs));
  });
}

export const setFitAside = (db: Db, actor: Actor, id: FitId): Promise<boolean> =>
  moveFit(db, actor, id, ['waiting', 'working', 'done', 'failed'], { state: 'set aside' });

/** A phrase placed before, in the same shape. */
export interface Recalled extends RecalledShape {
  readonly title: string;
  readonly riffName: string;
  /** Whether it is the whole of what was asked for or a part of it. */
  readonly whole: boolean;
}

/** Recurrences offered at most, and shapes looked at. */
const OFFERED = 3;
const LOOKED_AT = 40;

/**
 * The same phrase (steps and rhythm) placed before in this studio, in the same shape; a part of it where the whole
 * never was.
 */
export async function recall(
  db: Db,
  actor: Actor,
  piece: Piece,
  riffId: string,
  eventIds: readonly string[],
): Promise<Recalled[]> {
  const found = findRiff(piece, riffId);
  const events = found?.riff.events.filter((event) => eventIds.includes(event.id)) ?? [];
  if (!found || events.length < RECALL_LEAST) return [];
  const half = Math.max(RECALL_LEAST, Math.ceil(events.length * 0.6));
  const stretches = [events, ...(half < events.length ? [events.slice(0, half), events.slice(-half)] : [])];
  const out: Recalled[] = [];
  for (const stretch of stretches) {
    if (out.length > 0) break;
    const { head, tokens } = signatureOf(stretch);
    const run = signatureText(tokens);
    for (const kept of await findPlaced(db, actor, run, LOOKED_AT)) {
      if (kept.pieceId === piece.id && kept.riffId === riffId) continue;
      const before = kept.tokens.slice(0, kept.tokens.indexOf(run)).split(';').filter(Boolean).length;
      const first = kept.phrase.events[before];
      const base = first?.[0]?.pitch ?? 0;
      if (
        head !==
        (first ?? [])
          .slice(1)
          .map((place) => place.pitch - base)
          .join('.')
      )
        continue;
      const shape = recallShape(kept.phrase, before, found.riff, stretch, found.part.setup);
      const already = shape?.places.every((one) => {
        const place = stretch
          .find((event) => event.id === one.event)
          ?.notes.find((note) => note.id === one.note)?.place;
        return place?.string === one.string && place.fret === one.fret;
      });
      if (!shape || out.some((recalled) => JSON.stringify(recalled.places) === JSON.stringify(shape.places))) continue;
      if (already && stretch.every((event) => event.notes.every((note) => note.place?.locked))) continue;
      out.push({ ...shape, title: kept.title, riffName: kept.riffName, whole: stretch === events });
      if (out.length >= OFFERED) break;
    }
  }
  return out;
}
