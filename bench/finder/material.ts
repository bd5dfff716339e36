import {
  fullCapo,
  INSTRUMENTS,
  tuningPitches,
  tuningsFor,
  type Setup,
  type TuningFamily,
} from '../../src/core/instrument';
import type { PlaceEvent } from '../../src/core/place';
import type { Clue, FinderQuestion } from '../../src/core/setup-finder';
import { quarter } from '../../src/core/time';
import { pick, randomOf, type Random } from '../lib/random';
import { deskOf, phraseOf, type Idiom } from '../placement/idiom';
import { CLOSED } from '../placement/idioms-closed';
import { OPEN } from '../placement/idioms-open';

/**
 * Phrases of about four bars from set-ups that are known, written as a hand moves in them (see idiom.ts). Every other
 * idiom is kept apart: weights are learnt on the others only. Set-ups are drawn in two ways: `practice`, as often as
 * players use them (a judgement, the table below), among the families an idiom is at home in; and `even`, every
 * family as often as every other, where much can't be known: a closed line sounds the same in every detuning.
 */
export type Draw = 'practice' | 'even';

/** How often players of an instrument are in a family, and how far detuned, in parts of a hundred. */
const FREQUENT: Readonly<Record<TuningFamily, number>> = {
  standard: 45,
  detuned: 14,
  dropped: 18,
  open: 10,
  modal: 8,
  altered: 3,
  extended: 30,
  baritone: 30,
};

/** The usual tunings of a family, drawn seven times in ten where there are such. */
const USUAL: readonly string[] = [
  ...['standard', 'down-1', 'down-2', 'drop-d', 'drop-c', 'open-g', 'open-d', 'modal-dadgad'],
  ...['seven-standard', 'seven-drop-a', 'baritone-b', 'baritone-a'],
  ...['bass-standard', 'bass-down-1', 'bass-down-2', 'bass-drop-d', 'bass-drop-c', 'bass-bead', 'bass-5-standard'],
];

export interface Case {
  readonly idiom: string;
  readonly setup: Setup;
  readonly events: readonly PlaceEvent[];
  readonly wanted: readonly (readonly { readonly string: number; readonly fret: number }[])[];
  readonly question: FinderQuestion;
}

const IDIOMS: readonly Idiom[] = [...CLOSED, ...OPEN];
export const TUNED = IDIOMS.filter((_, i) => i % 2 === 0);
export const UNSEEN = IDIOMS.filter((_, i) => i % 2 === 1);

const GUITARS = ['guitar-6', 'guitar-6', 'guitar-6', 'acoustic-6', 'guitar-7', 'baritone-27'];
const BASSES = ['bass-4', 'bass-4', 'bass-5'];
const METERS = [{ bar: 0, beats: 4, unit: 4 }];

function setupFor(random: Random, idiom: Idiom, draw: Draw): Setup | null {
  const kinds = idiom.kinds === 'both' ? [...GUITARS, ...BASSES] : idiom.kinds === 'bass' ? BASSES : GUITARS;
  const instrument = INSTRUMENTS.find((one) => one.id === pick(random, kinds));
  if (!instrument) return null;
  const tunings = tuningsFor(instrument).filter((one) => idiom.families.includes(one.family));
  if (tunings.length === 0) return null;
  const families = [...new Set(tunings.map((one) => one.family))];
  const family = pick(
    random,
    draw === 'even' ? families : families.flatMap((one) => Array.from({ length: FREQUENT[one] }, () => one)),
  );
  const inFamily = tunings.filter((one) => one.family === family);
  const usual = inFamily.filter((one) => USUAL.includes(one.id));
  const tuning = pick(random, draw === 'practice' && usual.length > 0 && random() < 0.7 ? usual : inFamily);
  const open = tuningPitches(tuning);
  if (idiom.standardUpper) {
    const steps = open.slice(-5).map((midi, i, all) => (i ? midi - (all[i - 1] ?? 0) : 5));
    if (steps.join() !== '5,5,5,4,5') return null;
  }
  const capo = ['standard', 'open', 'modal'].includes(family) && random() < 0.2 ? 1 + Math.floor(random() * 7) : 0;
  return { instrument, tuningId: tuning.id, open, absent: [], capos: fullCapo(capo) };
}

/** So many phrases of each idiom; the clues come from what the hand did there. */
export function material(idioms: readonly Idiom[], each: number, seed: number, clued: boolean, draw: Draw): Case[] {
  return idioms.flatMap((idiom, i) => {
    const cases: Case[] = [];
    for (let k = 0; cases.length < each && k < each * 20; k++) {
      const random = randomOf(seed + i * 1009 + k * 31);
      const setup = setupFor(random, idiom, draw);
      if (!setup) continue;
      const desk = deskOf(random, setup);
      const strokes = [...idiom.write(desk), ...idiom.write(desk)];
      if (strokes.length < 12) continue;
      const { events, wanted } = phraseOf(setup, strokes);
      const clues = clued ? cluesOf(random, setup, events, wanted) : [];
      cases.push({
        ...{ idiom: idiom.name, setup, events, wanted },
        question: {
          ...{ events, clues, meters: METERS, tempo: [{ at: quarter(0), bpm: 100 }] },
          limits: { instruments: [setup.instrument] },
        },
      });
    }
    return cases;
  });
}

/**
 * What an instructor with good ears would say of it: up to three notes that sound open and two that don't, what rings
 * together, and a slack thick string where the tuning lets one hang.
 */
function cluesOf(random: Random, setup: Setup, events: readonly PlaceEvent[], wanted: Case['wanted']): Clue[] {
  const all = wanted.flatMap((notes, i) => notes.map(({ string, fret }, note) => ({ i, note, string, fret })));
  const clues: Clue[] = [];
  const pitchOf = (at: { i: number; note: number }): number => events[at.i]?.notes[at.note]?.pitch ?? 0;
  const some = (kind: 'open' | 'stopped', most: number): void => {
    let left = all.filter(({ fret }) => (fret === 0) === (kind === 'open'));
    for (let k = 0; k < most && left.length > 0; k++) {
      const at = pick(random, left);
      const event = events[at.i]?.id;
      if (event !== undefined) clues.push({ kind, event, note: at.note });
      left = left.filter((one) => pitchOf(one) !== pitchOf(at));
    }
  };
  some('open', 3);
  some('stopped', 2);
  const from = events.findIndex((event, i) => event.ring && events[i + 1]?.ring && events[i + 2]?.ring);
  if (from >= 0) clues.push({ kind: 'ring', events: [0, 1, 2].flatMap((k) => events[from + k]?.id ?? []) });
  const slack = all.find(({ string, fret }) => {
    const i = setup.open.length - string;
    return (
      fret <= 4 &&
      (setup.instrument.strings[i]?.pitch ?? 0) - (setup.open[i] ?? 0) >= 2 &&
      string >= setup.open.length - 1
    );
  });
  const event = slack && events[slack.i]?.id;
  if (slack && event !== undefined) clues.push({ kind: 'slack', event, note: slack.note });
  return clues;
}
