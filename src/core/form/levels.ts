import { add, barStart, maxQuarter, quarter, type Quarter } from '../time';
import type { FormMap } from './map';

/** How loud a part is along the form, 1 as it is set: from `at` on, or changing evenly to the next step. */
export interface LevelStep {
  readonly at: Quarter;
  readonly gain: number;
  readonly ramp?: true;
}

/** Levels of a part's rows are out of 100; 80 leaves it as it is, as on the player. */
export const PLAIN_LEVEL = 80;
export const gainOf = (level: number): number => (level / PLAIN_LEVEL) ** 2;

/** The levels of a part by section, with what fades; none where nothing is said of any. */
export function levelsOf(map: FormMap, part: string): LevelStep[] {
  const out: LevelStep[] = [];
  for (const pass of map.passes) {
    const gain = gainOf(pass.section.rows.find((row) => row.part === part)?.level ?? PLAIN_LEVEL);
    if (out.at(-1)?.gain !== gain || out.at(-1)?.ramp) out.push({ at: pass.from, gain });
    const stop = pass.pass === pass.passes ? pass.entry?.stop : undefined;
    if (stop?.kind !== 'fade') continue;
    const from = maxQuarter(
      pass.from,
      barStart(map.meters, pass.firstBar + Math.max(0, pass.bars - Math.max(1, stop.bars))),
    );
    out.push({ at: from, gain, ramp: true }, { at: add(pass.to, quarter(-1, 96)), gain: 0 });
  }
  return out.every((step) => step.gain === 1) ? [] : out;
}
