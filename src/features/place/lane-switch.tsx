'use client';

import { ToggleGroup } from 'radix-ui';
import { LANES, type LaneName } from '@/ui/draw/lanes';

/** Which lanes of the strip are shown; at least one stays. */
export function LaneSwitch({
  lanes,
  onChange,
}: {
  readonly lanes: ReadonlySet<LaneName>;
  readonly onChange: (lanes: ReadonlySet<LaneName>) => void;
}) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label="Lanes shown"
      value={[...lanes]}
      onValueChange={(list) => {
        if (list.length > 0) onChange(new Set(list as LaneName[]));
      }}
      className="flex text-sm"
    >
      {LANES.map((lane) => (
        <ToggleGroup.Item
          key={lane}
          value={lane}
          className="min-h-9 border-b-2 border-rule px-1.5 text-soft data-[state=on]:border-ink data-[state=on]:font-semibold data-[state=on]:text-ink"
        >
          {lane}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
