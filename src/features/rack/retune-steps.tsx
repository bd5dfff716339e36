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
        {plan.steps.map((s, i) => (
          <li key={s.string} className="flex items-baseline gap-3 border-t border-rule py-1 first:border-t-0">
            <span className="w-5 font-figures text-soft">{i + 1}</span>
            <b className="w-10 font-figures whitespace-nowrap">
              {stringNumbers(setup).includes(s.string) ? stringLabel(setup, s.string, schools).main : s.string}
            </b>
            <span className="w-24 font-figures whitespace-nowrap">
              {pitchLabel(s.from, schools.notes)} → <b>{pitchLabel(s.to, schools.notes)}</b>
            </span>
            <span
              className={`${compact ? 'w-44' : ''} whitespace-nowrap ${s.direction === 'up' ? 'text-yours' : 'text-proposed'}`}
            >
              <span aria-hidden>{s.direction === 'up' ? '▲' : '▼'}</span> {s.direction} {Math.abs(s.semitones)} semitone
              {Math.abs(s.semitones) === 1 ? '' : 's'}
            </span>
            {compact ? null : (
              <span className="ml-auto font-figures whitespace-nowrap text-soft">{s.targetHz.toFixed(1)} Hz</span>
            )}
            {s.grade === 'stop' ? (
              <b className="text-trouble">stop</b>
            ) : s.grade === 'high' ? (
              <b className="text-question">high</b>
            ) : null}
          </li>
        ))}
      </ol>
      {compact
        ? null
        : plan.cautions.map((c) => (
            <p key={c} className="mt-2 border-l-4 border-trouble pl-3 text-[15px]">
              {c}
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
