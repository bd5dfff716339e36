import { stringNumbers, type RetunePlan, type Setup } from '@/core/instrument';
import { pitchLabel, stringLabel } from '@/core/schools';
import { useSchools } from '@/ui/schools';

/** Pegs to turn, in order: which, which way, by how much, to what. */
export function RetuneSteps({
  plan,
  setup,
  compact = false,
}: {
  readonly plan: RetunePlan;
  readonly setup: Setup;
  readonly compact?: boolean;
}) {
  const schools = useSchools();
  const Frame = compact ? 'div' : 'section';
  if (plan.steps.length === 0) return <p className="text-[15px] text-soft">Nothing to retune.</p>;
  return (
    <Frame aria-label={compact ? undefined : 'Retuning plan'}>
      {compact ? null : <h2 className="text-xl">Retuning, in this order</h2>}
      <ol className="mt-1 text-[15px]">
        {plan.steps.map((step, i) => (
          <li key={step.string} className="flex items-baseline gap-3 border-t border-rule py-1 first:border-t-0">
            <span className="w-5 font-figures text-soft">{i + 1}</span>
            <b className="w-10 font-figures whitespace-nowrap">
              {stringNumbers(setup).includes(step.string) ? stringLabel(setup, step.string, schools).main : step.string}
            </b>
            <span className="w-24 font-figures whitespace-nowrap">
              {pitchLabel(step.from, schools.notes)} → <b>{pitchLabel(step.to, schools.notes)}</b>
            </span>
            <span
              className={`${compact ? 'w-44' : ''} whitespace-nowrap ${step.direction === 'up' ? 'text-yours' : 'text-proposed'}`}
            >
              <span aria-hidden>{step.direction === 'up' ? '▲' : '▼'}</span> {step.direction} {Math.abs(step.semitones)}{' '}
              semitone
              {Math.abs(step.semitones) === 1 ? '' : 's'}
            </span>
            {compact ? null : (
              <span className="ml-auto font-figures whitespace-nowrap text-soft">{step.targetHz.toFixed(1)} Hz</span>
            )}
            {step.grade === 'stop' ? (
              <b className="text-trouble">stop</b>
            ) : step.grade === 'high' ? (
              <b className="text-question">high</b>
            ) : null}
          </li>
        ))}
      </ol>
      {compact
        ? null
        : plan.cautions.map((letter) => (
            <p key={letter} className="mt-2 border-l-4 border-trouble pl-3 text-[15px]">
              {letter}
            </p>
          ))}
      {compact ? null : (
        <p className="mt-2 text-sm text-soft">
          Go through them a second time: as the load on the neck changes, strings already set move a little.
        </p>
      )}
    </Frame>
  );
}
