import { stringCount, type Setup } from '../instrument';
import {
  endOf,
  noteEnd,
  type Articulation,
  type Note,
  type Riff,
  type RiffEvent,
  type Technique,
  joinsInto,
} from '../score';
import { barOf, barStart, cmp, toNumber, type Quarter } from '../time';
import type { Clock, RenderOptions } from './clock';
import type { Strings } from './strings';
import { eventSound, noteSound } from './technique-sound';

/** What is done to the strings when: a riff's techniques as strikes, glides and damps in seconds. */
export interface Action {
  readonly at: number;
  /** At one time ends come before strikes, and strikes before what bends them. */
  readonly order: number;
  readonly run: () => void;
}

/** A sound without a string. */
export interface Noise {
  readonly kind: 'hit' | 'scrape';
  readonly at: number;
  readonly seconds: number;
  /** The middle of its band, in hertz, from start to end. */
  readonly from: number;
  readonly to: number;
  readonly strength: number;
}

/** A damped string clicks for so long. */
export const DEAD_SECONDS = 0.03;
/**
 * A plain bend begins after a share of the note and takes a share of it, within limits in seconds; a trill's notes
 * last so long.
 */
const BEND = { after: 0.18, over: 0.3, most: 0.18 } as const;
const TRILL_SECONDS = 0.085;
/** Shakes a second, and how far slides from nowhere come from. */
const VIBRATO_HZ = 5.4;
export const SLIDE = { semitones: 3, seconds: 0.09, joined: 0.06, quick: 0.025 } as const;
/** Between the strings of a rolled chord, and of a rake. */
const ROLL_SECONDS = 0.045;
const RAKE_SECONDS = 0.022;
/** How long a string rings under the palm and under a choking hand, as a share. */
const SUSTAIN = { palm: 0.09, choked: 0.03 } as const;
export const VOLUMES: Readonly<Record<NonNullable<Articulation['dynamic']>, number>> = {
  pp: 0.3,
  p: 0.42,
  mp: 0.58,
  mf: 0.75,
  f: 0.9,
  ff: 1,
};
/** How hard a string is struck when nothing is said. */
export const USUAL = 0.85;

/** Whether an event sounds in the stretch: it begins there, or is a grace note that leads into it. */
export function sounds(riff: Riff, i: number, from: Quarter, to: Quarter): boolean {
  const event = riff.events[i];
  if (!event || cmp(event.at, to) >= 0) return false;
  if (cmp(event.at, from) >= 0) return true;
  const main = riff.events.slice(i).find((event) => !event.grace);
  return event.grace === true && main !== undefined && cmp(main.at, from) >= 0;
}

export function actionsOf(
  riff: Riff,
  setup: Setup,
  options: RenderOptions,
  clock: Clock,
  random: () => number,
  strings: Strings,
): Action[] {
  const actions: Action[] = [];
  let volume: number = VOLUMES.f;
  riff.events.forEach((event, index) => {
    if (event.dynamic) volume = VOLUMES[event.dynamic];
    if (event.notes.length === 0 || !sounds(riff, index, options.from, options.to)) return;
    const loud = Math.min(1, USUAL * (volume / VOLUMES.f) * eventSound(event).strength);
    const order = rolled(event);
    if (event.rake) actions.push(...raked(event, clock(event.at), setup, random, strings));
    event.notes.forEach((note, one) => {
      const delay = event.roll ? order.indexOf(one) * ROLL_SECONDS : 0;
      actions.push(
        ...noteActions({
          riff,
          setup,
          options,
          clock,
          random,
          strings,
          event,
          index: index,
          note,
          n: one,
          start: Math.max(0, clock(event.at) + delay),
          loud,
        }),
      );
    });
  });
  return actions;
}

/** Indices of notes in the order a rolled chord sounds them. */
function rolled(event: RiffEvent): number[] {
  const order = event.notes
    .map((_, i) => i)
    .sort(
      (a, b) =>
        (event.notes[b]?.place?.string ?? -(event.notes[b]?.pitch.midi ?? 0)) -
        (event.notes[a]?.place?.string ?? -(event.notes[a]?.pitch.midi ?? 0)),
    );
  return event.roll === 'thin-first' ? order.reverse() : order;
}

