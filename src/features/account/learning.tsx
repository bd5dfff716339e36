'use client';

import { useEffect, useState } from 'react';
import type { CostTable } from '@/core/hand';
import { WEIGHTS, weightOf, type Score } from '@/core/place';
import type { KeptFit } from '@/server/repositories/learning';
import { Button } from '@/ui/button';
import { useRefresh } from '@/features/studio/studio';
import { useToast } from '@/ui/toast';
import { weightLabel } from './weight-words';
import { acceptFitAction, askFitAction, latestFitAction, setFitAsideAction } from './learning-actions';

interface Props {
  readonly counts: { readonly phrases: number; readonly notes: number };
  readonly initial: KeptFit | null;
  readonly onTry: (costs: CostTable) => void;
}

const RUNNING = ['waiting', 'working'];
/** Milliseconds between looks at a fit under way. */
const LOOK = 1000;

/**
 * Weights fitted to the places this studio chose itself: asked for, watched, looked into, and used only when
 * accepted.
 */
export function Learning({ counts, initial, onTry }: Props) {
  const toast = useToast();
  const refresh = useRefresh();
  const [fit, setFit] = useState(initial);
  const running = fit !== null && RUNNING.includes(fit.state);
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => void latestFitAction().then(setFit, () => undefined), LOOK);
    return () => clearInterval(timer);
  }, [running]);
  const ask = async (): Promise<void> => {
    const made = await askFitAction();
    if (made.ok) setFit(made.value);
    else toast(made.error.words);
  };
  const accept = async (): Promise<void> => {
    const done = fit && (await acceptFitAction(fit.id));
    if (done && !done.ok) toast(done.error.words);
    if (done?.ok) {
      setFit({ ...fit, state: 'accepted' } as KeptFit);
      refresh();
      toast(
        `Kept as version ${done.value.version}. New pieces are placed by it; others keep theirs until you choose it on their set-up page.`,
      );
    }
  };
  const leave = async (): Promise<void> => {
    if (fit && (await setFitAsideAction(fit.id))) setFit({ ...fit, state: 'set aside' });
  };
  return (
    <section aria-label="From your own choices" className="flex flex-col gap-3">
      <h2 className="text-xl">From your own choices</h2>
      <p className="text-[15px] text-soft">
        Places you lock are logged with what else there was:{' '}
        <b className="text-ink">
          {counts.notes} notes in {counts.phrases} phrase{counts.phrases === 1 ? '' : 's'}
        </b>{' '}
        so far. The program can look for weights that would have made more of your choices. Each weight in turn is tried
        smaller and larger; nothing is used unless you accept it.
      </p>
      {running ? (
        <div className="flex items-center gap-4">
          <progress aria-label="Fitting" max={1} value={fit.progress} className="h-2 w-56 accent-proposed" />
          <span className="font-figures">{Math.round(fit.progress * 100)} %</span>
          <Button size="small" onClick={() => void leave()}>
            Stop
          </Button>
        </div>
      ) : (
        <Button className="self-start" onClick={() => void ask()}>
          Look for my weights
        </Button>
      )}
      {fit?.state === 'failed' ? (
        <p role="alert" className="font-semibold text-trouble">
          The last search broke off. Ask again; nothing was changed.
        </p>
      ) : null}
      {fit?.state === 'done' && fit.result ? (
        <Proposal result={fit.result} onTry={onTry} onAccept={() => void accept()} onLeave={() => void leave()} />
      ) : null}
    </section>
  );
}

const share = (one: Score): string => `${one.same} of ${one.notes}`;

function Proposal({
  result,
  onTry,
  onAccept,
  onLeave,
}: {
  readonly result: NonNullable<KeptFit['result']>;
  readonly onTry: Props['onTry'];
  readonly onAccept: () => void;
  readonly onLeave: () => void;
}) {
  const changed = WEIGHTS(result.start).filter(
    (weight) => weightOf(result.start, weight) !== weightOf(result.costs, weight),
  );
  return (
    <div className="border-l-4 border-proposed pl-4">
      <p>
        <b>It would have placed {share(result.after)} of your notes as you did;</b> the weights you have now place{' '}
        {share(result.before)}.
      </p>
      <p className="text-[15px] text-soft">
        {result.unseen
          ? `On phrases left out while fitting: ${share(result.unseen.after)} against ${share(result.unseen.before)}. That is what to expect of new ones.`
          : 'There are too few phrases to leave some out and check on them: expect less of new ones.'}
      </p>
      {changed.length === 0 ? (
        <p className="mt-2">No weight would do better by being moved.</p>
      ) : (
        <table className="mt-2 text-[15px]">
          <thead className="text-left text-sm text-soft">
            <tr>
              <th className="pr-6 font-semibold">Weight</th>
              <th className="pr-6 text-right font-semibold">now</th>
              <th className="text-right font-semibold">proposed</th>
            </tr>
          </thead>
          <tbody>
            {changed.map((weight) => (
              <tr key={`${weight.name}${weight.index ?? ''}`} className="border-t border-rule">
                <td className="py-0.5 pr-6">{weightLabel(weight)}</td>
                <td className="pr-6 text-right font-figures">{weightOf(result.start, weight)}</td>
                <td className="text-right font-figures font-bold">{weightOf(result.costs, weight)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-3 flex gap-3">
        {changed.length > 0 ? (
          <Button tone="yours" onClick={onAccept}>
            Use these weights
          </Button>
        ) : null}
        {changed.length > 0 ? <Button onClick={() => onTry(result.costs)}>Try them on the phrase</Button> : null}
        <Button onClick={onLeave}>Set it aside</Button>
      </div>
    </div>
  );
}
