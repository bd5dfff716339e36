import type { ReactNode } from 'react';
import type { Riff } from '@/core/score';

/** Bars of a riff from 0, both within. */
export interface Bars {
  readonly from: number;
  readonly to: number;
}

/** Some bars of a riff, by number. */
export function BarRange({
  riff,
  bars,
  onChange,
}: {
  readonly riff: Riff;
  readonly bars: Bars | null;
  readonly onChange: (bars: Bars | null) => void;
}) {
  const { from, to } = bars ?? { from: 0, to: riff.bars - 1 };
  const number = (label: string, value: number, set: (value: number) => void): ReactNode => (
    <label className="flex flex-col gap-1">
      <span className="text-sm font-semibold text-soft">{label}</span>
      <input
        type="number"
        min={1}
        max={riff.bars}
        value={value + 1}
        onChange={(event) => set(Math.max(0, Math.min(riff.bars - 1, Number(event.target.value) - 1 || 0)))}
        className="min-h-9 w-20 rounded-sm border border-line/70 bg-sheet px-2 text-right font-figures"
      />
    </label>
  );
  return (
    <>
      {number('From bar', from, (value) => onChange({ from: value, to: Math.max(value, to) }))}
      {number('To bar', to, (value) => onChange({ from: Math.min(from, value), to: value }))}
    </>
  );
}
