import { Link } from '@/ui/link';
import type { ReactNode } from 'react';
import {
  capoWords,
  changesFromReference,
  nominalName,
  nutOf,
  openPitches,
  shapeShift,
  shapesHere,
  soundingName,
  stringNumbers,
  type Setup,
} from '@/core/instrument';
import { nameOf } from '@/core/harmony';
import type { Key } from '@/core/pitch';
import { keyLabels } from '@/core/schools';
import { useSchools } from '@/ui/schools';

interface Props {
  readonly setup: Setup;
  readonly keyShown: Key | null;
  readonly tempo: number;
  readonly meter: string;
  readonly href: string;
  /** What is chosen beside it. */
  readonly children?: ReactNode;
}

const signed = (n: number): string => (n === 0 ? '' : n > 0 ? `+${n}` : `−${-n}`);

/** The set-up at a glance: what each string really sounds above what it is called, shape beside sound. */
export function SetupBand({ setup, keyShown, tempo, meter, href, children }: Props) {
  const changes = changesFromReference(setup.instrument, setup.open);
  const shift = shapeShift(setup);
  const shapes = shapesHere(setup);
  const schools = useSchools();
  const names = keyShown ? keyLabels(keyShown, setup, schools) : null;
  const cell =
    'flex min-w-0 flex-col justify-center border-l border-rule px-4 first:border-l-0 first:pl-0 max-[899px]:px-2.5';
  return (
    <section
      aria-label="Set-up"
      className="flex items-stretch gap-0 border-b border-rule py-1.5 max-[899px]:flex-wrap max-[899px]:gap-y-1 max-[899px]:py-1"
    >
      <div className={cell}>
        <p className="text-[13px] text-soft max-[899px]:hidden">{setup.instrument.name}, thick to thin</p>
        <ul className="flex gap-3.5 max-[899px]:gap-2.5">
          {stringNumbers(setup).map((string) => {
            const change = (changes[setup.open.length - string] ?? 0) + nutOf(setup, string);
            const nominal = nominalName(setup, string, { naming: schools.notes });
            const sounding = soundingName(setup, string, { key: keyShown, naming: schools.notes });
            return (
              <li key={string} className="text-center">
                <b className={`font-figures text-lg leading-6 ${change === 0 ? '' : 'text-yours'}`}>{sounding}</b>
                <span className="block font-figures text-[13px] leading-4 text-soft">
                  {nominal}
                  {signed(change)}
                </span>
              </li>
            );
          })}
        </ul>
      </div>
      <div className={cell}>
        <p className="text-[13px] text-soft">capo</p>
        <b className="text-lg">{capoWords(setup)}</b>
      </div>
      {(schools.first === 'shape' ? (['shape', 'sound'] as const) : (['sound', 'shape'] as const)).map((which) => {
        if (which === 'shape' && shapes === null)
          return (
            <div key={which} className={cell}>
              <p className="text-[13px] text-soft">open strings</p>
              <b className="text-lg">{nameOf(openPitches(setup), keyShown, schools.notes) ?? 'no chord'}</b>
            </div>
          );
        if (which === 'shape') {
          return schools.keys === 'sound' ? null : (
            <div key={which} className={cell}>
              <p className="text-[13px] text-soft">shape</p>
              <b className="text-lg">{names ? names.shape : 'no key yet'}</b>
            </div>
          );
        }
        return schools.keys === 'shape' && shapes !== null ? null : (
          <div key={which} className={cell}>
            <p className="text-[13px] text-soft">sounds</p>
            <b className={`text-lg ${shift === 0 ? '' : 'text-yours'}`}>
              {names
                ? names.sound
                : shapes === null
                  ? 'no key yet'
                  : shift === 0
                    ? 'as named'
                    : `${signed(shift)} semitones${shapes.on === 'most' ? ' but the thickest' : ''}`}
            </b>
          </div>
        );
      })}
      <div className={cell}>
        <p className="text-[13px] text-soft">pulse</p>
        <b className="text-lg">
          {tempo}
          <span className="font-normal text-soft">, {meter}</span>
        </b>
      </div>
      {children ? <div className="ml-auto flex flex-wrap items-center gap-1.5 self-center">{children}</div> : null}
      <Link
        href={href}
        className="ml-auto self-center font-semibold max-[899px]:ml-2.5 underline decoration-line underline-offset-4"
      >
        Change the set-up
      </Link>
    </section>
  );
}
