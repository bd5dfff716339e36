'use client';

import { useEffect, useState } from 'react';
import { Link } from '@/ui/link';
import type { CheckFinding, SectionHarmony } from '@/core/check';
import { keyName } from '@/core/pitch';
import type { CheckKeeper } from '@/features/piece/checking';
import { useSchools } from '@/ui/schools';

const percent = (share: number): string => `${Math.round(share * 100)}%`;

/** Key, scale and chords of each section as they sound, beside what was said of them. */
export function HarmonyTable({
  piece,
  checker,
  findings,
}: {
  readonly piece: string;
  readonly checker: CheckKeeper | null;
  /** Asked anew with each answer of the check. */
  readonly findings: readonly CheckFinding[] | null;
}) {
  const { notes: naming } = useSchools();
  const [rows, setRows] = useState<readonly SectionHarmony[]>([]);
  useEffect(() => {
    let wanted = true;
    if (findings) void checker?.harmony().then((found) => wanted && setRows(found));
    return () => {
      wanted = false;
    };
  }, [checker, findings]);
  if (rows.length === 0) return null;
  return (
    <section aria-label="Harmony" className="flex flex-col gap-2">
      <h2 className="text-lg">Harmony as it sounds</h2>
      <ul className="flex flex-col divide-y divide-rule border-y border-rule text-[15px]">
        {rows.map((row) => {
          const [first, second] = row.keys;
          const same = first && row.said && keyName(first.key) === keyName(row.said);
          return (
            <li key={row.section} className="py-2">
              <p>
                <Link
                  href={`/pieces/${piece}/form?section=${row.section}`}
                  className="font-semibold underline decoration-line underline-offset-4"
                >
                  {row.name}
                </Link>
                {row.said ? `, said in ${keyName(row.said, naming)}` : ', no key said'}
              </p>
              {first ? (
                <p className="text-soft">
                  {same ? 'Sounds so' : `Sounds like ${keyName(first.key, naming)}`} ({percent(first.sure)})
                  {second && second.sure > 0.1 ? `, or ${keyName(second.key, naming)} (${percent(second.sure)})` : ''}
                  {row.scale
                    ? `; ${row.scale.name}${row.scale.outside.length > 0 ? ` but for ${row.scale.outside.slice(0, 5).join(', ')}` : ' throughout'}`
                    : ''}
                  .
                </p>
              ) : (
                <p className="text-soft">Nothing is played in it.</p>
              )}
              {row.chords.some((one) => one.sounding.length > 0) ? (
                <p className="text-soft">
                  {row.chords
                    .filter((one) => one.sounding.length > 0)
                    .slice(0, 12)
                    .map((one) => `bar ${one.bar} ${one.said}: ${one.sounding[0] ?? '?'}`)
                    .join('; ')}
                  {row.chords.length > 12 ? ' …' : ''}
                </p>
              ) : null}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
