import { expose, transfer } from 'comlink';
import {
  banded,
  beatsOf,
  forPictures,
  heardChannel,
  listenTo,
  onsetsIn,
  overviewOf,
  pictureOf,
  stretched,
  type Band,
  type Beats,
  type Channels,
  type Listened,
  type ListenOptions,
  type PictureWindow,
  type Sound,
} from '@/core/listen';
import { StringVoice, seeded } from '@/core/synth';

/**
 * The door to core/listen: holds one recording and answers about it. Ended by its owner, which is how long work is
 * cancelled.
 */
let channels: readonly Float32Array[] = [];
let rate = 44_100;
let mono = new Float32Array(0);
/** Samples that are there. */
let arrived = 0;
/** Prepared for pictures, by what is heard of it: the whole, and what was last asked for beside it. */
let slow: { readonly which: Channels; readonly sound: Sound }[] = [];

export interface CutRequest {
  readonly from: number;
  readonly upTo: number;
  /** Whether it may end before `upTo`, where something is struck: what follows then joins without a seam. */
  readonly goesOn: boolean;
  readonly speed: number;
  readonly semitones: number;
  readonly channels: Channels;
  readonly band: Band;
}

export interface Cut {
  readonly channels: readonly Float32Array[];
  /** Where in the recording it ends. */
  readonly to: number;
}

const SWING_IN = 0.2;
const AROUND = 1;
const part = (samples: Float32Array, from: number, to: number): Float32Array =>
  samples.subarray(Math.max(0, Math.round(from * rate)), Math.min(samples.length, Math.round(to * rate)));

/** A stretch of what is heard of it. */
const heardPart = (which: Channels, from: number, to: number): Float32Array =>
  which === 'both' || which === 'middle'
    ? part(mono, from, to)
    : heardChannel(
        channels.map((samples) => part(samples, from, to)),
        which,
      );

function prepared(which: Channels): Sound {
  const as = which === 'middle' ? 'both' : which;
  const known = slow.find((one) => one.which === as);
  if (known) return known.sound;
  const sound = forPictures(heardPart(as, 0, mono.length / rate), rate);
  slow = [...slow.filter((one) => one.which === 'both'), { which: as, sound }];
  return sound;
}

const door = {
  load(sound: readonly Float32Array[], at: number): void {
    door.begin(sound.length, sound[0]?.length ?? 0, at);
    channels = sound;
    mono = heardChannel(sound, 'middle') as Float32Array<ArrayBuffer>;
    arrived = mono.length;
  },

  /** A recording of so many samples is on its way. */
  begin(count: number, frames: number, at: number): void {
    channels = Array.from({ length: count }, () => new Float32Array(frames));
    rate = at;
    mono = new Float32Array(frames);
    arrived = 0;
    slow = [];
  },

  /** The next part of it, from sample `from` on. */
  append(from: number, parts: readonly Float32Array[]): void {
    parts.forEach((part, index) => channels[index]?.set(part, from));
    mono.set(heardChannel(parts, 'middle'), from);
    arrived = from + (parts[0]?.length ?? 0);
  },

  overview(count: number): Uint8Array {
    return overviewOf(mono, count);
  },

  /** The picture of what is heard: of some channels, where those were chosen. */
  picture(window: PictureWindow, which: Channels): Uint8ClampedArray {
    // While it is coming in, what is in sight is prepared by itself.
    const first = Math.max(0, window.from - AROUND);
    const made =
      arrived === mono.length
        ? pictureOf(prepared(which), window)
        : pictureOf(forPictures(heardPart(which, first, window.to + AROUND), rate), {
            ...window,
            from: window.from - first,
            to: window.to - first,
          });
    return transfer(made, [made.buffer as ArrayBuffer]);
  },

  /** A stretch as it is to be heard: of some channels, in a band, at a speed and pitch. */
  cut({ from, upTo, goesOn, speed, semitones, channels: which, band }: CutRequest): Cut {
    const plain = Math.abs(speed - 1) < 1e-6 && semitones === 0;
    const strokes = plain ? [] : onsetsIn(part(mono, from, upTo), rate);
    const last = goesOn ? strokes.findLast((one) => one > (upTo - from) / 2) : undefined;
    const to = last === undefined ? upTo : from + last;
    // A filter needs to have swung in where the stretch begins.
    const margin = band === 'all' ? 0 : Math.min(from, SWING_IN);
    const own = channels.map((samples) => part(samples, from - margin, to + (band === 'all' ? 0 : SWING_IN)));
    const drawn = (samples: Float32Array): Float32Array => {
      const kept = banded(samples, rate, band).slice(
        Math.round(margin * rate),
        Math.round(margin * rate) + Math.round(to * rate) - Math.round(from * rate),
      );
      return plain ? kept : stretched(kept, rate, speed, strokes, semitones);
    };
    let made: Float32Array[];
    if (which !== 'both' || own.length < 2) made = [drawn(heardChannel(own, which === 'both' ? 'middle' : which))];
    else {
      // Middle and sides are drawn out apart: what lies in the middle stays there.
      const [middle, sides] = [drawn(heardChannel(own, 'middle')), drawn(heardChannel(own, 'sides'))];
      made = [middle.map((v, i) => v + (sides[i] as number)), middle.map((v, i) => v - (sides[i] as number))];
    }
    return transfer(
      { channels: made, to },
      made.map((samples) => samples.buffer as ArrayBuffer),
    );
  },

  /** Listens to a stretch; times are of the whole recording. */
  listen(
    from: number,
    to: number,
    which: Channels,
    options: ListenOptions,
    progress: (share: number) => void,
  ): Listened {
    const sound = heardPart(which, from, to);
    let told = 0;
    const hearing = listenTo(sound, rate, {
      ...options,
      progress: (share) => {
        if (share - told > 0.02) progress((told = share));
      },
    });
    const at = (t: number): number => Math.round((t + from) * 1000) / 1000;
    return {
      ...hearing,
      strokes: hearing.strokes.map(at),
      beats: hearing.beats && { ...hearing.beats, beats: hearing.beats.beats.map(at) },
      notes: hearing.notes.map((note) => ({ ...note, at: at(note.at), until: at(note.until) })),
      sets: hearing.sets.map((set) => ({ ...set, at: at(set.at), until: at(set.until) })),
    };
  },

  /** The beats of a stretch at a tempo near the one asked for. */
  beats(from: number, to: number, which: Channels, bpm: number): Beats | null {
    const listening = beatsOf(heardPart(which, from, to), rate, bpm);
    return listening && { ...listening, beats: listening.beats.map((one) => Math.round((one + from) * 1000) / 1000) };
  },

  /** The program's own string sounding a pitch. */
  tone(midi: number, cents: number, seconds: number): Float32Array {
    const out = new Float32Array(Math.round(seconds * rate));
    const voice = new StringVoice(rate, Math.min(20, midi));
    voice.pluck(midi + cents / 100, 0.8, seeded(5));
    voice.render(out, 0, out.length, 0.8);
    const fade = Math.round(0.03 * rate);
    for (let i = 0; i < fade; i++) out[out.length - 1 - i] = ((out[out.length - 1 - i] as number) * i) / fade;
    return transfer(out, [out.buffer]);
  },
};

export type ListenDoor = typeof door;
expose(door);
