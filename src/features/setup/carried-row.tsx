import { useState } from 'react';
import type { CarriedRiff, CarryMode } from '@/core/carry';
import { setupWords, type Setup } from '@/core/instrument';
import { keyName, noteName, type Key } from '@/core/pitch';
import type { Riff } from '@/core/score';
import { Button } from '@/ui/button';
import { HandRibbon } from './hand-ribbon';

const SHOWN = 2;

const octaveWords = (octaves: number): string =>
  octaves === 0
    ? 'as it is'
    : `${Math.abs(octaves) === 1 ? 'an octave' : 'two octaves'} ${octaves < 0 ? 'lower' : 'higher'}`;

/** The same sentence once, with how often it is true. */
function counted(lines: readonly string[]): string[] {
  const times = new Map<string, number>();
  for (const line of lines) times.set(line, (times.get(line) ?? 0) + 1);
  return [...times].map(([line, n]) => (n > 1 ? `${line.replace(/\.$/, '')} (${n} times).` : line));
}

/** One set-up of the table; the whole list of what is lost opens beneath. */
export function CarriedRow({
  setup,
  from,
  riffs,
  carried,
  keep,
  octaves,
  substitute,
  onOctaves,
  onSubstitute,
  onEdition,
  onMove,
  onDelete,
}: {
  readonly setup: Setup;
  readonly from: Setup;
  readonly riffs: readonly Riff[];
  readonly carried: readonly CarriedRiff[] | null;
  readonly keep: CarryMode;
  readonly octaves: number | undefined;
  readonly substitute: boolean;
  readonly onOctaves: (octaves: number) => void;
  readonly onSubstitute: (on: boolean) => void;
  readonly onEdition: () => void;
  readonly onMove: () => void;
  readonly onDelete: () => void;
}) {
  const [open, setOpen] = useState(false);
  const name = setupWords(setup);
  const title = setup.instrument.id === from.instrument.id ? name : `${setup.instrument.name}: ${name}`;
  if (!carried)
    return (
      <tbody className="border-t border-rule">
        <tr>
          <td className="py-2 pr-4 font-semibold">{title}</td>
          <td colSpan={6} className="text-soft">
            Trying it with the hand…
          </td>
        </tr>
      </tbody>
    );
  const losses = carried.flatMap((one, i) => one.losses.map((loss) => ({ loss, riff: riffs[i]?.name ?? '' })));
  const sum = (of: (one: CarriedRiff) => number): number => carried.reduce((total, one) => total + of(one), 0);
  const offered = carried.flatMap((one) => one.substitutions);
  const first = carried[0];
  const lines = counted(losses.map(({ loss, riff }) => (carried.length > 1 ? `${riff}: ${loss.words}` : loss.words)));
  return (
    <tbody className="border-t border-rule align-top">
      <tr className="max-[899px]:flex max-[899px]:flex-col max-[899px]:gap-1 max-[899px]:py-2">
        <th scope="row" className="max-w-56 py-2 pr-4 text-left font-semibold">
          {title}
          {first && first.equal.length > 0 && first.equal.length < from.open.length ? (
            <span className="block text-sm font-normal text-soft">
              {first.equal.length === 1 ? 'string' : 'strings'} {first.equal.join('-')}{' '}
              {first.equal.length === 1 ? 'is' : 'are'} the same in both
            </span>
          ) : null}
        </th>
        <td className="py-2 pr-4">
          {keep === 'sound' && first ? (
            <select
              aria-label={`Octave on ${title}`}
              className="min-h-8 w-36 rounded-sm border border-line/70 bg-sheet px-1"
              value={octaves ?? first.octaves}
              onChange={(event) => onOctaves(Number(event.target.value))}
            >
              {first.offers.map((offer) => (
                <option key={offer.octaves} value={offer.octaves}>
                  {octaveWords(offer.octaves)}
                  {offer.missing > 0 ? `, ${offer.missing} missing` : ''}
                </option>
              ))}
            </select>
          ) : (
            <span className="text-soft">as its strings sound</span>
          )}
          <span className="block text-sm text-soft">{writtenWords(carried)}</span>
        </td>
        <td className="py-2 pr-4">
          {sum((one) => one.kept.places)} of {sum((one) => one.kept.notes)} on their string and fret
          {sum((one) => one.kept.wasOpen) > 0
            ? `; ${sum((one) => one.kept.open)} of ${sum((one) => one.kept.wasOpen)} open strings`
            : ''}
        </td>
        <td className="max-w-72 py-2 pr-4">
          {lines.length === 0 ? (
            <span className="text-proposed">nothing</span>
          ) : (
            <>
              <span className="font-semibold text-trouble">
                {losses.length} thing{losses.length === 1 ? '' : 's'}
              </span>
              <ul className="text-sm">
                {lines.slice(0, SHOWN).map((words, i) => (
                  <li key={i}>{words}</li>
                ))}
              </ul>
              {lines.length > SHOWN ? (
                <Button size="small" tone="word" aria-expanded={open} onClick={() => setOpen(!open)}>
                  {open ? 'Hide the list' : `All ${lines.length}`}
                </Button>
              ) : null}
            </>
          )}
          {offered.length > 0 ? (
            <label className="mt-1 flex items-start gap-1.5 text-sm">
              <input type="checkbox" checked={substitute} onChange={(event) => onSubstitute(event.target.checked)} />
              {offered.length} of them elsewhere: {offered[0]?.words}
            </label>
          ) : null}
        </td>
        <td className="py-2 pr-4">
          <HandRibbon
            before={carried.flatMap((one) => one.hands.before)}
            after={carried.flatMap((one) => one.hands.after)}
            label={`Hand positions before and after on ${title}`}
          />
          <span className="text-sm text-soft">
            effort {sum((one) => one.cost.before).toFixed(0)} → {sum((one) => one.cost.after).toFixed(0)}
            {worstWords(carried)}
          </span>
        </td>
        <td className="py-2 pr-4">{first ? keyWords(first) : ''}</td>
        <td className="py-2">
          <div className="flex flex-col items-start gap-1 whitespace-nowrap">
            <Button size="small" aria-label={`Make an edition for ${title}`} onClick={onEdition}>
              Make an edition
            </Button>
            <Button size="small" tone="quiet" aria-label={`Move this part to ${title}`} onClick={onMove}>
              Move this part
            </Button>
            <Button size="small" tone="word" aria-label={`Take ${title} off the table`} onClick={onDelete}>
              Off the table
            </Button>
          </div>
        </td>
      </tr>
      {open ? (
        <tr>
          <td colSpan={7} className="pb-3">
            <ul aria-label={`Lost or changed on ${title}`} className="columns-2 gap-8 text-sm max-[899px]:columns-1">
              {lines.slice(0, 200).map((words, i) => (
                <li key={i}>{words}</li>
              ))}
            </ul>
          </td>
        </tr>
      ) : null}
    </tbody>
  );
}

/** Guitar and bass are written an octave above what sounds: from where to where the notes stand on paper. */
function writtenWords(carried: readonly CarriedRiff[]): string {
  const pitches = carried
    .flatMap((one) => one.riff.events)
    .flatMap((event) => event.notes)
    .map((note) => note.pitch.midi + 12);
  if (pitches.length === 0) return '';
  const name = (midi: number): string => noteName(midi, { octave: true });
  return `written ${name(Math.min(...pitches))} to ${name(Math.max(...pitches))}`;
}

function worstWords(carried: readonly CarriedRiff[]): string {
  const bars = carried.flatMap((one) => one.worst).sort((a, b) => b.extra - a.extra);
  return bars.length > 0
    ? `; harder: bar${bars.length === 1 ? '' : 's'} ${bars
        .slice(0, 3)
        .map(({ bar }) => bar + 1)
        .join(', ')}`
    : '';
}

function keyWords({ keys }: CarriedRiff): string {
  const name = (key: Key | null): string => (key ? keyName(key) : '–');
  if (!keys.sounding.before) return 'not said';
  const sound = name(keys.sounding.after);
  const shape = name(keys.shape.after);
  return sound === shape ? `sounds ${sound}` : `sounds ${sound}, ${shape} shapes`;
}
