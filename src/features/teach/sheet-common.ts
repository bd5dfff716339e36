import type { Setup } from '@/core/instrument';
import type { TempoStep } from '@/core/time';

/** What every sheet shares: its paper, and what is said of tempo and of strings. */

export type Paper = 'A4' | 'letter';
export const PAPER: Record<Paper, { css: string; width: string; height: string }> = {
  A4: { css: 'A4', width: '210mm', height: '297mm' },
  letter: { css: 'letter', width: '215.9mm', height: '279.4mm' },
};

/** Pixels across a system of the sheet. */
export const SHEET_WIDTH = 690;

/** A tempo map in a line: "92 quarters a minute, slowing to 60". */
export function tempoWords(tempo: readonly TempoStep[]): string {
  // A step that only begins a change at the tempo there was needs no word of its own.
  const value = tempo.filter((step, i) => i === 0 || tempo[i - 1]?.ramp || step.bpm !== tempo[i - 1]?.bpm);
  const ramps = (i: number): boolean => {
    const next = value[i + 1];
    const at = next ? tempo.indexOf(next) : -1;
    return at > 0 && tempo[at - 1]?.ramp === true;
  };
  const [first, ...rest] = value;
  if (!first) return '';
  const steps = rest.map(
    (step, i) =>
      `${ramps(i) ? (step.bpm < (value[i]?.bpm ?? 0) ? 'slowing to' : 'rising to') : 'then'} ${Math.round(step.bpm * 10) / 10}`,
  );
  return [`${Math.round(first.bpm * 10) / 10} quarters a minute`, ...steps.slice(0, 4)].join(', ');
}

/** Said where it matters: only tuning up from what the strings are made for raises the tension. */
export function cautions(setup: Setup): string {
  const raised = setup.open.some((midi, i) => midi > (setup.instrument.strings[i]?.pitch ?? midi));
  return raised
    ? ' This tuning raises strings above what they are made for: a string can snap. Tune slowly, keep the face away, and ask a repairer before large changes.'
    : '';
}
