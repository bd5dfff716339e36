import { SlidersHorizontal } from 'lucide-react';
import type { Part, Riff } from '@/core/score';
import { BACKINGS } from '@/core/synth';
import { Button } from '@/ui/button';
import { Popover } from '@/ui/popover';
import { Slider } from '@/ui/slider';
import { Switch } from '@/ui/switch';
import type { Ladder, Strip } from './sound-settings';
import { CLICK, stripOf, type Sounds } from './sounds';

const pick = 'min-h-8 rounded-sm border border-rule bg-sheet px-2 text-[15px]';
const COUNTS: readonly (readonly [0 | 1 | 2, string])[] = [
  [0, 'nothing'],
  [1, 'one bar'],
  [2, 'two bars'],
];

/** What sounds with the riff, how loud, how it is counted, and how the tempo climbs. */
export function SoundsPanel({
  sounds,
  riff,
  onSave,
}: {
  readonly sounds: Sounds;
  readonly riff: Riff;
  readonly onSave: () => void;
}) {
  const { settings, change, voices, others } = sounds;
  const set = (id: string, some: Partial<Strip>): void =>
    change({ strips: { ...settings.strips, [id]: { ...stripOf(settings, id), ...some } } });
  const { ladder } = settings;
  const rung = (some: Partial<Ladder>): void => change({ ladder: { ...ladder, ...some } });
  return (
    <Popover
      title="What sounds"
      trigger={
        <Button>
          <SlidersHorizontal size={16} aria-hidden /> Sounds
        </Button>
      }
    >
      <div className="flex w-[31rem] flex-col gap-3 text-[15px]">
        <section aria-label="Parts" className="flex flex-col gap-1">
          <h3 className="text-base">What sounds</h3>
          <ul className="flex flex-col">
            {voices.map(({ id, name }) => {
              const { level, muted, solo } = stripOf(settings, id);
              return (
                <li key={id} className="flex items-center gap-2">
                  <span className="min-w-0 flex-1 truncate">{name}</span>
                  <Slider
                    label={`Level of ${name}`}
                    value={level}
                    min={0}
                    max={100}
                    onValue={(v) => set(id, { level: v })}
                    className="w-24"
                  />
                  <span className="w-8 text-right font-figures">{level}</span>
                  <Switch small on={muted} onSwitch={(on) => set(id, { muted: on })} label={`Mute ${name}`}>
                    Mute
                  </Switch>
                  {id === CLICK ? (
                    <span className="w-[3.25rem]" />
                  ) : (
                    <Switch small on={solo} onSwitch={(on) => set(id, { solo: on })} label={`Only ${name}`}>
                      Only
                    </Switch>
                  )}
                </li>
              );
            })}
          </ul>
          {others.map((one) => (
            <Beside
              key={one.id}
              part={one}
              name={riff.name}
              value={settings.beside[one.id] ?? ''}
              onValue={(id) => change({ beside: { ...settings.beside, [one.id]: id } })}
            />
          ))}
        </section>
        <section aria-label="Backing" className="flex flex-wrap items-center gap-2 border-t border-rule pt-3">
          <span className="mr-1">To play along with</span>
          {BACKINGS.map((b) => (
            <Switch
              small
              key={b}
              on={settings.backing.includes(b)}
              onSwitch={(on) =>
                change({ backing: BACKINGS.filter((x) => (x === b ? on : settings.backing.includes(x))) })
              }
            >
              {b === 'bass' ? 'a bass' : 'chords'}
            </Switch>
          ))}
          {sounds.chordWords ? (
            <p className="w-full text-sm text-soft">
              {sounds.chordsSaid ? 'The chords as written over the bars' : 'Taken from what is written'}:{' '}
              <b className="text-ink">{sounds.chordWords}</b>
            </p>
          ) : null}
        </section>
        <section aria-label="Counting" className="flex flex-wrap items-center gap-2 border-t border-rule pt-3">
          <label className="flex items-center gap-2">
            Count in{' '}
            <select
              className={pick}
              value={settings.countIn}
              onChange={(event) => change({ countIn: Number(event.target.value) as 0 | 1 | 2 })}
            >
              {COUNTS.map(([n, words]) => (
                <option key={n} value={n}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <Switch small on={settings.double} onSwitch={(on) => change({ double: on })}>
            click twice as often
          </Switch>
        </section>
        <section
          aria-label="Tempo ladder"
          className="flex flex-wrap items-center gap-x-2 gap-y-1 border-t border-rule pt-3"
        >
          <Switch small on={ladder.on} onSwitch={(on) => rung({ on })}>
            Climb
          </Switch>
          from <Percent label="from, in percent" value={ladder.from} onValue={(from) => rung({ from })} /> to{' '}
          <Percent label="to, in percent" value={ladder.to} onValue={(to) => rung({ to })} /> % by{' '}
          <Percent label="by, in percent" value={ladder.step} min={1} max={50} onValue={(step) => rung({ step })} />,{' '}
          <Percent label="times each" value={ladder.times} min={1} max={32} onValue={(times) => rung({ times })} />{' '}
          times each
          <p className="w-full text-sm text-soft">
            With the loop on. Rest your hands between climbs; where it hurts, stop.
          </p>
        </section>
        {(riff.alternatives ?? []).length > 0 ? (
          <section aria-label="In turn" className="flex items-center gap-2 border-t border-rule pt-3">
            <label className="flex min-w-0 items-center gap-2">
              In turn with{' '}
              <select
                className={pick}
                value={settings.turn ?? ''}
                onChange={(event) => change({ turn: event.target.value || null })}
              >
                <option value="">nothing, as written</option>
                {riff.alternatives?.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            </label>
          </section>
        ) : null}
        <Button size="small" className="self-start" onClick={onSave}>
          Save as WAV
        </Button>
      </div>
    </Popover>
  );
}

/** Which riff of another part sounds along; those of the same name come first. */
function Beside({
  part,
  name,
  value,
  onValue,
}: {
  readonly part: Part;
  readonly name: string;
  readonly value: string;
  readonly onValue: (riff: string) => void;
}) {
  const riffs = part.riffs
    .filter((riff) => riff.events.length > 0)
    .sort((a, b) => Number(b.name === name) - Number(a.name === name));
  return (
    <label className="flex items-center gap-2">
      <span className="min-w-0 flex-1 truncate">With {part.name}</span>
      <select className={pick} value={value} onChange={(event) => onValue(event.target.value)}>
        <option value="">silent</option>
        {riffs.map((riff) => (
          <option key={riff.id} value={riff.id}>
            {riff.name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A figure that is taken when it is left or Enter is pressed, kept within its ends. */
function Percent({
  label,
  value,
  min = 25,
  max = 150,
  onValue,
}: {
  readonly label: string;
  readonly value: number;
  readonly min?: number;
  readonly max?: number;
  readonly onValue: (value: number) => void;
}) {
  return (
    <input
      key={value}
      type="number"
      aria-label={label}
      defaultValue={value}
      min={min}
      max={max}
      className="min-h-8 w-16 rounded-sm border border-rule bg-sheet px-1.5 text-right font-figures text-[15px]"
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
      onBlur={(event) => {
        const n = Math.round(Number(event.currentTarget.value));
        onValue(Number.isFinite(n) && event.currentTarget.value !== '' ? Math.max(min, Math.min(max, n)) : value);
        event.currentTarget.value = String(Number.isFinite(n) ? Math.max(min, Math.min(max, n)) : value);
      }}
    />
  );
}
