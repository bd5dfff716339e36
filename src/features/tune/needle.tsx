import type { Setup } from '@/core/instrument';
import { pitchLabel, stringLabel } from '@/core/schools';
import { type Shown, type Target } from '@/core/tuner';
import { TunerBeam } from '@/ui/draw/tuner-beam';
import { useSchools } from '@/ui/schools';
import { useWidth } from '@/ui/use-width';
import { type Source } from './tuner-session';

/** How far off a string is: the beam, the name that is nearest, and in words. */
export function Needle({
  shown,
  setup,
  targets,
  source,
}: {
  readonly shown: Shown | null;
  readonly setup: Setup;
  readonly targets: readonly Target[];
  readonly source: Source;
}) {
  const schools = useSchools();
  const [box, width] = useWidth();
  const target = targets.find((target) => target.string === shown?.string);
  const verdict = shown?.verdict ?? null;
  const say =
    verdict === null
      ? source === 'none'
        ? 'Choose what to hear'
        : 'Strike a string'
      : verdict === 'far'
        ? 'No string of this set-up is near'
        : verdict === 'in tune'
          ? '✓ in tune'
          : verdict === 'flat'
            ? '▲ flat: tune up'
            : '▼ sharp: tune down';
  return (
    <div
      ref={box}
      data-verdict={verdict ?? 'none'}
      data-string={shown?.string ?? ''}
      data-cents={shown ? shown.cents.toFixed(2) : ''}
      data-testid="needle"
    >
      <div className="flex items-baseline gap-5">
        <span className="min-w-28 font-figures text-5xl font-bold">
          {target ? stringLabel(setup, target.string, schools).main : '–'}
        </span>
        <span className="text-2xl text-soft">{target ? pitchLabel(target.midi, schools.notes) : ''}</span>
        <span
          className={`text-2xl font-bold ${verdict === 'in tune' ? 'text-proposed' : verdict === 'flat' || verdict === 'sharp' ? 'text-yours' : 'text-soft'}`}
        >
          {say}
        </span>
        <span className="ml-auto text-right font-figures text-3xl tabular-nums">
          {shown && verdict !== 'far' ? `${shown.cents >= 0 ? '+' : '−'}${Math.abs(shown.cents).toFixed(1)}` : ''}
          <span className="text-base text-soft"> {shown ? `cents, ${shown.hz.toFixed(1)} Hz` : ''}</span>
        </span>
      </div>
      {width > 0 ? (
        <TunerBeam cents={shown && verdict !== 'far' ? shown.cents : null} verdict={verdict} width={width} />
      ) : null}
    </div>
  );
}
