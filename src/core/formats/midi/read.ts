import { parseMidi, type MidiData, type MidiEvent } from 'midi-file';
import { fail, ok, type Midi, type Result, type Finding, finding } from '../../base';
import { MAX_BPM, MIN_BPM } from '../../time';

/** What a file may hold at most. A hostile file meets a wall, not a hang. */
export const MIDI_LIMITS = {
  bytes: 4 * 1024 * 1024,
  events: 400_000,
  notesPerPart: 20_000,
  quarters: 20_000,
  tempos: 2000,
} as const;

/** A note of a file; times in quarter notes from the start, as played. */
export interface MidiNote {
  readonly at: number;
  readonly end: number;
  readonly pitch: Midi;
}

/** One channel of one track that has notes. */
export interface MidiPart {
  readonly name: string;
  readonly track: number;
  /** 1 to 16, as instruments show it. */
  readonly channel: number;
  /** Program number 0-127 as in the file. */
  readonly program: number;
  readonly drums: boolean;
  readonly notes: readonly MidiNote[];
  readonly low: Midi;
  readonly high: Midi;
  /** Most notes sounding at once, by attack (chords) and including held ones. */
  readonly chord: number;
  readonly polyphony: number;
}

export interface MidiSong {
  readonly title: string;
  readonly parts: readonly MidiPart[];
  readonly tempo: readonly { readonly at: number; readonly bpm: number }[];
  readonly meters: readonly { readonly at: number; readonly beats: number; readonly unit: number }[];
  /** What was odd about the file and what was made of it. */
  readonly remarks: readonly Finding[];
}

