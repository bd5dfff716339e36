'use client';

import { fretWordsBy, stringWordsBy } from '@/core/schools';
import { useSchools } from '@/ui/schools';
import { useState } from 'react';
import type { Finger, Result } from '@/core/base';
import { lockAt, setFinger, setLength, setJoin, setLetRing, shiftPitch, unlock, type NoteRef } from '@/core/command';
import { type Join, type Note, type Part, type Piece, type Riff, type RiffEvent } from '@/core/score';
import type { Edit } from '@/core/edit';

import { stringNumbers } from '@/core/instrument';
import { noteName, type Key } from '@/core/pitch';
import type { Alternative } from '@/core/place';
import { placeInBars } from '@/core/rhythm';
import { lengthLabel } from '@/core/rhythm';
import { quarter, type Quarter } from '@/core/time';
import { Button } from '@/ui/button';
import { Techniques } from './techniques';
import { Why } from './why';
import { SelectField } from '@/ui/field';

interface Props {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
  /** Which event of the riff it belongs to. */
  readonly index: number;
  readonly keyShown: Key | null;
  readonly alternatives: readonly Alternative[] | null;
  readonly why: string | null;
  readonly edit: (made: Result<Edit>) => boolean;
  /** Whether the techniques are unfolded: it stays so from note to note. */
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
}

const LENGTHS: readonly Quarter[] = (
  [
    [4, 1],
    [3, 1],
    [2, 1],
    [3, 2],
    [1, 1],
    [3, 4],
    [2, 3],
    [1, 2],
    [3, 8],
    [1, 3],
    [1, 4],
    [1, 6],
    [1, 8],
  ] as const
).map(([n, d]) => quarter(n, d));

