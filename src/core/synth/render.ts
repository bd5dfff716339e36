import { stringCount, type Setup } from '../instrument';
import { noteEnd, type Riff, type Tech } from '../score';
import { add, barOf, barStart, cmp, meterAt, mul, quarter, secondsAt, ZERO, type Quarter, type TempoStep } from '../time';
import { StringVoice } from './string-voice';

export interface RenderOptions {
  readonly rate: number;
  /** Share of the written tempo, 0.25 to 1.5. */
  readonly speed: number;
  /** What is rendered: from and to, in the riff's time. */
  readonly from: Quarter;
  readonly to: Quarter;
  readonly click: boolean;
  /** Beats counted before the music starts. */
  readonly countIn: number;
  readonly seed: number;
}

export interface Rendered {
  readonly samples: Float32Array;
  readonly rate: number;
  /** Seconds of count-in before the music. A loop repeats from there. */
  readonly lead: number;
  /** Seconds from the start of the music to its end. */
  readonly length: number;
}

export const SPEED_LIMITS = { min: 0.25, max: 1.5 } as const;
/** The longest stretch rendered in one go, in seconds. */
export const RENDER_SECONDS = 900;

/** A repeatable source of noise in [-1, 1) (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return (((t ^ (t >>> 14)) >>> 0) / 2147483648) - 1;
  };
}

/** Seconds from `from` to `at` at a speed. */
export function playSeconds(tempo: readonly TempoStep[], from: Quarter, at: Quarter, speed: number): number {
  return (secondsAt(tempo, at) - secondsAt(tempo, from)) / speed;
}

/** Voices of second strings are kept apart from the strings themselves. */
const COURSE_KEY = 100;

interface Action {
  readonly at: number;
  readonly order: number;
  readonly run: () => void;
}

/**
 * Renders a stretch of a riff: one voice a string, so that a new note on a string stops the old
 * one, as on the instrument. Notes without a place borrow strings of their own. With click and
 * count-in. Deterministic for a seed. Throws RangeError for a speed outside 0.25-1.5 or a stretch
 * longer than RENDER_SECONDS.
 */
export function renderRiff(riff: Riff, setup: Setup, tempo: readonly TempoStep[], options: RenderOptions): Rendered {
  const { rate, speed, from, to } = options;
  if (!(speed >= SPEED_LIMITS.min && speed <= SPEED_LIMITS.max)) throw new RangeError(`speed ${speed} is outside 0.25-1.5`);
  const beat = quarter(4, meterAt(riff.meters, Math.max(0, barOf(riff.meters, from).bar)).unit);
  const lead = options.countIn * playSeconds(tempo, ZERO, beat, speed);
  const length = playSeconds(tempo, from, to, speed);
  if (length + lead > RENDER_SECONDS) throw new RangeError(`a stretch of ${Math.round(length)} s is too long to render at once`);
  const samples = new Float32Array(Math.ceil((lead + length) * rate));
  const random = seeded(options.seed);
  const voices = new Map<number, StringVoice>();
  const voice = (string: number, pitch: number): StringVoice => {
    let v = voices.get(string);
    if (!v) {
      v = new StringVoice(rate, Math.min(pitch, 28, ...setup.open));
      voices.set(string, v);
    }
    return v;
  };
  // A course is two strings under one finger: the second sounds with the first, at its distance.
  const sounds = (string: number, pitch: number): { key: number; sounding: number }[] => {
    const course = setup.instrument.strings[setup.instrument.strings.length - string]?.course;
    return course ? [{ key: string, sounding: pitch }, { key: COURSE_KEY + string, sounding: pitch + course.semitones }] : [{ key: string, sounding: pitch }];
  };
  const actions: Action[] = [];
  const second = (at: Quarter): number => lead + playSeconds(tempo, from, at, speed);
  riff.events.forEach((event, e) => {
    if (cmp(event.at, to) >= 0 || cmp(event.at, from) < 0) return;
    const before = riff.events[e - 1];
    event.notes.forEach((note, n) => {
      const string = note.place?.string ?? stringCount(setup) + 1 + n;
      const pitch = note.pitch.midi + note.pitch.cents / 100;
      const joined = before?.link && cmp(before.at, from) >= 0 && before.notes.some((b) => b.place?.string === string) ? before.link : null;
      const start = second(event.at);
      actions.push({
        at: start,
        order: 1,
        run: () => {
          for (const { key, sounding } of sounds(string, pitch)) {
            if (joined === 'slide') voice(key, sounding).retune(sounding, 0.06);
            else if (joined) voice(key, sounding).retune(sounding, 0.004);
            else voice(key, sounding).pluck(sounding, key === string ? 0.85 : 0.6, random);
          }
        },
      });
      if (note.tech?.dead) {
        actions.push({ at: start + DEAD_SECONDS / 3, order: 2, run: () => { for (const { key, sounding } of sounds(string, pitch)) voice(key, sounding).damp(DEAD_SECONDS); } });
        return;
      }
      for (const { at, by, over } of movements(note.tech, second(noteEnd(event, note)) - start)) {
        actions.push({ at: start + at, order: 2, run: () => { for (const { key, sounding } of sounds(string, pitch)) voice(key, sounding).retune(sounding + by, over); } });
      }
      const next = riff.events[e + 1];
      const linkedOn = event.link !== null && next !== undefined && next.notes.some((x) => x.place?.string === string);
      if (!linkedOn && !event.ring) actions.push({ at: second(noteEnd(event, note)), order: 0, run: () => { for (const { key, sounding } of sounds(string, pitch)) voice(key, sounding).damp(); } });
    });
  });
  actions.sort((a, b) => a.at - b.at || a.order - b.order);
  let done = 0;
  const gain = setup.instrument.kind === 'bass' ? 0.9 : 0.75;
  const renderTo = (sample: number): void => {
    const until = Math.min(samples.length, sample);
    if (until <= done) return;
    for (const v of voices.values()) v.render(samples, done, until - done, gain);
    done = until;
  };
  for (const action of actions) {
    renderTo(Math.round(action.at * rate));
    action.run();
  }
  renderTo(samples.length);
  addClicks(samples, riff, tempo, options, lead);
  soften(samples);
  return { samples, rate, lead, length };
}

