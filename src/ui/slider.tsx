import { Slider as Radix } from 'radix-ui';
import { cn } from './cn';

/** One value between two ends, by pointer or arrows. */
export function Slider({
  label,
  value,
  min,
  max,
  step = 1,
  onValue,
  className,
}: {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly step?: number;
  readonly onValue: (value: number) => void;
  readonly className?: string;
}) {
  return (
    <Radix.Root
      value={[value]}
      onValueChange={([v]) => onValue(v ?? value)}
      min={min}
      max={max}
      step={step}
      className={cn('relative flex h-9 w-20 items-center', className)}
    >
      <Radix.Track className="relative h-1 flex-1 rounded bg-rule">
        <Radix.Range className="absolute h-1 rounded bg-proposed" />
      </Radix.Track>
      <Radix.Thumb aria-label={label} className="block size-5 rounded-full border-2 border-proposed bg-sheet" />
    </Radix.Root>
  );
}
