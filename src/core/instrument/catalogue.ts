import { fail, ok, type Midi, type Result } from '../base';
import { parsePitch } from '../pitch';
import { INSTRUMENTS } from './data/instruments';
import { TUNINGS } from './data/tunings';
import type { Instrument, Tuning } from './types';

export { INSTRUMENTS, TUNINGS };

/** An instrument of the catalogue by id. */
export function findInstrument(id: string): Result<Instrument> {
  const found = INSTRUMENTS.find((instrument) => instrument.id === id);
  return found
    ? ok(found)
    : fail(
        'unknown-instrument',
        `No instrument "${id}". Known: ${INSTRUMENTS.map((instrument) => instrument.id).join(', ')}.`,
        'instrument',
      );
}

/** The open pitches of a catalogue tuning, thick to thin. */
export function tuningPitches(tuning: Tuning): Midi[] {
  return tuning.spelling.split(' ').map((name) => {
    const midi = parsePitch(name);
    if (midi === null) throw new Error(`bad tuning data: ${tuning.id} ${name}`);
    return midi;
  });
}

/**
 * Tunings that fit an instrument, those meant for it first: of the catalogue and of one's own.
 * For an instrument of one's own: the same number of strings, none moved more than a fifth from
 * what it is strung for, nearest first.
 */
export function tuningsFor(instrument: Instrument, own: readonly Tuning[] = []): Tuning[] {
  const reference = instrument.strings.map((string) => string.pitch);
  const count = reference.length;
  const mine = own.filter((tuning) => tuning.spelling.split(' ').length === count);
  const fitting = TUNINGS.filter((tuning) => tuning.spelling.split(' ').length === count);
  const meant = fitting.filter((tuning) => tuning.instruments.includes(instrument.id));
  if (meant.length > 0) return [...meant, ...mine];
  const moved = (tuning: Tuning): number[] =>
    tuningPitches(tuning).map((midi, i) => Math.abs(midi - (reference[i] ?? midi)));
  const near = fitting.filter((tuning) => Math.max(...moved(tuning)) <= FIFTH);
  const far = new Map(near.map((tuning) => [tuning.id, moved(tuning).reduce((a, b) => a + b, 0)]));
  return [...near.sort((a, b) => (far.get(a.id) ?? 0) - (far.get(b.id) ?? 0)), ...mine];
}

const FIFTH = 7;
