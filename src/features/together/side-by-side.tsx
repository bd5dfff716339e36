import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useMemo, useState } from 'react';
import { ringingAt, silencesOf } from '@/core/arrange';
import { momentAt, type Line } from '@/core/form';
import { nameOf } from '@/core/harmony';
import { noteName } from '@/core/pitch';
import { spokenBeat } from '@/core/rhythm';
import { barStart, cmp, toNumber, type Quarter } from '@/core/time';
import { PartStrip } from '@/features/form/part-strip';
import type { LaneName } from '@/ui/draw/lanes';
import { Button } from '@/ui/button';
import { useSchools } from '@/ui/schools';

const LANES: ReadonlySet<LaneName> = new Set(['strings', 'count']);
const BARS = 2;

/** All parts bar by bar under each other, who is silent, and what rings at a moment on which string of whom. */
export function SideBySide({ lines }: { readonly lines: readonly Line[] }) {
  const schools = useSchools();
  const [bar, setBar] = useState(0);
  const [step, setStep] = useState(0);
  const map = lines[0]?.map;
  const silences = useMemo(() => silencesOf(lines), [lines]);
  // The moments of these bars in which anybody strikes a note.
  const moments = useMemo((): Quarter[] => {
    if (!map) return [];
    const [from, to] = [barStart(map.meters, bar), barStart(map.meters, Math.min(map.bars, bar + BARS))];
    const at = lines.flatMap((line) =>
      line.riff.events
        .filter((event) => event.notes.length > 0 && cmp(event.at, from) >= 0 && cmp(event.at, to) < 0)
        .map((event) => event.at),
    );
    return [...new Set(at)].sort(cmp);
  }, [lines, map, bar]);
  if (!map) return null;
  const at = moments[Math.min(step, moments.length - 1)];
  const rings = at === undefined ? [] : ringingAt(lines, at);
  const key = at === undefined ? null : momentAt(map, at).key;
  const chord =
    rings.length > 1
      ? nameOf(
          rings.map((one) => one.note.pitch.midi),
          key,
          schools.notes,
        )
      : null;
  const last = Math.floor((map.bars - 1) / BARS) * BARS;
  const go = (to: number): void => {
    setBar(Math.max(0, Math.min(last, to)));
    setStep(0);
  };
  const silent = (part: string): boolean =>
    silences.some((one) => one.part === part && one.from <= bar && one.to >= Math.min(map.bars, bar + BARS) - 1);
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <Button size="icon" aria-label="The bars before" disabled={bar === 0} onClick={() => go(bar - BARS)}>
          <ChevronLeft size={18} aria-hidden />
        </Button>
        <p className="min-w-56 text-center font-semibold" role="status">
          Bars {bar + 1} to {Math.min(map.bars, bar + BARS)} of {map.bars},{' '}
          {map.passes.findLast((pass) => pass.firstBar <= bar)?.section.name ?? ''}
        </p>
        <Button size="icon" aria-label="The next bars" disabled={bar >= last} onClick={() => go(bar + BARS)}>
          <ChevronRight size={18} aria-hidden />
        </Button>
        <label className="flex items-center gap-2 text-[15px]">
          bar
          <input
            type="number"
            min={1}
            max={map.bars}
            value={bar + 1}
            onChange={(event) => go(Math.floor((Number(event.target.value) - 1) / BARS) * BARS)}
            className="min-h-8 w-16 rounded-sm border border-line/70 bg-sheet px-1.5 text-right font-figures"
          />
        </label>
      </div>
      {lines.map((line) => (
        <div key={line.part.id} className="flex gap-3 max-[899px]:flex-col max-[899px]:gap-1">
          <h3 className="w-28 shrink-0 pt-2 text-[17px] leading-5">{line.part.name}</h3>
          {silent(line.part.id) ? (
            <p className="flex min-h-12 flex-1 items-center border border-dashed border-rule px-4 text-soft">
              silent here
            </p>
          ) : (
            <PartStrip line={line} bar={bar} bars={BARS} lanes={LANES}>
              {(time, height) =>
                at === undefined ? null : (
                  <span
                    aria-hidden
                    className="pointer-events-none absolute top-0 w-7 -translate-x-1/2 rounded-sm border-2 border-question/70"
                    style={{ left: time(toNumber(at)), height }}
                  />
                )
              }
            </PartStrip>
          )}
        </div>
      ))}
      <section
        aria-label="What rings"
        className="flex flex-wrap items-baseline gap-x-5 gap-y-2 border-t border-rule pt-3"
      >
        <h3 className="text-lg">What rings</h3>
        {moments.length === 0 ? (
          <p className="text-soft">Nobody strikes a note in these bars.</p>
        ) : (
          <label className="flex items-center gap-2 text-[15px]">
            at beat
            <select
              value={Math.min(step, moments.length - 1)}
              onChange={(event) => setStep(Number(event.target.value))}
              className="min-h-8 rounded-sm border border-line/70 bg-sheet px-1.5"
            >
              {moments.map((moment, i) => (
                <option key={moment} value={i}>
                  {momentAt(map, moment).bar + 1}, {spokenBeat(map.meters, moment)}
                </option>
              ))}
            </select>
          </label>
        )}
        {chord ? <p className="text-xl font-semibold">{chord}</p> : null}
        <ul className="flex w-full flex-wrap gap-x-8 gap-y-1 text-[15px]">
          {lines.map(({ part }) => {
            const own = rings.filter((one) => one.part === part.id);
            if (own.length === 0) return null;
            return (
              <li key={part.id}>
                <b>{part.name}</b>:{' '}
                {own
                  .map(
                    ({ note, struck }) =>
                      `${noteName(note.pitch.midi, { key, naming: schools.notes, octave: true })}${note.place ? ` on string ${note.place.string}${note.place.fret === 0 ? ', open' : ''}` : ''}${struck ? '' : ', still'}`,
                  )
                  .join('; ')}
              </li>
            );
          })}
        </ul>
      </section>
    </div>
  );
}
