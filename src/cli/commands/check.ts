import type { z } from 'zod';
import { proofread, readLoosely, stateOf, type CheckFinding } from '@/core/check';
import {
  checkScale,
  degreeOver,
  namesOf,
  parseScale,
  scaleFit,
  scaleName,
  scalesFor,
  type ScaleReading,
} from '@/core/harmony';
import { pitchAt } from '@/core/instrument';
import { noteName, parseName, pitchClass, type Key } from '@/core/pitch';
import { findRiff, type Piece } from '@/core/score';
import { barOf } from '@/core/time';
import { CliFault, type nameInput, type scaleInput, setupOf } from '../schemas';
import { got } from './form';

/** Where a finding stands, by ids; bars from 1, 0 for a pickup. */
function whereOf(piece: Piece, { locus }: CheckFinding): Record<string, unknown> {
  const found = locus.riff === undefined ? null : findRiff(piece, locus.riff);
  const event = found?.riff.events.find((one) => one.id === locus.event);
  const bar = found && event ? barOf(found.riff.meters, event.at).bar : locus.bar;
  return {
    ...(locus.part === undefined ? {} : { part: locus.part }),
    ...(locus.riff === undefined ? {} : { riff: locus.riff }),
    ...(locus.path?.[0] === 'sections' ? { section: locus.path[1] } : {}),
    ...(bar === undefined ? {} : { bar: bar + 1 }),
    ...(locus.event === undefined ? {} : { event: locus.event }),
    ...(locus.note === undefined ? {} : { note: locus.note }),
  };
}

/** A piece read against itself: what is asked, the likeliest slips first; `all` with what is probably meant. */
export function check(json: unknown, all: boolean): unknown {
  const { piece, findings } = got(readLoosely(json));
  const list = [...findings, ...proofread(piece)].map((one) => ({ one, state: stateOf(one, piece.answers) }));
  return {
    findings: list
      .filter(({ state }) => all || state === 'open' || state === 'again')
      .map(({ one, state }) => ({
        ...{ rule: one.rule, severity: one.severity, where: whereOf(piece, one), words: one.words },
        ...{
          evidence: one.evidence,
          likely: Math.round(one.likely * 100) / 100,
          state,
          id: one.id,
          ground: one.ground,
        },
        mends: one.mends.map(({ words, edit }) => ({ words, edit })),
      })),
  };
}

function keyOf(said: z.infer<typeof nameInput>['key']): Key | null {
  if (said === undefined) return null;
  if (typeof said !== 'string') return said;
  const match = /^\s*([A-G](?:#|b|♯|♭)?)\s*(major|minor|m)?\s*$/.exec(said);
  if (!match) throw new CliFault('bad-key', `"${said}" is no key. Write "A minor" or "Bb".`, 'key');
  const mode = match[2] === 'minor' || match[2] === 'm' ? 'minor' : 'major';
  return { tonic: (match[1] ?? 'C').replace('♯', '#').replace('♭', 'b'), mode };
}

/** A pitch class of a pitch or a letter. */
function classOf(said: number | string | undefined, at: string): number | null {
  if (said === undefined) return null;
  if (typeof said === 'number') return said % 12;
  const read = parseName(said);
  if (!read) throw new CliFault('bad-note', `"${said}" is no note name. Write A, Bb or F#.`, at);
  return pitchClass(read);
}

/** What notes together are called, with what speaks for each name, and the degrees of the first. */
export function name(input: z.infer<typeof nameInput>): unknown {
  const setup = input.setup ? setupOf(input.setup).setup : null;
  if ((input.notes?.length ?? 0) + (input.pitches?.length ?? 0) === 0)
    throw new CliFault('nothing-sounds', 'Give notes by string and fret with a set-up, or pitches.', 'notes');
  if (input.notes?.length && !setup)
    throw new CliFault('no-setup', 'Strings and frets need a set-up to sound.', 'setup');
  const placed = (input.notes ?? []).map((place) => (setup ? got(pitchAt(setup, place)) : 0));
  const pitches = [...placed, ...(input.pitches ?? [])];
  const key = keyOf(input.key);
  const names = namesOf({ pitches, bass: classOf(input.bass, 'bass'), key, setup });
  const [first] = names;
  return {
    names: names.map(({ sounding, shape, why, cost }) => ({
      sounding,
      ...(shape === null ? {} : { shape }),
      why,
      cost,
    })),
    degrees: pitches.map((pitch) => ({
      pitch,
      name: noteName(pitch, { key, octave: true }),
      degree: first ? degreeOver(pitch, first.chord) : null,
    })),
  };
}

/** How pitches fit a scale that is claimed, or which scales hold for them. */
export function scale(input: z.infer<typeof scaleInput>): unknown {
  const key = keyOf(input.key);
  const tonic = classOf(input.tonic, 'tonic');
  const told = (one: ScaleReading): Record<string, unknown> => ({
    scale: scaleName(one.tonic, one.scale, key),
    share: Math.round(one.share * 1000) / 1000,
  });
  const outliers = (one: ScaleReading): unknown[] =>
    one.outside.map(({ index, midi }) => ({ index, pitch: midi, name: noteName(midi, { key, octave: true }) }));
  if (input.claim === undefined) {
    const [best, ...others] = scalesFor(input.pitches, tonic);
    if (!best) throw new CliFault('nothing-sounds', 'Give pitches.', 'pitches');
    return { fit: told(best), outliers: outliers(best), better: others.slice(0, 4).map(told) };
  }
  const claim = got(parseScale(input.claim));
  if (tonic !== null && claim.tonic === null) {
    const fit: ScaleReading = { ...scaleFit(input.pitches, claim.scale, tonic), scale: claim.scale, tonic };
    const better =
      fit.outside.length === 0 ? [] : scalesFor(input.pitches, tonic).filter((one) => one.outside.length === 0);
    return { fit: told(fit), outliers: outliers(fit), better: better.slice(0, 3).map(told) };
  }
  const checked = checkScale(input.pitches, claim, key);
  return { fit: told(checked), outliers: outliers(checked), better: checked.better.map(told) };
}
