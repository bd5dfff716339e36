import { locusWords } from '@/core/base';
import type { z } from 'zod';
import { bandLine, capoPairs, chordName, gripMeanings, planCapo, readKey, type CapoChoice } from '@/core/harmony';
import {
  baseNut,
  capoWords,
  changesFromReference,
  coincidences,
  nominalName,
  nutOf,
  openPitch,
  resolveTuning,
  retunePlan,
  sameStrings,
  shapeShift,
  spellTuning,
  stringNumbers,
  suggestGauges,
  tensionReport,
  type Instrument,
} from '@/core/instrument';
import { mono, readWav } from '@/core/formats/wav';
import { Ear } from '@/core/listen';
import { asciiPitch, keyName } from '@/core/pitch';
import { Needle, targetsOf } from '@/core/tuner';
import {
  CliFault,
  setupOf,
  type capoPlanInput,
  type setupInput,
  type tensionInput,
  type tuneOptions,
} from '../schemas';

/** Resolves and describes a set-up, and plans the retuning from another tuning. */
export function describeSetup(input: z.infer<typeof setupInput>): unknown {
  const { setup, assumed } = setupOf(input.setup);
  const changes = changesFromReference(setup.instrument, setup.open);
  const from = input.from === undefined ? null : resolveTuning(input.from, setup.instrument);
  if (from && !from.ok) throw new CliFault(from.error.rule, from.error.words, `from, ${locusWords(from.error.locus)}`);
  const start = from?.value.open ?? setup.instrument.strings.map((string) => string.pitch);
  return {
    setup,
    spelling: spellTuning(setup.open, setup.absent, setup.signs),
    capo: capoWords(setup),
    shapeShift: shapeShift(setup),
    base: baseNut(setup),
    strings: stringNumbers(setup).map((string) => {
      const i = setup.open.length - string;
      return {
        string,
        nominal: nominalName(setup, string),
        open: setup.open[i],
        name: asciiPitch(setup.open[i] ?? 0),
        nut: nutOf(setup, string),
        sounds: openPitch(setup, string),
        change: changes[i],
      };
    }),
    coincide: coincidences(setup.open, setup.absent),
    grips: gripMeanings(setup).map(({ name, moved, sounds, odd }) => ({ name, moved, sounds, odd })),
    same: sameStrings(start, setup.open),
    retune: retunePlan(setup.instrument, start, setup.open, setup.absent),
    ...(assumed ? { assumed } : {}),
  };
}

/** Tension of every string, with those of the input put on first. */
export function tension(input: z.infer<typeof tensionInput>): unknown {
  const { setup } = setupOf(input.setup);
  const count = setup.instrument.strings.length;
  for (const [i, one] of input.strings.entries()) {
    if (one.string > count)
      throw new CliFault(
        'no-string',
        `There is no string ${one.string}; this instrument has ${count}.`,
        `strings.${i}.string`,
      );
  }
  const instrument: Instrument = {
    ...setup.instrument,
    strings: setup.instrument.strings.map((was, i) => {
      const put = input.strings.find((one) => one.string === count - i);
      return put
        ? {
            pitch: was.pitch,
            scaleMm: was.scaleMm,
            gaugeMm: put.diameterMm,
            kind: put.kind,
            unitWeight: put.unitWeightKgPerM,
          }
        : was;
    }),
  };
  const { strings, total, reference } = tensionReport(instrument, setup.open, setup.absent, input.a4);
  return { strings, total, reference, suggested: suggestGauges(instrument, setup.open, setup.absent) };
}

const choiceOut = (choice: CapoChoice) => ({
  capo: choice.capo,
  shapeKey: choice.shapeKey ? keyName(choice.shapeKey) : null,
  score: choice.score,
  openGrips: choice.openGrips,
  why: choice.why,
  chords: choice.chords.map((chord) => ({
    sounding: chordName(chord.sounding),
    shape: chordName(chord.shape),
    frets: chord.frame?.frets ?? null,
    fingers: chord.frame?.fingers ?? null,
    open: chord.frame?.isOpen ?? false,
  })),
});

/** Capo places for a key or chords, best first, with pairs for two guitars and the line for the band. */
export function capoPlan(input: z.infer<typeof capoPlanInput>): unknown {
  const { setup } = setupOf(input.setup);
  const key = input.key === undefined ? null : readKey(input.key);
  if (key && !key.ok) throw new CliFault(key.error.rule, key.error.words, 'key');
  const plan = planCapo({ setup, chords: input.chords, key: key?.value ?? null, maxCapo: input.maxCapo });
  if (!plan.ok) throw new CliFault(plan.error.rule, plan.error.words, locusWords(plan.error.locus) || 'chords');
  return {
    choices: plan.value.map((choice) => ({ ...choiceOut(choice), band: bandLine(choice, key?.value ?? null) })),
    pairs: capoPairs(plan.value).map((one) => ({ first: one.first.capo, second: one.second.capo, score: one.score })),
  };
}

/** What a tuner shows over a recording of single strings. */
export function tune(bytes: Uint8Array, options: z.infer<typeof tuneOptions>): unknown {
  const { setup } = setupOf({ instrument: options.instrument, tuning: options.tuning, capo: options.capo });
  const wav = readWav(bytes);
  if (!wav.ok) throw new CliFault(wav.error.rule, wav.error.words, locusWords(wav.error.locus) || undefined);
  const { rate } = wav.value;
  const sound = mono(wav.value);
  const ear = new Ear(rate);
  const needle = new Needle(targetsOf(setup, true, options.a4));
  const readings = [];
  for (let i = 0; i < sound.length; i += 1024) {
    for (const hearing of ear.push(sound.subarray(i, i + 1024))) {
      const { string, cents, verdict, steady } = needle.hear(hearing);
      readings.push({
        at: round(hearing.at, 3),
        hz: round(hearing.hz, 3),
        clarity: round(hearing.clarity, 3),
        string,
        cents: round(cents, 2),
        verdict,
        steady,
      });
    }
  }
  return { seconds: round(sound.length / rate, 3), rate, readings };
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));