/** Reads a Standard MIDI file of format 0 or 1. Faults say what is wrong with the file; nothing is thrown. */
export function readMidi(bytes: Uint8Array): Result<MidiSong> {
  if (bytes.length > MIDI_LIMITS.bytes)
    return fail(
      'too-large',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; ${MIDI_LIMITS.bytes / 1048576} MB at most.`,
      'file',
    );
  if (bytes.length < 14 || String.fromCharCode(...bytes.subarray(0, 4)) !== 'MThd') {
    return fail('not-midi', 'This is no Standard MIDI file: it does not begin with a MIDI header.', { byte: 0 });
  }
  let data: MidiData;
  try {
    data = parseMidi(bytes);
  } catch (reason) {
    // The parser throws strings and range errors on files that end early or lie about lengths.
    return fail(
      'broken-midi',
      `The file is damaged or cut short (${String(reason instanceof Error ? reason.message : reason).slice(0, 120)}). Export it again.`,
      'file',
    );
  }
  if (data.header.format !== 0 && data.header.format !== 1)
    return fail('midi-format', `MIDI format ${data.header.format} is not read; export it as format 0 or 1.`, 'header');
  const ppq = data.header.ticksPerBeat ?? 0;
  if (!(ppq > 0))
    return fail(
      'midi-division',
      'The file counts in film frames instead of beats; export it with ticks per quarter note.',
      'header',
    );
  const count = data.tracks.reduce((sum, list) => sum + list.length, 0);
  if (count > MIDI_LIMITS.events)
    return fail(
      'too-many-events',
      `The file has ${count} events; ${MIDI_LIMITS.events} at most. Export the parts you need.`,
      'file',
    );
  return collect(data, ppq);
}

interface Open {
  readonly at: number;
  readonly pitch: number;
}

function collect(data: MidiData, ppq: number): Result<MidiSong> {
  const remarks: Finding[] = [];
  const tempo: { at: number; bpm: number }[] = [];
  const meters: { at: number; beats: number; unit: number }[] = [];
  const parts: MidiPart[] = [];
  let title = '';
  let clamped = false;
  for (const [t, track] of data.tracks.entries()) {
    let ticks = 0;
    let name = '';
    const channels = new Map<number, { program: number; open: Map<number, Open[]>; notes: MidiNote[] }>();
    for (const event of track) {
      ticks += Math.max(0, event.deltaTime);
      const at = ticks / ppq;
      if (at > MIDI_LIMITS.quarters)
        return fail('too-long', `The file runs past ${MIDI_LIMITS.quarters} quarter notes.`, {
          path: ['track', t + 1],
        });
      if (event.type === 'trackName' && !name) name = tidy(event.text);
      else if (event.type === 'setTempo') {
        const bpm = 60_000_000 / Math.max(1, event.microsecondsPerBeat);
        const kept = Math.min(MAX_BPM, Math.max(MIN_BPM, bpm));
        clamped ||= kept !== bpm;
        tempo.push({ at, bpm: Math.round(kept * 1000) / 1000 });
      } else if (event.type === 'timeSignature') meters.push({ at, beats: event.numerator, unit: event.denominator });
      else if ('channel' in event) noteEvent(channels, event, at);
    }
    if (t === 0 && data.tracks.length > 1) title = name;
    for (const [channel, one] of channels) {
      // Notes never ended last to the end of the track.
      for (const open of one.open.values())
        for (const other of open)
          one.notes.push({ at: other.at, end: Math.max(other.at + 0.25, ticks / ppq), pitch: other.pitch });
      if (one.notes.length === 0) continue;
      if (one.notes.length > MIDI_LIMITS.notesPerPart)
        return fail('too-many-notes', `A part has ${one.notes.length} notes; ${MIDI_LIMITS.notesPerPart} at most.`, {
          path: ['track', t + 1],
        });
      parts.push(partOf(name || `Track ${t + 1}`, t, channel, one.program, one.notes));
    }
  }
  if (clamped)
    remarks.push(finding('tempo-range', 'warning', `A tempo outside ${MIN_BPM} to ${MAX_BPM} was brought within.`));
  if (tempo.length > MIDI_LIMITS.tempos)
    remarks.push(
      finding('many-tempos', 'warning', `Of ${tempo.length} tempo marks the first ${MIDI_LIMITS.tempos} are kept.`),
    );
  if (parts.length === 0) return fail('no-notes', 'The file holds no notes.', 'file');
  tempo.sort((a, b) => a.at - b.at);
  meters.sort((a, b) => a.at - b.at);
  return ok({ title, parts, tempo: tempo.slice(0, MIDI_LIMITS.tempos), meters, remarks });
}

function noteEvent(
  channels: Map<number, { program: number; open: Map<number, Open[]>; notes: MidiNote[] }>,
  event: MidiEvent,
  at: number,
): void {
  if (!('channel' in event)) return;
  const number = event.channel + 1;
  let one = channels.get(number);
  if (!one) {
    one = { program: 0, open: new Map(), notes: [] };
    channels.set(number, one);
  }
  if (event.type === 'programChange' && one.notes.length === 0) one.program = event.programNumber;
  if (event.type !== 'noteOn' && event.type !== 'noteOff') return;
  const pitch = event.noteNumber;
  if (event.type === 'noteOn' && event.velocity > 0) {
    one.open.set(pitch, [...(one.open.get(pitch) ?? []), { at, pitch }]);
  } else {
    const [first, ...rest] = one.open.get(pitch) ?? [];
    if (!first) return;
    one.open.set(pitch, rest);
    if (at > first.at) one.notes.push({ at: first.at, end: at, pitch });
  }
}

function partOf(
  name: string,
  track: number,
  channel: number,
  program: number,
  unsorted: readonly MidiNote[],
): MidiPart {
  const notes = [...unsorted].sort((a, b) => a.at - b.at || a.pitch - b.pitch);
  const steps = notes
    .flatMap((note) => [
      { at: note.at, by: 1 },
      { at: note.end - 1e-6, by: -1 },
    ])
    .sort((a, b) => a.at - b.at || a.by - b.by);
  let sounding = 0;
  let polyphony = 0;
  for (const one of steps) polyphony = Math.max(polyphony, (sounding += one.by));
  const together = new Map<number, number>();
  for (const note of notes) together.set(Math.round(note.at * 24), (together.get(Math.round(note.at * 24)) ?? 0) + 1);
  return {
    name,
    track,
    channel,
    program,
    notes,
    polyphony,
    drums: channel === 10,
    low: notes.reduce((midi, note) => Math.min(midi, note.pitch), 127),
    high: notes.reduce((midi, note) => Math.max(midi, note.pitch), 0),
    chord: [...together.values()].reduce((a, b) => Math.max(a, b), 0),
  };
}

const tidy = (text: string): string =>
  [...text]
    .filter((letter) => letter >= ' ' && letter !== '\u007f')
    .join('')
    .trim()
    .slice(0, 80);
