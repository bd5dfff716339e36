import type { Riff } from '@/core/score';
import { SelectField } from '@/ui/field';
import { BarRange, type Bars } from './bar-range';

/** What of a part is looked at: one of its riffs, some bars of it, or all of them. */
export function RiffChoice({
  label,
  riffs,
  which,
  bars,
  onWhich,
  onBars,
}: {
  readonly label: string;
  readonly riffs: readonly Riff[];
  /** The id of a riff, or "all". */
  readonly which: string;
  readonly bars: Bars | null;
  readonly onWhich: (which: string) => void;
  readonly onBars: (bars: Bars | null) => void;
}) {
  const one = riffs.find((riff) => riff.id === which);
  return (
    <>
      <div className="w-56">
        <SelectField
          label={label}
          value={which}
          onChange={(event) => {
            onWhich(event.target.value);
            onBars(null);
          }}
        >
          {riffs.map((riff) => (
            <option key={riff.id} value={riff.id}>
              {riff.name}
            </option>
          ))}
          {riffs.length > 1 ? <option value="all">the whole part</option> : null}
        </SelectField>
      </div>
      {one ? <BarRange riff={one} bars={bars} onChange={onBars} /> : null}
    </>
  );
}
