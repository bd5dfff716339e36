import { locusWords } from '@/core/base';
import type { z } from 'zod';
import { mono, writeWav } from '@/core/formats/wav';
import { baseNut, openPitch, stringNumbers } from '@/core/instrument';
import { listenTo, ONSET_LIMITS } from '@/core/listen';
import { levelsOf, mapOf, resolve } from '@/core/form';
import { readPiece, riffEnd, riffStart, tempoOf, type Part, type Piece } from '@/core/score';
import { mixed, RENDER_SECONDS, renderRiff } from '@/core/synth';
import { ZERO } from '@/core/time';
import { jsonOf } from './files';
import { readSound } from './sound-file';
import { CliFault, type listenOptions, parsed, type renderOptions, setupOf, setupRequest } from '../schemas';

const round = (value: number, digits = 3): number => Number(value.toFixed(digits));

/**
 * Listens to a sound file: reference, tempo, beats, swing, single notes, and with a set-up the notes of each stroke
 * by string.
 */
export async function listen(bytes: Uint8Array, options: z.infer<typeof listenOptions>): Promise<unknown> {
  const file = await readSound(bytes);
  const { rate } = file;
  const whole = mono(file);
  const from = options.from ?? 0;
  const to = options.to ?? whole.length / rate;
  if (!(to > from)) throw new CliFault('bad-range', '--to must lie after --from.', '--to');
  const sound = whole.subarray(Math.round(from * rate), Math.round(to * rate));
  if (sound.length > ONSET_LIMITS.seconds * rate)
    throw new CliFault(
      'too-long',
      `${ONSET_LIMITS.seconds} s at most are listened to at once: choose a stretch with --from and --to.`,
      'FILE',
    );
  const setup =
    options.setup === undefined ? null : setupOf(parsed(setupRequest, jsonOf(options.setup, '--setup'))).setup;
  const reachable = setup
    ? {
        open: stringNumbers(setup).map((string) => openPitch(setup, string)),
        frets: setup.instrument.frets - baseNut(setup),
        span: 4,
      }
    : null;
  const hearing = listenTo(sound, rate, { reachable, low: 23, high: 88 });
  const at = (t: number): number => round(t + from);
  return {
    reference: hearing.reference && {
      a4Hz: hearing.reference.a4Hz,
      cents: hearing.reference.cents,
      certainty: hearing.reference.certainty,
    },
    tempo: hearing.beats && {
      bpm: hearing.beats.bpm,
      alternatives: hearing.beats.alternatives,
      certainty: hearing.beats.certainty,
    },
    beats: hearing.beats?.beats.map(at) ?? [],
    swing: hearing.beats?.swing ?? null,
    notes: hearing.notes.map((note) => ({
      onset: at(note.at),
      duration: round(note.until - note.at),
      midi: note.midi,
      cents: note.cents,
      certainty: round(note.certainty, 2),
      begins: note.begins,
      ...(note.manner ? { manner: note.manner, curve: note.curve } : {}),
    })),
    sets: hearing.sets.map((set) => ({ onset: at(set.at), readings: set.readings })),
  };
}

const RATE = 44_100;

/** Sounds a part, or one riff of it, as a WAV; the riffs of a part one after the other, several parts together. */
export function render(
  input: unknown,
  options: z.infer<typeof renderOptions>,
): { bytes: Uint8Array; seconds: number; rate: number; parts: string[] } {
  const read = readPiece(input);
  if (!read.ok) throw new CliFault(read.error.rule, read.error.words, locusWords(read.error.locus) || undefined);
  const piece = read.value;
  const parts = piece.parts.filter(
    (part) =>
      (options.part === undefined || part.id === options.part) &&
      part.riffs.some((riff) => (options.riff === undefined || riff.id === options.riff) && riff.events.length > 0),
  );
  if (parts.length === 0)
    throw new CliFault(
      'nothing',
      'There is no such part or riff with notes in the piece.',
      options.riff === undefined ? '--part' : '--riff',
    );
  if (piece.sections.length > 0 && options.riff === undefined) {
    const samples = wholePiece(piece, parts, options.speed);
    return {
      bytes: writeWav({ rate: RATE, channels: samples }),
      seconds: round((samples[0]?.length ?? 0) / RATE),
      rate: RATE,
      parts: parts.map((part) => part.name),
    };
  }
  const sounds = parts.map((part) => {
    const rendered = part.riffs
      .filter((riff) => (options.riff === undefined || riff.id === options.riff) && riff.events.length > 0)
      .map(
        (riff) =>
          renderRiff(riff, part.setup, tempoOf(piece, riff), {
            rate: RATE,
            speed: options.speed,
            from: riffStart(riff),
            to: riffEnd(riff),
            click: false,
            countIn: 0,
            seed: 1,
          }).samples,
      );
    const out = new Float32Array(rendered.reduce((n, samples) => n + samples.length, 0));
    rendered.reduce((start, samples) => {
      out.set(samples, start);
      return start + samples.length;
    }, 0);
    return out;
  });
  const mixed = new Float32Array(Math.max(...sounds.map((samples) => samples.length)));
  const gain = 1 / Math.sqrt(sounds.length);
  for (const samples of sounds)
    for (let i = 0; i < samples.length; i++) mixed[i] = (mixed[i] as number) + gain * (samples[i] as number);
  return {
    bytes: writeWav({ rate: RATE, channels: [mixed] }),
    seconds: round(mixed.length / RATE),
    rate: RATE,
    parts: parts.map((part) => part.name),
  };
}

/** Parts as the form plays them, mixed, from the first bar to the last. */
function wholePiece(piece: Piece, parts: readonly Part[], speed: number): Float32Array[] {
  const map = mapOf(piece);
  const tracks = parts.flatMap((part) => {
    const line = resolve(piece, part.id);
    return line ? [{ setup: part.setup, versions: [line.riff], levels: levelsOf(map, part.id) }] : [];
  });
  const level = 1 / Math.sqrt(tracks.length);
  return mixed(
    {
      rate: RATE,
      tempo: map.tempo,
      tracks,
      from: ZERO,
      to: map.end,
      begin: ZERO,
      countIn: 0,
      double: false,
      rungs: [{ speed, times: 1 }],
      seed: 1,
    },
    [...tracks.map(() => ({ level, pan: 0 })), { level: 0, pan: 0 }],
    RENDER_SECONDS,
  );
}
