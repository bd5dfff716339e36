import { useMemo } from 'react';
import { setFrame, stepAt, withFeel, withMeter, withRamp, withTempo, type FrameChange } from '@/core/command';
import { CLICKS, tempoOf } from '@/core/score';
import { barFindings, strokeFigures, strokesOf } from '@/core/rhythm';
import { pickingSchema, type Picking } from '@/core/schools';
import { barOf, barStart, bpmAt, cmp, meterAt, parseMeter, parseQuarter, swingWords, ZERO } from '@/core/time';
import { useSchools } from '@/ui/schools';
import { Button } from '@/ui/button';
import { SelectField } from '@/ui/field';
import type { BenchContext } from './commands';
import { Line } from './evidence';

const PICKING_WORDS: Readonly<Record<Picking, string>> = {
  alternate: 'alternate, by the grid',
  'by-note': 'alternate, by the note',
  economy: 'economy',
  down: 'all down',
  'off-up': 'off the beat up',
  fingers: 'fingers',
  slap: 'slap and pop',
};

/** The riff as a whole: meter, tempo, feel, clicks, how often; its strokes and whether its bars add up. */
export function RiffPanel({ desk }: { readonly desk: BenchContext }) {
  const { piece, riff, part, edit } = desk;
  const schools = useSchools();
  const frame = (change: FrameChange): boolean => edit(setFrame(piece, riff.id, change));
  const tempo = tempoOf(piece, riff);
  const school = riff.picking ?? schools.picking;
  const figures = useMemo(
    () => strokeFigures(riff, strokesOf(riff, part.setup, school), tempo),
    [riff, part.setup, school, tempo],
  );
  const sums = useMemo(() => barFindings(riff), [riff]);
  const feel = stepAt(
    riff.feel ?? [],
    barStart(riff.meters, desk.chosen.focus ? Math.max(0, barOf(riff.meters, desk.chosen.focus.at).bar) : 0),
  );
  const swing = feel?.swing ?? 50;
  const unit = feel?.unit ?? '1/2';
  const bar = desk.chosen.focus ? Math.max(0, barOf(riff.meters, desk.chosen.focus.at).bar) : 0;
  const here = barStart(riff.meters, bar);
  return (
    <section aria-label="The riff" className="flex flex-col gap-4">
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        <Line
          key={`n${riff.name}`}
          label="Name"
          initial={riff.name}
          check={(text) => (text === '' ? 'A riff needs a name.' : null)}
          onSave={(text) => frame({ name: text.slice(0, 120) })}
        />
        <Line
          key={`b${riff.bars}`}
          label="Bars"
          initial={String(riff.bars)}
          check={(text) => (/^\d+$/.test(text) && Number(text) >= 1 && Number(text) <= 2000 ? null : '1 to 2000.')}
          onSave={(text) => frame({ bars: Number(text) })}
        />
        <Line
          key={`m${bar}${JSON.stringify(riff.meters)}`}
          label={bar === 0 ? 'Meter' : `Meter from bar ${bar + 1}`}
          initial={`${meterAt(riff.meters, bar).beats}/${meterAt(riff.meters, bar).unit}`}
          check={(text) => (parseMeter(text) ? null : 'Such as 4/4 or 7/8.')}
          onSave={(text) => frame({ meters: withMeter(riff.meters, bar, parseMeter(text) ?? { beats: 4, unit: 4 }) })}
        />
        <Line
          key={`p${riff.pickup}`}
          label="Pickup, quarters"
          initial={riff.pickup}
          check={(text) => {
            const at = parseQuarter(text);
            return at !== null && !at.startsWith('-') ? null : 'Quarter notes, such as 1/2; 0 for none.';
          }}
          onSave={(text) => frame({ pickup: parseQuarter(text) ?? ZERO })}
        />
        <Line
          key={`t${here}${JSON.stringify(tempo)}`}
          label={bar === 0 ? 'Tempo, quarters a minute' : `Tempo from bar ${bar + 1}`}
          initial={String(Math.round(bpmAt(tempo, here) * 100) / 100)}
          check={(text) => (Number(text) >= 10 && Number(text) <= 500 ? null : '10 to 500.')}
          onSave={(text) => frame({ tempo: withTempo(tempo, here, Number(text)) })}
        />
        <SelectField
          label="From there"
          value={stepAt(tempo, here)?.ramp ? 'ramp' : 'hold'}
          disabled={!tempo.some((step) => cmp(step.at, here) > 0)}
          onChange={(event) => frame({ tempo: withRamp(tempo, here, event.target.value === 'ramp') })}
        >
          <option value="hold">held</option>
          <option value="ramp">changes evenly to the next</option>
        </SelectField>
        <Line
          key={`s${JSON.stringify(riff.feel ?? [])}${here}`}
          label={bar === 0 ? 'Swing, percent' : `Swing from bar ${bar + 1}`}
          hint={swingWords(swing)}
          initial={String(swing)}
          check={(text) =>
            Number(text) >= 50 && Number(text) <= 80 ? null : '50 is straight, 67 triplets, 80 the most.'
          }
          onSave={(text) => frame({ feel: withFeel(riff.feel, { at: here, swing: Number(text), unit }) })}
        />
        <SelectField
          label="Swung are"
          value={unit}
          onChange={(event) =>
            frame({ feel: withFeel(riff.feel, { at: here, swing, unit: event.target.value as '1/2' }) })
          }
        >
          <option value="1/2">eighths</option>
          <option value="1/4">sixteenths</option>
        </SelectField>
        <SelectField
          label="Clicks to a beat"
          value={String(riff.click ?? 1)}
          onChange={(event) => frame({ click: Number(event.target.value) === 1 ? null : Number(event.target.value) })}
        >
          {CLICKS.map((c) => (
            <option key={c} value={c}>
              {c === 0.5 ? 'every other beat' : c === 1 ? 'one' : c}
            </option>
          ))}
        </SelectField>
        <Line
          key={`r${riff.plays ?? ''}`}
          label="Played in all, times"
          initial={riff.plays === undefined ? '' : String(riff.plays)}
          hint={riff.plays === undefined ? 'nobody said yet' : ''}
          check={(text) =>
            text === '' || (/^\d+$/.test(text) && Number(text) >= 1 && Number(text) <= 999)
              ? null
              : 'A count, or nothing while it is unsaid.'
          }
          onSave={(text) => frame({ plays: text === '' ? null : Number(text) })}
        />
      </div>
      {riff.tempo ? (
        <Button size="small" onClick={() => frame({ tempo: null })}>
          Tempo of the piece instead
        </Button>
      ) : null}
      <section aria-label="Strokes" className="flex flex-col gap-2">
        <SelectField
          label="Strokes go"
          value={riff.picking ?? ''}
          onChange={(event) => frame({ picking: event.target.value === '' ? null : (event.target.value as Picking) })}
        >
          <option value="">as the school says: {PICKING_WORDS[schools.picking]}</option>
          {pickingSchema.options.map((path) => (
            <option key={path} value={path}>
              {PICKING_WORDS[path]}
            </option>
          ))}
        </SelectField>
        {figures.strokes > 0 ? (
          <p className="text-[15px]">
            {figures.strokes} strokes, {figures.fastest.toFixed(1)} a second at the fastest
            {figures.groups > 0
              ? `; ${figures.groups === 1 ? 'one stroke carries' : `${figures.groups} strokes carry`} several notes`
              : ''}
            .
            {figures.hardest
              ? ` Hardest run: ${figures.hardest.strokes} strokes at ${figures.hardest.perSecond.toFixed(1)} a second${figures.hardest.crossed > 0 ? `, ${figures.hardest.crossed} strings crossed` : ''}. `
              : ' '}
            {figures.hardest ? (
              <Button
                size="small"
                onClick={() => pickRun(desk, figures.hardest?.from ?? '', figures.hardest?.to ?? '')}
              >
                Choose it
              </Button>
            ) : null}
          </p>
        ) : (
          <p className="text-soft">No strokes yet.</p>
        )}
        {figures.hardest && figures.hardest.perSecond >= 8 ? (
          <p className="text-sm text-soft">
            Fast repetition strains the hand: short turns, rest between them, stop at pain; a clinician helps if it
            lasts.
          </p>
        ) : null}
      </section>
      <section aria-label="Bars" className="flex flex-col gap-1 text-[15px]">
        <h2 className="text-lg">Bars that don’t come out</h2>
        {sums.length === 0 ? (
          <p className="text-soft">Every bar is full, or its silence stands between notes.</p>
        ) : (
          sums.map((one) => (
            <p key={one.locus.bar}>
              <b>Bar {one.locus.bar + 1}</b>: {one.words}.
            </p>
          ))
        )}
      </section>
    </section>
  );
}

function pickRun(desk: BenchContext, from: string, to: string): void {
  const a = desk.riff.events.findIndex((event) => event.id === from);
  const b = desk.riff.events.findIndex((event) => event.id === to);
  if (a >= 0 && b >= a) desk.chosen.pick(desk.riff.events.slice(a, b + 1));
}
