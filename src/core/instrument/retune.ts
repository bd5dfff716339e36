import type { Hertz, Midi, Newtons, Semitones, StringNumber } from '../base';
import { frequency } from '../pitch';
import { tensionReport, type TensionGrade } from './tension';
import type { Instrument } from './types';

/** One peg to turn. */
export interface RetuneStep {
  readonly string: StringNumber;
  readonly from: Midi;
  readonly to: Midi;
  /** Signed: above 0 is up. */
  readonly semitones: Semitones;
  readonly direction: 'down' | 'up';
  readonly targetHz: Hertz;
  /** Grade at the target; null where the weight of the string can't be known. */
  readonly grade: TensionGrade | null;
}

export interface RetunePlan {
  readonly steps: readonly RetuneStep[];
  readonly moved: number;
  readonly semitones: number;
  /** Change of the neck's whole load. */
  readonly loadChange: Newtons;
  readonly cautions: readonly string[];
}

/**
 * How to go from one tuning to another: which peg, which way, by how much, to what. Strings that go
 * down come first, from thick to thin, so that the neck never bears more than it must; then those that
 * go up, from thin changes to large, the largest rise last. Strings taken off are left out.
 */
export function retunePlan(
  instrument: Instrument,
  from: readonly Midi[],
  to: readonly Midi[],
  absent: readonly StringNumber[] = [],
  a4: Hertz = 440,
): RetunePlan {
  const after = tensionReport(instrument, to, absent, a4);
  const before = tensionReport(instrument, from, absent, a4);
  const worst = (string: StringNumber): TensionGrade | null => {
    const grades = after.strings.filter((row) => row.string === string).map((row) => row.grade);
    return grades.find((one) => one === 'stop') ?? grades.find((one) => one === 'high') ?? grades[0] ?? null;
  };
  const steps = to.flatMap((target, i): RetuneStep[] => {
    const string = to.length - i;
    const now = from[i] ?? target;
    if (now === target || absent.includes(string)) return [];
    return [
      {
        string,
        from: now,
        to: target,
        semitones: target - now,
        direction: target < now ? 'down' : 'up',
        targetHz: frequency(target, 0, a4),
        grade: worst(string),
      },
    ];
  });
  const down = steps.filter((step) => step.semitones < 0);
  const up = steps
    .filter((step) => step.semitones > 0)
    .sort((a, b) => a.semitones - b.semitones || b.string - a.string);
  const loadChange = after.total - before.total;
  return {
    steps: [...down, ...up],
    moved: steps.length,
    semitones: steps.reduce((n, step) => n + Math.abs(step.semitones), 0),
    loadChange,
    cautions: cautionsFor(up, loadChange, before.reference),
  };
}

function cautionsFor(up: readonly RetuneStep[], loadChange: Newtons, reference: Newtons): string[] {
  const out: string[] = [];
  const stop = up.filter((step) => step.grade === 'stop');
  if (stop.length > 0)
    out.push(
      `Don't: string ${stop.map((step) => step.string).join(' and ')} would be near breaking. Put on a thinner string first.`,
    );
  if (up.length > 0)
    out.push('Strings that go up can snap: keep the face away, protect the eyes, raise in small steps.');
  if (loadChange > reference * 0.15)
    out.push('The neck bears clearly more: have a qualified repairer look at it before it stays that way.');
  if (loadChange < -reference * 0.25)
    out.push('The neck bears clearly less: strings may buzz; a lasting change needs a set-up by a qualified repairer.');
  return out;
}

/** Which strings, by number, sound the same open in two tunings: grips on those alone carry over. */
export const sameStrings = (a: readonly Midi[], b: readonly Midi[]): StringNumber[] =>
  a.flatMap((midi, i) => (midi === b[i] ? [a.length - i] : []));
