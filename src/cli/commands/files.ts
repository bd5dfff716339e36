import { locusWords } from '@/core/base';
import type { z } from 'zod';
import { bestShift, midiToPart, readMidi } from '@/core/formats/midi';
import { placeRiff } from '@/core/place';
import { DEFAULT_SCHOOLS } from '@/core/schools';
import { makePiece, riffStart } from '@/core/score';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls } from '@/core/shorthand';
import { parseMeter, ZERO } from '@/core/time';
import {
  CliFault,
  type callsParseInput,
  type callsPrintInput,
  type importOptions,
  parsed,
  setupOf,
  setupRequest,
} from '../schemas';

/** Reads a MIDI file; with a part and a set-up, places it. */
export function importMidi(bytes: Uint8Array, options: z.infer<typeof importOptions>): unknown {
  const song = readMidi(bytes);
  if (!song.ok) throw new CliFault(song.error.rule, song.error.words, locusWords(song.error.locus) || undefined);
  const parts = song.value.parts.map((one) => ({
    name: one.name,
    channel: one.channel,
    program: one.program,
    notes: one.notes.length,
    low: one.low,
    high: one.high,
    chord: one.chord,
    polyphony: one.polyphony,
  }));
  const index = options.part ?? song.value.parts.findIndex((one) => !one.drums);
  const chosen = song.value.parts[Math.max(0, index)];
  if (!chosen)
    throw new CliFault('no-part', `There is no part ${options.part}; the file has 0 to ${parts.length - 1}.`, '--part');
  const request = options.setup === undefined ? null : parsed(setupRequest, jsonOf(options.setup, '--setup'));
  const { setup } = setupOf(request ?? { instrument: 'guitar-6' });
  const shift = options.octaves === undefined ? bestShift(chosen, setup) : options.octaves * 12;
  const made = midiToPart(song.value, chosen, setup, { grid: options.grid, shift });
  if (!made.ok) throw new CliFault(made.error.rule, made.error.words, locusWords(made.error.locus) || undefined);
  const { part, tempo, worstMs, meanMs, remarks } = made.value;
  const placed = request
    ? part.riffs.map((riff) => placeRiff(riff, setup, tempo))
    : part.riffs.map((riff) => ({ riff, blocked: [] }));
  const piece = makePiece('imported', song.value.title || chosen.name, {
    context: { tempo, key: [] },
    parts: [{ ...part, riffs: placed.map((one) => one.riff) }],
  });
  return {
    parts,
    piece,
    imported: {
      part: Math.max(0, index),
      shift,
      worstMs,
      meanMs,
      remarks: [...song.value.remarks, ...remarks].map((finding) => finding.words),
    },
    blocked: placed.flatMap((one) => one.blocked),
  };
}

export function parseCalls(input: z.infer<typeof callsParseInput>): unknown {
  const { setup } = setupOf(input.setup);
  const meter = parseMeter(input.meter ?? '4/4');
  if (!meter) throw new CliFault('bad-meter', `"${input.meter}" is no meter, such as 4/4 or 6/8.`, 'meter');
  const called = readCalls(input.calls, {
    setup,
    meters: [{ bar: 0, ...meter }],
    at: ZERO,
    length: FIRST_LENGTH,
    string: null,
    schools: { ...DEFAULT_SCHOOLS, frets: input.frets },
  });
  const { tokens, faults, warnings, end, frame, open } = called;
  return { events: calledToEvents(called, new Set()), tokens, faults, warnings, end, frame, open };
}

export function printRiff({ riff, setup, frets, frame }: z.infer<typeof callsPrintInput>): unknown {
  if (frets === 'nut' && !setup)
    throw new CliFault('bad-input', 'To count frets from the nut the set-up has to be given.', 'setup');
  return { calls: printCalls(riff, riffStart(riff), setup ? { setup: setupOf(setup).setup, frets } : null, frame) };
}

export function jsonOf(text: string, at: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch (reason) {
    throw new CliFault('bad-json', `Not JSON: ${reason instanceof Error ? reason.message : String(reason)}`, at);
  }
}
