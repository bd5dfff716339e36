import { writeMidi as encode, type MidiEvent } from 'midi-file';
import { noteEnd, tempoOf, type Piece } from '../../score';
import {
  add,
  barStart,
  bpmAt,
  floorDiv,
  maxQuarter,
  quarter,
  sub,
  toNumber,
  ZERO,
  type Quarter,
  type TempoStep,
} from '../../time';

const PPQ = 480;

/**
 * A piece as a Standard MIDI file of format 1: a track of tempo and meter, then one a part with
 * the part's first riff at sounding pitch. A pickup moves everything on by its length.
 */
export function pieceToMidi(piece: Piece): Uint8Array {
  const first = piece.parts[0]?.riffs[0];
  const pickup = piece.parts.reduce<Quarter>((at, part) => maxQuarter(at, part.riffs[0]?.pickup ?? ZERO), ZERO);
  const ticks = (at: Quarter): number => Math.round((toNumber(at) + toNumber(pickup)) * PPQ);
  const conductor: Timed[] = [{ tick: 0, event: { deltaTime: 0, meta: true, type: 'trackName', text: piece.title } }];
  for (const step of stepped(first ? tempoOf(piece, first) : piece.context.tempo)) {
    const tick = step.at === ZERO ? 0 : ticks(step.at);
    conductor.push({
      tick,
      event: { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / step.bpm) },
    });
  }
  for (const meter of first?.meters ?? []) {
    const tick = meter.bar === 0 ? 0 : ticks(barStart(first?.meters ?? [], meter.bar));
    conductor.push({
      tick,
      event: {
        deltaTime: 0,
        meta: true,
        type: 'timeSignature',
        numerator: meter.beats,
        denominator: meter.unit,
        metronome: 24,
        thirtyseconds: 8,
      },
    });
  }
  const tracks = piece.parts.map((part, index): MidiEvent[] => {
    // Channel 10 is for drums everywhere: parts go round it.
    const channel = (index % 15) + (index % 15 >= 9 ? 1 : 0);
    const timed: Timed[] = [{ tick: 0, event: { deltaTime: 0, meta: true, type: 'trackName', text: part.name } }];
    timed.push({
      tick: 0,
      event: {
        deltaTime: 0,
        type: 'programChange',
        channel,
        programNumber: part.setup.instrument.kind === 'bass' ? 33 : 27,
      },
    });
    for (const event of part.riffs[0]?.events ?? []) {
      for (const note of event.notes) {
        timed.push({
          tick: ticks(event.at),
          event: { deltaTime: 0, type: 'noteOn', channel, noteNumber: note.pitch.midi, velocity: 90 },
        });
        timed.push({
          tick: ticks(noteEnd(event, note)),
          event: { deltaTime: 0, type: 'noteOff', channel, noteNumber: note.pitch.midi, velocity: 0 },
        });
      }
    }
    return track(timed);
  });
  return Uint8Array.from(
    encode({
      header: { format: 1, numTracks: tracks.length + 1, ticksPerBeat: PPQ },
      tracks: [track(conductor), ...tracks],
    }),
  );
}

/** A tempo map in steps: the format has no ramps, so one is written as a step every sixteenth. */
function stepped(steps: readonly TempoStep[]): { at: Quarter; bpm: number }[] {
  return steps.flatMap((step, i) => {
    const next = steps[i + 1];
    if (!step.ramp || !next) return [{ at: step.at, bpm: step.bpm }];
    const count = Math.min(400, Math.max(1, floorDiv(sub(next.at, step.at), quarter(1, 4))));
    return Array.from({ length: count }, (_, k) => ({
      at: add(step.at, quarter(k, 4)),
      bpm: bpmAt(steps, add(step.at, quarter(2 * k + 1, 8))),
    }));
  });
}

interface Timed {
  readonly tick: number;
  readonly event: MidiEvent;
}

/** Timed events as a track of deltas; at one tick notes end before others begin. */
function track(timed: readonly Timed[]): MidiEvent[] {
  const sorted = [...timed].sort(
    (a, b) => a.tick - b.tick || Number(a.event.type === 'noteOn') - Number(b.event.type === 'noteOn'),
  );
  let before = 0;
  const events = sorted.map(({ tick, event }) => {
    const deltaTime = tick - before;
    before = tick;
    return { ...event, deltaTime };
  });
  return [...events, { deltaTime: 0, meta: true, type: 'endOfTrack' }];
}
