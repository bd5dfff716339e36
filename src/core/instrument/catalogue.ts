import { fail, ok, type Midi, type Result } from '../base';
import { parsePitch } from '../pitch';
import { INSTRUMENTS } from './data/instruments';
import { TUNINGS } from './data/tunings';
import type { Instrument, Tuning } from './types';

export { INSTRUMENTS, TUNINGS };

/** An instrument of the catalogue by id. */
export function findInstrument(id: string): Result<Instrument> {
  const found = INSTRUMENTS.find((i) => i.id === id);
  return found ? ok(found) : fail('unknown-instrument', `No instrument "${id}". Known: ${INSTRUMENTS.map((i) => i.id).join(', ')}.`, 'instrument');
}

/** The open pitches of a catalogue tuning, thick to thin. */
export function tuningPitches(tuning: Tuning): Midi[] {
  return tuning.spelling.split(' ').map((name) => {
    const midi = parsePitch(name);
    if (midi === null) throw new Error(`bad tuning data: ${tuning.id} ${name}`);
    return midi;
  });
}

/** Tunings of the catalogue that fit an instrument's number of strings, its own first. */
export function tuningsFor(instrument: Instrument): Tuning[] {
  const count = instrument.strings.length;
  const fitting = TUNINGS.filter((t) => t.spelling.split(' ').length === count);
  const own = fitting.filter((t) => t.instruments.includes(instrument.id));
  return own.length > 0 ? own : fitting;
}
