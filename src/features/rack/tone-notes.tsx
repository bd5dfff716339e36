import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { clockOf, readKnob, type Knob, type Tone } from '@/core/instrument';
import { Button } from '@/ui/button';
import { Dial } from '@/ui/draw/dial';
import { newTone } from './instrument-draft';

const box = 'min-h-8 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]';

/** How the instrument should sound: goals in words, knobs as numbers and clock places. */
export function ToneNotes({
  tones,
  onChange,
  title = 'Tone notes',
}: {
  readonly tones: readonly Tone[];
  readonly onChange: (tones: readonly Tone[]) => void;
  readonly title?: string;
}) {
  const set = (i: number, tone: Tone | null): void =>
    onChange(tones.flatMap((one, index) => (index === i ? (tone ? [tone] : []) : [one])));
  return (
    <section aria-label={title} className="flex flex-col gap-3">
      <div className="flex items-baseline gap-3">
        <h2 className="text-xl">{title}</h2>
        <Button size="small" onClick={() => onChange([...tones, newTone()])}>
          <Plus size={16} aria-hidden /> Sound
        </Button>
      </div>
      {tones.map((tone, i) => (
        <div key={i} className="flex flex-col gap-2 border-l-4 border-rule pl-3">
          <div className="flex gap-2 max-[600px]:flex-wrap">
            <input
              aria-label={`Sound ${i + 1} name`}
              className={`${box} w-40 font-bold`}
              value={tone.name}
              onChange={(event) => set(i, { ...tone, name: event.target.value })}
            />
            <input
              aria-label={`Sound ${i + 1} goal`}
              placeholder="what it should be, in words"
              className={`${box} min-w-0 flex-1 placeholder:text-soft`}
              value={tone.goal}
              onChange={(event) => set(i, { ...tone, goal: event.target.value })}
            />
            <Button tone="quiet" size="icon" aria-label={`Remove the sound ${tone.name}`} onClick={() => set(i, null)}>
              <X size={16} aria-hidden />
            </Button>
          </div>
          <ul className="flex flex-wrap gap-x-5 gap-y-2">
            {tone.knobs.map((knob, index) => (
              <KnobField
                key={`${index}${knob.device}${knob.knob}`}
                knob={knob}
                name={`Sound ${i + 1}, knob ${index + 1}`}
                onChange={(next) =>
                  set(i, {
                    ...tone,
                    knobs: tone.knobs.flatMap((one, other) => (other === index ? (next ? [next] : []) : [one])),
                  })
                }
              />
            ))}
            <li>
              <Button
                size="small"
                onClick={() =>
                  set(i, {
                    ...tone,
                    knobs: [...tone.knobs, { device: tone.knobs.at(-1)?.device ?? 'amp', knob: 'knob', value: 5 }],
                  })
                }
              >
                <Plus size={14} aria-hidden /> Knob
              </Button>
            </li>
          </ul>
        </div>
      ))}
    </section>
  );
}

function KnobField({
  knob,
  name,
  onChange,
}: {
  readonly knob: Knob;
  readonly name: string;
  readonly onChange: (knob: Knob | null) => void;
}) {
  const [device, setDevice] = useState(knob.device);
  const [label, setLabel] = useState(knob.knob);
  const [text, setText] = useState(String(knob.value));
  const [fault, setFault] = useState<string | null>(null);
  const keep = (): void => {
    const value = readKnob(text);
    setFault(value.ok ? null : value.error.words);
    if (!value.ok || device.trim() === '' || label.trim() === '') return;
    setText(String(value.value));
    if (value.value !== knob.value || device !== knob.device || label !== knob.knob)
      onChange({ device: device.trim(), knob: label.trim(), value: value.value });
  };
  return (
    <li className="flex items-center gap-1 max-[600px]:flex-wrap">
      <Dial value={knob.value} />
      <input
        aria-label={`${name} device`}
        className={`${box} w-20`}
        value={device}
        onChange={(event) => setDevice(event.target.value)}
        onBlur={keep}
      />
      <input
        aria-label={`${name} name`}
        className={`${box} w-20`}
        value={label}
        onChange={(event) => setLabel(event.target.value)}
        onBlur={keep}
      />
      <input
        aria-label={`${name} value, 0 to 10 or a clock place`}
        aria-invalid={fault ? true : undefined}
        title={fault ?? undefined}
        className={`${box} w-16 font-figures aria-[invalid=true]:border-trouble`}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
      />
      <span className="w-12 font-figures text-sm text-soft">{clockOf(knob.value)}</span>
      <Button tone="quiet" size="icon" className="size-7" aria-label={`Remove ${name}`} onClick={() => onChange(null)}>
        <X size={14} aria-hidden />
      </Button>
      {fault ? (
        <span role="alert" className="text-sm font-semibold text-trouble">
          {fault}
        </span>
      ) : null}
    </li>
  );
}