/** Clicks of the damped strings a rake goes over, thicker than its lowest note. */
function raked(event: RiffEvent, start: number, setup: Setup, random: () => number, strings: Strings): Action[] {
  const thick = Math.max(0, ...event.notes.map((note) => note.place?.string ?? 0));
  return [3, 2, 1]
    .filter((d) => thick + d <= stringCount(setup))
    .flatMap((d): Action[] => {
      const string = thick + d;
      const pitch = setup.open[setup.open.length - string] ?? 40;
      const at = Math.max(0, start - d * RAKE_SECONDS);
      return [
        { at, order: 1, run: () => strings.voice(string, pitch).pluck(pitch, 0.4, random, SUSTAIN.choked) },
        { at: at + RAKE_SECONDS, order: 0, run: () => strings.voice(string, pitch).damp(0.008) },
      ];
    });
}

interface Playing {
  readonly riff: Riff;
  readonly setup: Setup;
  readonly options: RenderOptions;
  readonly clock: Clock;
  readonly random: () => number;
  readonly strings: Strings;
  readonly event: RiffEvent;
  readonly index: number;
  readonly note: Note;
  readonly n: number;
  readonly start: number;
  readonly loud: number;
}

function noteActions({
  riff,
  setup,
  options,
  clock,
  random,
  strings,
  event,
  index,
  note,
  n,
  start,
  loud,
}: Playing): Action[] {
  const { technique: noteTechniques } = note;
  const sound = noteSound(noteTechniques);
  const before = riff.events[index - 1];
  const next = riff.events[index + 1];
  const string = note.place?.string ?? stringCount(setup) + 1 + n;
  const pitch = note.pitch.midi + note.pitch.cents / 100 + sound.above;
  const each = strings.sounds(string, pitch);
  const glide = (by: number, over: number) => (): void => {
    for (const { key, sounding } of each) strings.voice(key, sounding).retune(sounding + by, over);
  };
  const strike = (strength: number) => (): void => {
    for (const { key, sounding } of each)
      strings
        .voice(key, sounding)
        .pluck(
          sounding + firstBend(noteTechniques),
          key === string ? strength : strength * 0.7,
          random,
          event.mute ? SUSTAIN[event.mute] : 1,
        );
  };
  const damp = (seconds?: number) => (): void => {
    for (const { key, sounding } of each) strings.voice(key, sounding).damp(seconds);
  };
  const joined =
    before && sounds(riff, index - 1, options.from, options.to)
      ? (joinsInto(before, event).get(note.id)?.how ?? null)
      : null;
  const strength = loud * sound.strength;
  const actions: Action[] = [];
  if (joined === 'shift')
    actions.push({
      at: Math.max(0, start - SLIDE.joined),
      order: 2,
      run: glide(0, event.quickSlide ? SLIDE.quick : SLIDE.joined),
    });
  if (joined === 'slide')
    actions.push({ at: start, order: 1, run: glide(0, event.quickSlide ? SLIDE.quick : SLIDE.joined) });
  else if (joined && joined !== 'shift') actions.push({ at: start, order: 1, run: glide(0, 0.004) });
  else if (noteTechniques?.slideIn) {
    const over = noteTechniques.slideInBy ?? SLIDE.semitones;
    const by = noteTechniques.slideIn === 'lower' ? -over : over;
    actions.push(
      {
        at: start,
        order: 1,
        run: () => {
          for (const { key, sounding } of each)
            strings.voice(key, sounding).pluck(sounding + by, strength, random, event.mute ? SUSTAIN[event.mute] : 1);
        },
      },
      { at: start, order: 2, run: glide(0, SLIDE.seconds) },
    );
  } else actions.push({ at: start, order: 1, run: strike(strength) });
  if (noteTechniques?.dead) return [...actions, { at: start + DEAD_SECONDS / 3, order: 2, run: damp(DEAD_SECONDS) }];
  const written = clock(noteEnd(event, note));
  const end = event.gate ? start + ((written - start) * event.gate) / 100 : written;
  for (const one of movements(noteTechniques, end - start))
    actions.push({ at: start + one.at, order: 2, run: glide(one.by, one.over) });
  if (event.tremolo)
    for (let k = 1, at = clock(event.at); k < 400; k++) {
      at = start + (k * (written - start) * toNumber(event.tremolo)) / toNumber(event.dur);
      if (at >= end - 0.01) break;
      actions.push({ at, order: 1, run: strike(strength * 0.9) });
    }
  const linkedOn =
    note.join !== undefined &&
    next !== undefined &&
    [...joinsInto(event, next).values()].some(({ from, how }) => from.id === note.id && how !== 'shift');
  if (noteTechniques?.slideOut && !linkedOn)
    actions.push({
      at: Math.max(start, end - SLIDE.seconds),
      order: 2,
      run: glide(
        (noteTechniques.slideOut === 'lower' ? -1 : 1) * (noteTechniques.slideOutBy ?? SLIDE.semitones),
        SLIDE.seconds,
      ),
    });
  if (linkedOn || event.letRing) return actions;
  const { bar } = barOf(riff.meters, event.at);
  const until = noteTechniques?.letRing ? Math.max(end, clock(barStart(riff.meters, bar + 1))) : end;
  // A string that is struck again before then is not the old note's any more.
  const again = noteTechniques?.letRing
    ? riff.events.find(
        (other) => cmp(other.at, event.at) > 0 && other.notes.some((note) => note.place?.string === string),
      )
    : undefined;
  if (!again || clock(again.at) >= until) actions.push({ at: until, order: 0, run: damp() });
  return actions;
}

