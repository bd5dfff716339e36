import { Trash2 } from 'lucide-react';
import type { StringKind } from '@/core/instrument';
import { Button } from '@/ui/button';
import { numberOf, withString, type InstrumentDraft, type StringDraft } from './instrument-draft';

const KINDS: readonly (readonly [StringKind, string])[] = [
  ['plain', 'plain steel'],
  ['wound', 'wound steel'],
  ['nylon', 'plain nylon'],
  ['nylon-wound', 'wound nylon'],
];
const box =
  'w-full min-h-8 rounded-sm border border-line/70 bg-sheet px-2 font-figures text-[15px] aria-[invalid=true]:border-2 aria-[invalid=true]:border-trouble';

interface Props {
  readonly draft: InstrumentDraft;
  readonly onChange: (draft: InstrumentDraft) => void;
  /** Number of the string that is at fault. */
  readonly fault: number | null;
}

/** The strings of an instrument, thick to thin, a row each. */
export function StringTable({ draft, onChange, fault }: Props) {
  const set = (i: number, change: Partial<StringDraft>): void =>
    onChange({
      ...draft,
      strings: draft.strings.map((draft, index) => (index === i ? { ...draft, ...change } : draft)),
    });
  const count = draft.strings.length;
  return (
    <section aria-label="Strings" className="min-w-0">
      <div className="flex items-baseline gap-3 max-[899px]:flex-wrap">
        <h2 className="text-xl">Strings, thick to thin</h2>
        <Button size="small" disabled={count >= 12} onClick={() => onChange(withString(draft, 'thick'))}>
          Thicker string
        </Button>
        <Button size="small" disabled={count >= 12} onClick={() => onChange(withString(draft, 'thin'))}>
          Thinner string
        </Button>
      </div>
      {/* More columns than a phone has room for: the table is moved, not the page. */}
      <div className="relative overflow-x-auto">
        <table className="mt-2 w-full min-w-[34rem] text-[15px]">
          <thead className="text-left text-sm text-soft">
            <tr>
              <th className="w-8 font-semibold">No.</th>
              <th className="w-16 font-semibold">Made for</th>
              <th className="w-20 font-semibold">Gauge, mm</th>
              <th className="w-14 font-semibold">inch</th>
              <th className="w-32 font-semibold">Kind</th>
              <th className="w-24 font-semibold">kg/m</th>
              <th className="w-20 font-semibold">Length</th>
              <th className="font-semibold">Course</th>
              <th className="w-9">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {draft.strings.map((one, i) => {
              const string = count - i;
              const bad = fault === string ? true : undefined;
              const mm = numberOf(one.gauge);
              return (
                <tr key={string} className="border-t border-rule">
                  <td className="py-1 font-figures font-bold">{string}</td>
                  <td className="pr-2">
                    <input
                      aria-label={`String ${string} made for`}
                      aria-invalid={bad}
                      className={box}
                      value={one.pitch}
                      onChange={(event) => set(i, { pitch: event.target.value })}
                    />
                  </td>
                  <td className="pr-2">
                    <input
                      aria-label={`String ${string} gauge in mm`}
                      aria-invalid={bad}
                      inputMode="decimal"
                      className={box}
                      value={one.gauge}
                      onChange={(event) => set(i, { gauge: event.target.value })}
                    />
                  </td>
                  <td className="pr-2 font-figures text-soft">
                    {mm > 0 && mm < 5 ? (mm / 25.4).toFixed(3).replace(/^0/, '') : ''}
                  </td>
                  <td className="pr-2">
                    <select
                      aria-label={`String ${string} kind`}
                      className={`${box} font-text`}
                      value={one.kind}
                      onChange={(event) =>
                        set(i, { kind: KINDS.find(([one]) => one === event.target.value)?.[0] ?? 'plain' })
                      }
                    >
                      {KINDS.map(([one, name]) => (
                        <option key={one} value={one}>
                          {name}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="pr-2">
                    <input
                      aria-label={`String ${string} unit weight in kg/m`}
                      inputMode="decimal"
                      placeholder="formula"
                      className={`${box} placeholder:text-soft`}
                      value={one.weight}
                      onChange={(event) => set(i, { weight: event.target.value })}
                    />
                  </td>
                  <td className="pr-2">
                    <input
                      aria-label={`String ${string} own length in mm`}
                      inputMode="decimal"
                      placeholder="scale"
                      className={`${box} placeholder:text-soft`}
                      value={one.scale}
                      onChange={(event) => set(i, { scale: event.target.value })}
                    />
                  </td>
                  <td>
                    <span className="flex gap-1">
                      <select
                        aria-label={`String ${string} course`}
                        className={`${box} w-28! font-text`}
                        value={one.course}
                        onChange={(event) =>
                          set(i, {
                            course: event.target.value as StringDraft['course'],
                            courseGauge: one.courseGauge || one.gauge,
                            courseKind: one.course === 'none' ? one.kind : one.courseKind,
                          })
                        }
                      >
                        <option value="none">single</option>
                        <option value="unison">unison</option>
                        <option value="octave">octave</option>
                      </select>
                      {one.course === 'none' ? null : (
                        <>
                          <input
                            aria-label={`String ${string} second gauge in mm`}
                            inputMode="decimal"
                            className={`${box} w-20!`}
                            value={one.courseGauge}
                            onChange={(event) => set(i, { courseGauge: event.target.value })}
                          />
                          <select
                            aria-label={`String ${string} second kind`}
                            className={`${box} w-32! font-text`}
                            value={one.courseKind}
                            onChange={(event) =>
                              set(i, { courseKind: KINDS.find(([one]) => one === event.target.value)?.[0] ?? 'plain' })
                            }
                          >
                            {KINDS.map(([one, name]) => (
                              <option key={one} value={one}>
                                {name}
                              </option>
                            ))}
                          </select>
                        </>
                      )}
                    </span>
                  </td>
                  <td>
                    <Button
                      tone="quiet"
                      size="icon"
                      disabled={count <= 3}
                      aria-label={`Remove string ${string} from the instrument`}
                      onClick={() => onChange({ ...draft, strings: draft.strings.filter((_, index) => index !== i) })}
                    >
                      <Trash2 size={16} aria-hidden />
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-sm text-soft">
        A string taken off for one piece is a matter of its set-up: there the others keep their numbers. Unit weight as
        the maker states it goes before the formula; wound nylon needs it.
      </p>
    </section>
  );
}
