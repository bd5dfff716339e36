import { counted } from '@/core/base';
import type { ReactNode } from 'react';
import type { FormMap } from '@/core/form';
import { keyName } from '@/core/pitch';
import type { Piece } from '@/core/score';
import { bpmAt, swingWords } from '@/core/time';
import { useSchools } from '@/ui/schools';

/** What the whole stands in, at a glance: who plays, how long, in which keys, at which pulse. */
export function FormBand({
  piece,
  map,
  seconds,
  children,
}: {
  readonly piece: Piece;
  readonly map: FormMap;
  readonly seconds: number;
  readonly children: ReactNode;
}) {
  const schools = useSchools();
  const keys = [...new Set(map.keys.map((key) => keyName(key, schools.notes)))];
  const tempi = [...new Set(map.passes.map((pass) => Math.round(bpmAt(map.tempo, pass.from))))];
  const meters = [...new Set(map.meters.map((meter) => `${meter.beats}/${meter.unit}`))];
  const [feel] = map.feel;
  const whole = Math.round(seconds);
  const items = [
    [
      `${piece.parts.length} ${piece.parts.length === 1 ? 'part' : 'parts'}`,
      piece.parts.map((part) => part.name).join(', '),
    ],
    ['Form', `${counted(map.bars, 'bar')}, ${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`],
    ['Key', keys.length > 0 ? keys.join(', ') : 'not said'],
    [
      'Pulse',
      `${tempi.join(', ')}, ${meters.join(', ')}${feel ? `, ${feel.swing === 50 ? 'straight' : `swing ${swingWords(feel.swing)}`}` : ''}`,
    ],
  ] as const;
  return (
    <section
      aria-label="The whole"
      className="flex flex-wrap items-end gap-x-8 gap-y-1 border-b border-rule py-1.5 max-[899px]:gap-x-4"
    >
      {items.map(([name, value]) => (
        <div key={name} className="min-w-0">
          <p className="text-[13px] text-soft">{name}</p>
          <p className="font-semibold max-[899px]:text-[15px]">{value}</p>
        </div>
      ))}
      <div className="ml-auto flex flex-wrap items-center gap-2">{children}</div>
    </section>
  );
}
