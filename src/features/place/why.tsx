import { useEffect, useState } from 'react';
import type { Riff } from '@/core/score';
import { usePlacement } from '@/features/piece/provider';
import type { WhyAnswer } from '@/workers/place.worker';

/** What holding an event and moving to it cost, term by term; asked for when opened. */
export function Why({ riff, event }: { readonly riff: Riff; readonly event: number }) {
  const { keeper, version } = usePlacement();
  const [open, setOpen] = useState(false);
  const [answer, setAnswer] = useState<{ readonly riff: Riff; readonly event: number; readonly why: WhyAnswer } | null>(
    null,
  );
  useEffect(() => {
    if (!open || !keeper) return;
    let wanted = true;
    void keeper.why(riff, event).then((why) => {
      if (wanted && why) setAnswer({ riff, event, why });
    });
    return () => {
      wanted = false;
    };
  }, [open, keeper, version, riff, event]);
  const why = answer?.riff === riff && answer.event === event ? answer.why : null;
  return (
    <details className="text-[15px]" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="font-semibold">Why here: every cost</summary>
      {why === null ? (
        <p className="text-soft">Adding it up…</p>
      ) : (
        <table className="mt-1 w-full">
          <tbody>
            <Terms title="To hold it" terms={why.hold} />
            <Terms title="To get there" terms={why.move} />
          </tbody>
        </table>
      )}
    </details>
  );
}

function Terms({ title, terms }: { readonly title: string; readonly terms: WhyAnswer['hold'] }) {
  const sum = terms.reduce((n, one) => n + one.cost, 0);
  return (
    <>
      <tr className="border-t border-rule">
        <th scope="row" className="py-0.5 text-left font-semibold">
          {title}
        </th>
        <td className="text-right font-figures font-bold">{sum.toFixed(2)}</td>
      </tr>
      {terms.length === 0 ? (
        <tr>
          <td colSpan={2} className="text-soft">
            nothing
          </td>
        </tr>
      ) : null}
      {terms.map((one, i) => (
        <tr key={i}>
          <td className="pr-2 text-soft">{one.words}</td>
          <td className="text-right font-figures">{one.cost.toFixed(2)}</td>
        </tr>
      ))}
    </>
  );
}
