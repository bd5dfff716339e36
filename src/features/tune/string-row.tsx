import { Volume2 } from 'lucide-react';
import { type KeyboardEvent } from 'react';
import type { Setup } from '@/core/instrument';
import { pitchLabel, stringLabel } from '@/core/schools';
import { type Target } from '@/core/tuner';
import { Button } from '@/ui/button';
import { useSchools } from '@/ui/schools';

interface RowProps {
  readonly target: Target;
  readonly setup: Setup;
  readonly here: boolean;
  readonly cents: number | null;
  readonly fixed: boolean;
  readonly onFix: () => void;
  readonly onTone: () => void;
  readonly pegs: { readonly strike: () => void; readonly turn: (cents: number) => void } | null;
}

const KEYS: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowDown: -1, ArrowRight: 10, ArrowLeft: -10 };

/** One string to be tuned: its target, a tone to tune by, and at the simulated instrument its peg. */
export function StringRow({ target, setup, here, cents, fixed, onFix, onTone, pegs }: RowProps) {
  const schools = useSchools();
  const label = stringLabel(setup, target.string, schools);
  const name = `String ${target.string}`;
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = KEYS[event.key];
    if (!pegs || by === undefined) return;
    event.preventDefault();
    pegs.turn(by);
  };
  const good = cents !== null && Math.abs(cents) <= 4;
  return (
    <li className={`flex items-center gap-3 border-t border-rule py-1.5 ${here ? 'bg-chosen/40' : ''}`}>
      <b className="w-14 pl-1 font-figures text-lg whitespace-nowrap">{label.main}</b>
      <span className="w-12 font-figures">{pitchLabel(target.midi, schools.notes)}</span>
      <span className="w-24 text-right font-figures text-[15px] whitespace-nowrap text-soft">
        {target.hz.toFixed(2)} Hz
      </span>
      <Button size="small" aria-label={`${name}: reference tone`} onClick={onTone}>
        <Volume2 size={16} aria-hidden /> Tone
      </Button>
      <Button
        size="small"
        tone="quiet"
        aria-pressed={fixed}
        aria-label={`${name}: tune this one only`}
        onClick={onFix}
        className="aria-pressed:bg-chosen/60"
      >
        {fixed ? 'Only this' : 'Only'}
      </Button>
      {pegs ? (
        <span role="group" aria-label={`${name}: peg`} className="flex gap-1">
          <Button
            size="small"
            aria-label={`${name}: down ten cents`}
            onKeyDown={onKeyDown}
            onClick={() => pegs.turn(-10)}
          >
            −10
          </Button>
          <Button
            size="small"
            aria-label={`${name}: down one cent`}
            onKeyDown={onKeyDown}
            onClick={() => pegs.turn(-1)}
          >
            −1
          </Button>
          <Button size="small" aria-label={`${name}: strike`} onKeyDown={onKeyDown} onClick={pegs.strike}>
            Strike
          </Button>
          <Button size="small" aria-label={`${name}: up one cent`} onKeyDown={onKeyDown} onClick={() => pegs.turn(1)}>
            +1
          </Button>
          <Button size="small" aria-label={`${name}: up ten cents`} onKeyDown={onKeyDown} onClick={() => pegs.turn(10)}>
            +10
          </Button>
        </span>
      ) : null}
      <span
        className={`ml-auto w-16 pr-1 text-right font-figures whitespace-nowrap ${good ? 'font-bold text-proposed' : 'text-soft'}`}
      >
        {cents === null ? '' : `${good ? '✓ ' : ''}${cents >= 0 ? '+' : '−'}${Math.abs(cents).toFixed(1)}`}
      </span>
    </li>
  );
}
