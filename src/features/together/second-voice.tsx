import { useMemo, useState } from 'react';
import {
  compareVoices,
  heldWords,
  semitoneWords,
  stepWords,
  type ComparedVoices,
  type VoiceInterval,
} from '@/core/arrange';
import type { Result } from '@/core/base';
import { voiceQuestion } from '@/core/check';
import { answerTo, voicePart } from '@/core/command';
import type { Edit } from '@/core/edit';
import { momentAt, type Line } from '@/core/form';
import { noteName } from '@/core/pitch';
import { spokenBeat } from '@/core/rhythm';
import { keyOf, type Piece } from '@/core/score';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { cn } from '@/ui/cn';
import { useSchools } from '@/ui/schools';
import { useToast } from '@/ui/toast';

const box = 'min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]';

/** Intervals offered: in the key where there is one, and fixed ones. */
const STEPS = [2, -2, 5, -5, 3, -3, 4, 7, -7] as const;
const FIXED = [12, -12, 7, 5, 4, 3, -3, -4, -5] as const;
const MOST_ROWS = 300;

/** A second voice made of a part, or the intervals between two that are there. */
export function SecondVoice({
  piece,
  lines,
  edit,
}: {
  readonly piece: Piece;
  readonly lines: readonly Line[];
  readonly edit: (made: Result<Edit>) => boolean;
}) {
  const toast = useToast();
  const schools = useSchools();
  const key = keyOf(piece, null);
  const [model, setModel] = useState(lines[0]?.part.id ?? '');
  const [choice, setChoice] = useState(key ? 'steps 2' : 'semitones 4');
  const [against, setAgainst] = useState<string | null>(lines[1]?.part.id ?? null);
  const [all, setAll] = useState(false);
  const mine = lines.find((line) => line.part.id === model);
  const theirs = lines.find((line) => line.part.id === against && line.part.id !== model);
  const compared = useMemo(
    () =>
      mine && theirs ? compareVoices(mine.riff.events, theirs.riff.events, (at) => momentAt(mine.map, at).key) : null,
    [mine, theirs],
  );
  const make = (): void => {
    const [by, size] = choice.split(' ');
    const interval: VoiceInterval =
      by === 'steps' && key ? { by: 'steps', steps: Number(size), key } : { by: 'semitones', semitones: Number(size) };
    const words = interval.by === 'steps' ? stepWords(interval.steps) : semitoneWords(interval.semitones);
    const made = voicePart(piece, model, interval, `${mine?.part.name ?? 'Part'}, ${words}`.slice(0, 120));
    if (!edit(made.ok ? { ok: true, value: made.value.edit } : made) || !made.ok) return;
    setAgainst(made.value.part);
    toast(made.value.remark ? `The second voice is there: ${made.value.remark}.` : 'The second voice is there.');
  };
  const rows = compared?.rows.filter((row) => all || row.deviates) ?? [];
  return (
    <div className="flex flex-col gap-5">
      <section aria-label="Make a second voice" className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col gap-0.5">
          <span className="text-sm font-semibold text-soft">Part</span>
          <select className={box} value={model} onChange={(event) => setModel(event.target.value)}>
            {lines.map(({ part }) => (
              <option key={part.id} value={part.id}>
                {part.name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col gap-0.5">
          <span className="text-sm font-semibold text-soft">Second voice</span>
          <select className={box} value={choice} onChange={(event) => setChoice(event.target.value)}>
            {key
              ? STEPS.map((steps) => (
                  <option key={steps} value={`steps ${steps}`}>
                    {stepWords(steps)}, in the key
                  </option>
                ))
              : null}
            {FIXED.map((semitones) => (
              <option key={`fixed ${semitones}`} value={`semitones ${semitones}`}>
                {semitoneWords(semitones)}, always
              </option>
            ))}
          </select>
        </label>
        <Button tone="yours" onClick={make}>
          Make it
        </Button>
        {key ? null : (
          <p className="text-[15px] text-soft">Say the key of the piece to have thirds and sixths in it.</p>
        )}
      </section>
      <section aria-label="Intervals between two parts" className="flex flex-col gap-2">
        <div className="flex flex-wrap items-center gap-3">
          <h3 className="text-lg">Intervals</h3>
          <label className="flex items-center gap-2 text-[15px]">
            of {mine?.part.name} with
            <select className={box} value={against ?? ''} onChange={(event) => setAgainst(event.target.value || null)}>
              <option value="">no other</option>
              {lines
                .filter(({ part }) => part.id !== model)
                .map(({ part }) => (
                  <option key={part.id} value={part.id}>
                    {part.name}
                  </option>
                ))}
            </select>
          </label>
          {compared ? (
            <label className="flex items-center gap-1.5 text-[15px] text-soft">
              <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} />
              all notes, not only what deviates
            </label>
          ) : null}
        </div>
        {compared && mine ? (
          <>
            <p role="status" className="text-[17px]">
              {heldWords(compared)}
            </p>
            {compared.alone.voice.length + compared.alone.model.length > 0 ? (
              <p className="text-[15px] text-soft">
                {compared.alone.model.length} notes of {mine.part.name} and {compared.alone.voice.length} of{' '}
                {theirs?.part.name} begin alone.
              </p>
            ) : null}
            {rows.length > 0 ? (
              <table className="max-w-3xl text-[15px]">
                <thead className="text-left text-sm text-soft">
                  <tr>
                    <th className="py-1 pr-6">Where</th>
                    <th className="pr-6">{mine.part.name}</th>
                    <th className="pr-6">{theirs?.part.name}</th>
                    <th>Interval</th>
                  </tr>
                </thead>
                <tbody>
                  {rows.slice(0, MOST_ROWS).map((row) => {
                    const name = (midi: number): string => noteName(midi, { key, naming: schools.notes, octave: true });
                    return (
                      <tr key={row.at} className="border-t border-rule">
                        <td className="py-1 pr-6">
                          bar {momentAt(mine.map, row.at).bar + 1}, beat {spokenBeat(mine.map.meters, row.at)}
                        </td>
                        <td className="pr-6 font-figures">{name(row.model.midi)}</td>
                        <td className="pr-6 font-figures">{name(row.voice.midi)}</td>
                        <td className={cn(row.deviates && 'text-question')}>
                          {semitoneWords(row.semitones)}
                          {row.deviates ? (
                            <Deviation {...{ piece, row }} held={compared.held} of={[mine, theirs]} />
                          ) : null}
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            ) : null}
            {rows.length > MOST_ROWS ? <p className="text-soft">and {rows.length - MOST_ROWS} more</p> : null}
          </>
        ) : (
          <p className="text-soft">Choose another part to see the intervals between the two.</p>
        )}
      </section>
    </div>
  );
}

/** Whether a deviating interval is meant: the same question the check asks, answered here or there. */
function Deviation({
  piece,
  row,
  held,
  of: [model, voice],
}: {
  readonly piece: Piece;
  readonly row: ComparedVoices['rows'][number];
  readonly held: ComparedVoices['held'];
  readonly of: readonly [Line, Line | null | undefined];
}) {
  const dispatch = usePiece((state) => state.dispatch);
  const event = voice?.origins.get(row.voice.event)?.event;
  if (!voice || event === undefined) return <>: meant?</>;
  const question = voiceQuestion({ event, part: voice.part.id, model: model.part.id, row, held });
  const meant = piece.answers?.some((one) => one.finding === question.id && one.ground === question.ground);
  return (
    <>
      {': '}
      <Button
        tone="word"
        size="small"
        aria-pressed={meant === true}
        onClick={() => dispatch(answerTo(question, meant ? null : 'meant'))}
      >
        {meant ? 'meant' : 'meant?'}
      </Button>
    </>
  );
}