/** Semitones a string is bent when it is struck. */
export const firstBend = (noteTechniques: Technique | undefined): number =>
  noteTechniques?.bend && noteTechniques.bendCurve?.[0] ? noteTechniques.bendCurve[0].cents / 100 : 0;

/** How a note's pitch moves while it sounds: when, to how many semitones above, and over how long. */
export function movements(
  noteTechniques: Technique | undefined,
  seconds: number,
): { at: number; by: number; over: number }[] {
  if (noteTechniques?.bendCurve) {
    return noteTechniques.bendCurve.slice(1).map((one, i) => {
      const from = noteTechniques.bendCurve?.[i] ?? one;
      return {
        at: (from.at / 100) * seconds,
        by: one.cents / 100,
        over: Math.max(0.004, ((one.at - from.at) / 100) * seconds),
      };
    });
  }
  const bent = noteTechniques?.bend ? noteTechniques.bend / 100 : 0;
  const up =
    bent > 0
      ? [{ at: Math.min(BEND.most, seconds * BEND.after), by: bent, over: Math.min(BEND.most, seconds * BEND.over) }]
      : [];
  if (noteTechniques?.vibrato) {
    const half = 0.5 / VIBRATO_HZ;
    const first = (up[0] ? up[0].at + up[0].over : 0) + half;
    const count = Math.max(0, Math.floor((seconds - first) / half));
    const shake = Array.from({ length: Math.min(count, 400) }, (_, i) => ({
      at: first + i * half,
      by: bent + ((i % 2 === 0 ? 1 : -1) * (noteTechniques.vibrato ?? 0)) / 100,
      over: half,
    }));
    return [...up, ...shake];
  }
  const upper = noteTechniques?.trill;
  if (!upper) return up;
  return Array.from({ length: Math.max(1, Math.floor(seconds / TRILL_SECONDS) - 1) }, (_, i) => ({
    at: (i + 1) * TRILL_SECONDS,
    by: i % 2 === 0 ? upper : 0,
    over: 0.004,
  }));
}

/** A pick scraped towards the body sounds brighter and brighter. */
const scrapeSweep = (to: 'lower' | 'higher' = 'higher'): { from: number; to: number } =>
  to === 'higher' ? { from: 900, to: 3200 } : { from: 3200, to: 900 };

/** Hits, scrapes and the clicks that come with notes. A hole is silent. */
export function noisesOf(riff: Riff, options: RenderOptions, clock: Clock): Noise[] {
  return riff.events.flatMap((event, i): Noise[] => {
    const { click } = eventSound(event);
    const made = event.kind === 'hit' || event.kind === 'scrape' ? event.kind : null;
    if ((made === null && click === 0) || !sounds(riff, i, options.from, options.to)) return [];
    const at = clock(event.at);
    if (made === null) return [{ kind: 'hit', at, seconds: 0.05, from: 2200, to: 1200, strength: click }];
    const seconds = clock(endOf(event)) - at;
    return made === 'hit'
      ? [{ kind: 'hit', at, seconds: 0.16, from: 240, to: 120, strength: 0.5 }]
      : [{ kind: 'scrape', at, seconds: Math.max(0.1, seconds), ...scrapeSweep(event.scraped?.to), strength: 0.22 }];
  });
}