/** A damped string clicks for so long. */
const DEAD_SECONDS = 0.03;
/** A bend begins after a share of the note and takes a share of it, within limits in seconds; a trill's notes last so long. */
const BEND = { after: 0.18, over: 0.3, most: 0.18 } as const;
const TRILL_SECONDS = 0.085;

/** How a note's pitch moves while it sounds: when, to how many semitones above, and over how long. */
function movements(tech: Tech | undefined, seconds: number): { at: number; by: number; over: number }[] {
  if (tech?.bend) return [{ at: Math.min(BEND.most, seconds * BEND.after), by: tech.bend / 100, over: Math.min(BEND.most, seconds * BEND.over) }];
  const upper = tech?.trill;
  if (!upper) return [];
  return Array.from({ length: Math.max(1, Math.floor(seconds / TRILL_SECONDS) - 1) }, (_, i) => ({ at: (i + 1) * TRILL_SECONDS, by: i % 2 === 0 ? upper : 0, over: 0.004 }));
}

function addClicks(samples: Float32Array, riff: Riff, tempo: readonly TempoStep[], options: RenderOptions, lead: number): void {
  const { from, to, speed, rate } = options;
  const first = Math.max(0, barOf(riff.meters, from).bar);
  const unit = quarter(4, meterAt(riff.meters, first).unit);
  const unitSeconds = playSeconds(tempo, ZERO, unit, speed);
  for (let i = 0; i < options.countIn; i++) tick(samples, lead - (options.countIn - i) * unitSeconds, rate, i === 0);
  if (!options.click) return;
  for (let bar = first; ; bar++) {
    const start = barStart(riff.meters, bar);
    if (cmp(start, to) >= 0) return;
    const meter = meterAt(riff.meters, bar);
    for (let b = 0; b < meter.beats; b++) {
      const at = add(start, mul(quarter(4, meter.unit), b));
      if (cmp(at, from) >= 0 && cmp(at, to) < 0) tick(samples, lead + playSeconds(tempo, from, at, speed), rate, b === 0);
    }
  }
}

/** A short stick sound, higher on the first beat. */
function tick(samples: Float32Array, at: number, rate: number, strong: boolean): void {
  const start = Math.round(at * rate);
  const hertz = strong ? 2093 : 1397;
  for (let i = 0; i < 0.03 * rate; i++) {
    const s = start + i;
    if (s < 0 || s >= samples.length) continue;
    const t = i / rate;
    samples[s] = (samples[s] ?? 0) + (strong ? 0.3 : 0.2) * Math.exp(-t * 160) * Math.sin(2 * Math.PI * hertz * t);
  }
}

/** Keeps the sum of strings within -1 and 1 without hard edges. */
function soften(samples: Float32Array): void {
  for (let i = 0; i < samples.length; i++) samples[i] = Math.tanh(samples[i] ?? 0);
}