/** The note in focus: where it lies and why, every other place with its price, and what can be said of it. */
export function NotePanel({
  piece,
  part,
  riff,
  event,
  note,
  index,
  keyShown,
  alternatives,
  why,
  edit,
  open,
  onOpen,
}: Props) {
  const schools = useSchools();
  const ref: NoteRef = { riff: riff.id, event: event.id, note: note.id };
  const title = event.notes
    .map((note) => noteName(note.pitch.midi, { key: keyShown, naming: schools.notes }))
    .join(' ');
  const { place } = note;
  const dur = LENGTHS.includes(event.dur) ? LENGTHS : [event.dur, ...LENGTHS];
  const thickest = Math.max(...stringNumbers(part.setup));
  const stringWord = (s: number): string => {
    const words = stringWordsBy(part.setup, s, schools, keyShown);
    return words.charAt(0).toUpperCase() + words.slice(1);
  };
  return (
    <section aria-label="Note" className="flex flex-col gap-3">
      <h2 className="text-xl leading-tight">
        {title}
        <span className="font-text text-base font-normal text-soft">
          {' '}
          {event.grace
            ? `grace note, ${placeInBars(riff.meters, riff.events.slice(index).find((event) => !event.grace)?.at ?? event.at)}`
            : placeInBars(riff.meters, event.at)}
        </span>
      </h2>
      <ul className="divide-y divide-rule border-y border-rule">
        {alternatives === null ? <li className="py-2 text-soft">Weighing the places…</li> : null}
        {alternatives?.map((a) => {
          const here = place?.string === a.string && place.fret === a.fret;
          return (
            <li key={`${a.string}.${a.fret}`} className={here ? '-mx-2 bg-chosen/40 px-2 py-2' : 'py-2'}>
              <div className="flex items-baseline justify-between gap-2">
                <button
                  type="button"
                  disabled={a.extra === null && !here}
                  onClick={() => edit(lockAt(piece, ref, a.string, a.fret))}
                  className={`text-left font-semibold underline-offset-4 hover:underline disabled:opacity-60 ${here && place.locked ? 'text-yours' : ''}`}
                >
                  {stringWord(a.string)}, {fretWordsBy(part.setup, a.string, a.fret, schools.frets)}
                </button>
                <span className={`font-figures text-[15px] ${here && place.locked ? 'text-yours' : 'text-soft'}`}>
                  {here ? (place.locked ? 'yours' : 'proposed') : a.extra === null ? '—' : `+${a.extra.toFixed(1)}`}
                </span>
              </div>
              <p className="text-[15px] text-soft">
                {here && place.reason ? place.reason : here && a.extra === 0 && why ? why : a.reason}
              </p>
              {a.extra !== null && a.extra > 0.05 ? (
                <p className="font-figures text-sm text-soft">{splitWords(a)}</p>
              ) : null}
            </li>
          );
        })}
        {alternatives?.length === 0 ? (
          <li className="py-2 font-semibold text-trouble">This pitch is not on this neck.</li>
        ) : null}
      </ul>
      <Why riff={riff} event={index} />
      {note.evidence && note.evidence.basis === null && note.evidence.remark ? (
        <p className="text-[15px] text-soft">Kept with this note: “{note.evidence.remark}”</p>
      ) : null}
      {place && !place.locked && place.reason ? (
        <p className="text-[15px] text-soft">You once gave a reason for a place of this note: “{place.reason}”</p>
      ) : null}
      {place?.locked ? (
        <>
          <ReasonField
            key={`${note.id}${place.reason ?? ''}`}
            initial={place.reason ?? ''}
            onSave={(reason) => edit(lockAt(piece, ref, place.string, place.fret, reason))}
          />
          <Button size="small" onClick={() => edit(unlock(piece, ref))}>
            Let the program place it
          </Button>
        </>
      ) : null}
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        <SelectField
          label="Length"
          value={event.dur}
          onChange={(change) =>
            edit(setLength(piece, riff.id, [event.id], dur.find((at) => at === change.target.value) ?? event.dur))
          }
        >
          {dur.map((at) => (
            <option key={at} value={at}>
              {lengthLabel(at)}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Finger"
          value={place?.fingerBy === 'instructor' ? String(place.finger) : ''}
          disabled={!place || place.fret === 0}
          onChange={(event) =>
            edit(setFinger(piece, ref, event.target.value === '' ? null : (Number(event.target.value) as Finger)))
          }
        >
          <option value="">
            {place?.finger ? `${place.finger === 5 ? 'thumb' : place.finger}, proposed` : 'program’s choice'}
          </option>
          {[1, 2, 3, 4, ...(place?.string === thickest ? [5] : [])].map((f) => (
            <option key={f} value={f}>
              {f === 5 ? 'thumb' : f}, yours
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Goes on by"
          value={note.join ?? ''}
          onChange={(change) =>
            edit(
              setJoin(
                piece,
                riff.id,
                [event.id],
                change.target.value === '' ? null : (change.target.value as Join),
                event.notes.length > 1 ? note.id : null,
              ),
            )
          }
        >
          <option value="">picking anew</option>
          <option value="hammer">hammer-on</option>
          <option value="pull">pull-off</option>
          <option value="slide">slide</option>
          <option value="shift">slide, struck again</option>
        </SelectField>
        <SelectField
          label="Rings"
          value={event.letRing ? 'ring' : ''}
          onChange={(change) => edit(setLetRing(piece, riff.id, [event.id], change.target.value === 'ring'))}
        >
          <option value="">as written</option>
          <option value="ring">let ring</option>
        </SelectField>
        <div className="flex flex-col gap-1">
          <span className="text-sm font-semibold text-soft">Pitch</span>
          <div className="flex gap-1.5">
            <Button
              size="small"
              className="flex-1"
              aria-label="A semitone down"
              onClick={() => edit(shiftPitch(piece, ref, -1))}
            >
              −
            </Button>
            <Button
              size="small"
              className="flex-1"
              aria-label="A semitone up"
              onClick={() => edit(shiftPitch(piece, ref, 1))}
            >
              +
            </Button>
          </div>
        </div>
      </div>
      <details open={open} onToggle={(event) => onOpen(event.currentTarget.open)}>
        <summary className="font-semibold">Techniques</summary>
        {open ? (
          <div className="pt-2">
            <Techniques
              piece={piece}
              part={part}
              riff={riff}
              event={event}
              note={note}
              keyShown={keyShown}
              edit={edit}
            />
          </div>
        ) : null}
      </details>
    </section>
  );
}

/** Where the cost of another place falls: on this note, on what comes after, on what comes before. */
function splitWords({ now, later, before }: Alternative): string {
  const signed = (x: number): string => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(1)}`;
  return [
    `here ${signed(now)}`,
    Math.abs(later) >= 0.05 ? `after ${signed(later)}` : '',
    Math.abs(before) >= 0.05 ? `before ${signed(before)}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}

function ReasonField({ initial, onSave }: { readonly initial: string; readonly onSave: (reason: string) => void }) {
  const [text, setText] = useState(initial);
  return (
    <label className="flex flex-col gap-1 text-sm font-semibold text-soft">
      Your reason for this place
      <input
        value={text}
        maxLength={300}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (text !== initial) onSave(text);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
        }}
        className="min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px] font-normal text-ink"
      />
    </label>
  );
}
