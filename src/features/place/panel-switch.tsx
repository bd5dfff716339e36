import { ToggleGroup } from 'radix-ui';

/** What stands under the strip where there is room for one thing only. */
export type Panel = 'none' | 'side' | 'neck' | 'calls' | 'shown';

const PANELS: readonly (readonly [Panel, string])[] = [
  ['none', 'Strip'],
  ['side', 'Note'],
  ['neck', 'Neck'],
  ['calls', 'Call'],
  ['shown', 'Lanes'],
];

/** On a phone: one panel at a time, chosen by the thumb. */
export function PanelSwitch({ panel, onPanel }: { readonly panel: Panel; readonly onPanel: (panel: Panel) => void }) {
  return (
    <section aria-label="Panels">
      <ToggleGroup.Root
        type="single"
        aria-label="Under the strip"
        value={panel}
        onValueChange={(value) => onPanel((value || 'none') as Panel)}
        className="flex border-t border-rule"
      >
        {PANELS.map(([value, name]) => (
          <ToggleGroup.Item
            key={value}
            value={value}
            className="-mt-px min-h-12 flex-1 border-t-2 border-transparent text-[15px] text-soft data-[state=on]:border-ink data-[state=on]:font-bold data-[state=on]:text-ink"
          >
            {name}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </section>
  );
}
