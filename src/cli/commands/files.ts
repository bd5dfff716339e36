import type { z } from 'zod';
import { midiToMusic, readMidi } from '@/core/formats/midi';
import { bestShift, rangeOf, takeIn } from '@/core/formats/music';
import { DEFAULT_SCHOOLS } from '@/core/schools';
import { placePiece } from '@/core/place';
import { riffStart } from '@/core/score';
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
import { faultOf } from './fault';

/** Reads a MIDI file; with a part and a set-up, places it. */
export function importMidi(bytes: Uint8Array, options: z.infer<typeof importOptions>): unknown {
  const song = readMidi(bytes);
  if (!song.ok) throw faultOf(song.error);
  const { music, remarks } = midiToMusic(song.value, { grid: options.grid });
  const parts = music.parts.map((part) => ({
    name: part.name,
    kind: part.kind,
    program: part.program,
    notes: part.events.reduce((sum, event) => sum + event.notes.length, 0),
    ...(rangeOf(part) ?? { low: null, high: null }),
  }));
  const index = options.part ?? music.parts.findIndex((one) => one.kind !== 'drums');
  const chosen = music.parts[Math.max(0, index)];
  if (!chosen)
    throw new CliFault('no-part', `There is no part ${options.part}; the file has 0 to ${parts.length - 1}.`, '--part');
  const request = options.setup === undefined ? null : parsed(setupRequest, jsonOf(options.setup, '--setup'));
  const { setup } = setupOf(request ?? { instrument: 'guitar-6' });
  const shift = options.octaves === undefined ? bestShift(chosen, setup) : options.octaves * 12;
  const taken = takeIn(
    { ...music, title: music.title || chosen.name },
    [{ index: Math.max(0, index), name: chosen.name, setup, shift, trust: 'pitches' }],
    0,
    'imported',
  );
  if (!taken.ok) throw faultOf(taken.error);
  const { piece, blocked } = request ? placePiece(taken.value.piece) : { piece: taken.value.piece, blocked: [] };
  return {
    parts,
    piece,
    imported: { part: Math.max(0, index), shift, remarks: remarks.map((finding) => finding.words) },
    blocked,
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
