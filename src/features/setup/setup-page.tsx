'use client';

import { counted } from '@/core/base';
import equal from 'fast-deep-equal';
import { useSchools } from '@/ui/schools';
import { Link } from '@/ui/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { carryPart, type CarryMode } from '@/core/carry';
import {
  confirm,
  insertPart,
  renamePart,
  setCosts,
  setKey as changeKey,
  setPlayer,
  setTempo,
  setTitle,
  together,
} from '@/core/command';
import { keyOf, makePart, makeRiff, type Part, type Piece } from '@/core/score';
import type { Edit } from '@/core/edit';
import { nameOf } from '@/core/harmony';
import {
  nominalName,
  nutOf,
  openPitch,
  openPitches,
  shapeShift,
  shapesHere,
  stringNumbers,
  type Setup,
} from '@/core/instrument';
import { asciiPitch, keyName, noteName, parseName, shiftKey } from '@/core/pitch';
import { optionsFor } from '@/core/place';
import { ZERO } from '@/core/time';
import { useCostTables, usePlayers } from '@/features/account/players-context';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { Button, buttonClass } from '@/ui/button';
import { SelectField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import { instrumentBy, useRack } from '@/features/rack/rack-context';
import { PartPaths } from './part-paths';
import { PartTone } from './part-tone';
import { RiffFrames } from './riff-frames';
import { NameField, useEdit } from './setup-inputs';
import { draftOf, FIRST_DRAFT, madeOf, type SetupDraft } from './draft';
import { SetupFields } from './setup-fields';
import { useBlocked } from './use-blocked';

const TONICS = ['C', 'C#', 'Db', 'D', 'D#', 'Eb', 'E', 'F', 'F#', 'Gb', 'G', 'G#', 'Ab', 'A', 'A#', 'Bb', 'B'];

/** A set-up a link proposes. */
interface Asked {
  readonly tuning: string | null;
  readonly instrument: string | null;
}

/** The set-up of a part and the frame of its riffs. */
export function SetupPage({ partId, asked }: { readonly partId: string; readonly asked: Asked }) {
  const piece = usePiece((state) => state.document);
  const part = piece.parts.find((part) => part.id === partId);
  if (!part)
    return (
      <Frame>
        <p className="py-20 text-center text-lg text-soft">This part is not in the piece any more.</p>
      </Frame>
    );
  return (
    <Frame partId={part.id} riffId={part.riffs[0]?.id ?? null}>
      <PartPaths piece={piece.id} part={part.id} />
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,5fr)_minmax(0,4fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5 overflow-auto py-6">
        <SetupForm
          key={`${part.id}${JSON.stringify(part.setup.open)}${JSON.stringify(part.setup.capos)}`}
          piece={piece}
          part={part}
          asked={asked}
        />
        <div className="flex flex-col gap-8">
          <Sounds setup={part.setup} />
          <PartTone key={part.id} part={part} />
          <HandFields piece={piece} part={part} />
          <PieceFields piece={piece} />
          <RiffFrames piece={piece} part={part} />
          <Parts piece={piece} part={part} />
        </div>
      </main>
    </Frame>
  );
}

function SetupForm({ piece, part, asked }: { readonly piece: Piece; readonly part: Part; readonly asked: Asked }) {
  const edit = useEdit();
  const toast = useToast();
  const rack = useRack();
  const [draft, setDraft] = useState((): SetupDraft => {
    const now = draftOf(part.setup);
    // A link may propose another set-up; nothing is changed before it is used.
    if (asked.instrument && asked.instrument !== now.instrument)
      return {
        ...FIRST_DRAFT,
        instrument: asked.instrument,
        tuning:
          instrumentBy(rack, asked.instrument)
            ?.strings.map((string) => asciiPitch(string.pitch))
            .join(' ') ?? now.tuning,
      };
    return asked.tuning ? { ...now, tuning: asked.tuning } : now;
  });
  const [mode, setMode] = useState<CarryMode>('sound');
  const made = madeOf(draft, rack);
  const changed = made.ok && !equal(made.value.setup, part.setup);
  const options = useMemo(() => optionsFor(piece, part), [piece, part]);
  const carried = made.ok && changed ? carryPart(part, made.value.setup, mode) : null;
  const hasNotes = part.riffs.some((riff) => riff.events.length > 0);
  const lost = useBlocked(
    carried && hasNotes ? carried.riffs : null,
    made.ok ? made.value.setup : null,
    piece.context.tempo,
    options,
  );
  const apply = (): void => {
    if (!made.ok || !carried) return;
    const set: Edit = { type: 'setSetup', part: part.id, setup: made.value.setup, riffs: carried.riffs };
    if (edit(part.unspecified ? together(`set up ${part.name}`, [set, confirm(part.id)]) : set))
      toast(`${part.name} is set up anew. Undo brings the old set-up back.`);
  };
  return (
    <section aria-label={`Set-up of ${part.name}`} className="flex flex-col gap-5">
      <h2 className="text-2xl">{part.name}</h2>
      <NameField label="Part’s name" value={part.name} onSave={(name) => edit(renamePart(part.id, name))} />
      <SetupFields draft={draft} onChange={setDraft} />
      {changed && hasNotes ? (
        <fieldset className="flex flex-col gap-2 border-l-4 border-question pl-4">
          <legend className="sr-only">What stays</legend>
          <label className="flex items-start gap-2">
            <input type="radio" className="mt-1.5" checked={mode === 'sound'} onChange={() => setMode('sound')} />{' '}
            <span>
              <b>Keep the sound:</b> the same notes in new places.
            </span>
          </label>
          <label className="flex items-start gap-2">
            <input type="radio" className="mt-1.5" checked={mode === 'shape'} onChange={() => setMode('shape')} />{' '}
            <span>
              <b>Keep the shape:</b> the same strings and frets, another sound.
            </span>
          </label>
          {carried ? <p className="text-soft">{carryWords(carried)}</p> : null}
          {lost === null ? (
            <p className="text-soft">Trying it with the hand…</p>
          ) : lost.length === 0 ? (
            <p className="text-proposed">Everything can be played.</p>
          ) : (
            <div aria-label="Can't be played" role="group">
              <p className="font-semibold text-trouble">
                {lost.length} thing{lost.length === 1 ? '' : 's'} can’t be played as written; the notes stay and are
                asked about:
              </p>
              <ul className="text-[15px]">
                {lost.slice(0, 6).map((one, i) => (
                  <li key={i}>
                    {one.riff}, {one.where}: {one.why}
                  </li>
                ))}
                {lost.length > 6 ? <li className="text-soft">and {lost.length - 6} more</li> : null}
              </ul>
            </div>
          )}
        </fieldset>
      ) : null}
      <div className="flex gap-3">
        <Link
          href={`/rack/tune?piece=${piece.id}&part=${part.id}`}
          className={buttonClass({ className: 'order-last ml-auto' })}
        >
          Tune up to it
        </Link>
        <Button tone="yours" disabled={!changed} onClick={apply}>
          Use this set-up
        </Button>
        {changed ? <Button onClick={() => setDraft(draftOf(part.setup))}>Leave it as it was</Button> : null}
      </div>
      <p className="text-sm text-soft">
        Tuning a string up raises its tension and can snap it: slacken first, keep the face away, protect the eyes.
        Heavier strings or big changes need a set-up by a qualified repairer
        {piece.parts.length > 1 ? '; other parts keep their own set-up' : ''}.
      </p>
    </section>
  );
}

function carryWords({ lostLocks, newPitches, unplaced }: ReturnType<typeof carryPart>): string {
  const words = [
    newPitches > 0 ? `${counted(newPitches, 'note sounds', 'notes sound')} another pitch` : '',
    unplaced > 0 ? `${counted(unplaced, 'note is', 'notes are')} placed anew` : '',
    lostLocks > 0 ? `${lostLocks} of them you had placed yourself` : '',
  ].filter(Boolean);
  return words.length > 0 ? `${words.join(', ')}.` : 'Every note stays where it is.';
}

/** What each string really sounds, spelled out. */
function Sounds({ setup }: { readonly setup: Setup }) {
  const schools = useSchools();
  const shift = shapeShift(setup);
  const shapes = shapesHere(setup);
  const opens = nameOf(openPitches(setup), null, schools.notes);
  return (
    <section aria-label="What sounds">
      <h2 className="text-xl">What sounds</h2>
      <table className="mt-2 w-full text-[15px]">
        <thead className="text-left text-sm text-soft">
          <tr>
            <th className="font-semibold">String</th>
            <th className="font-semibold">Called</th>
            <th className="font-semibold">Sounds open</th>
            <th className="font-semibold">From its own tuning</th>
          </tr>
        </thead>
        <tbody>
          {stringNumbers(setup).map((string) => {
            const i = setup.open.length - string;
            const change = (setup.open[i] ?? 0) - (setup.instrument.strings[i]?.pitch ?? 0);
            const nut = nutOf(setup, string);
            return (
              <tr key={string} className="border-t border-rule">
                <td className="py-1 font-figures">{string}</td>
                <td>{nominalName(setup, string, { naming: schools.notes })}</td>
                <td className="font-figures font-bold">
                  {noteName(openPitch(setup, string), { octave: true, naming: schools.notes })}
                </td>
                <td className="text-soft">
                  {change === 0
                    ? nut === 0
                      ? 'as made for'
                      : ''
                    : `${Math.abs(change)} semitone${Math.abs(change) === 1 ? '' : 's'} ${change > 0 ? 'up' : 'down'}${nut > 0 ? ', ' : ''}`}
                  {nut > 0 ? `capo at fret ${nut}` : ''}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-2 text-[15px]">
        {shapes === null
          ? `No grip sounds what it is called in standard tuning: chords go by what sounds. ${opens ? `The open strings are ${opens}.` : 'The open strings are no plain chord.'}`
          : shift === 0
            ? 'Shapes sound as they are named.'
            : `A D minor shape sounds ${keyName(shiftKey({ tonic: 'D', mode: 'minor' }, shift), schools.notes)}${shapes.on === 'most' ? ', on all strings but the thickest' : ''}.`}
      </p>
    </section>
  );
}

/** Whose hand the part is placed for, and by which weights the piece is. */
function HandFields({ piece, part }: { readonly piece: Piece; readonly part: Part }) {
  const edit = useEdit();
  const players = usePlayers();
  const tables = useCostTables();
  const { player } = part;
  const kept = players.find((one) => one.id === (player?.id ?? 'adult'));
  const changed = player && kept && !equal(kept.profile, player.profile);
  const keyOf = (one: typeof piece.costs): string => (one ? `${one.version} ${one.name}` : '');
  const known = tables.some((one) => keyOf(one) === keyOf(piece.costs));
  return (
    <section aria-label="The hand" className="flex flex-col gap-3">
      <h2 className="text-xl">The hand</h2>
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label="Placed for"
          value={player ? (kept ? (player.id ?? '') : 'copy') : 'adult'}
          onChange={(event) => {
            const to = players.find((one) => one.id === event.target.value);
            if (to) edit(setPlayer(part.id, to.id === 'adult' ? null : to));
          }}
        >
          {player && !kept ? <option value="copy">{player.name} (copy)</option> : null}
          {players.map((one) => (
            <option key={one.id} value={one.id ?? ''}>
              {one.name}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Weights of this piece"
          value={keyOf(piece.costs)}
          onChange={(event) => edit(setCosts(tables.find((one) => keyOf(one) === event.target.value) ?? null))}
        >
          <option value="">the program’s own, always the newest</option>
          {piece.costs && !known ? (
            <option value={keyOf(piece.costs)}>
              {piece.costs.name}, version {piece.costs.version}
            </option>
          ) : null}
          {tables.map((one) => (
            <option key={keyOf(one)} value={keyOf(one)}>
              {one.name}, version {one.version}
            </option>
          ))}
        </SelectField>
      </div>
      {changed ? (
        <p className="text-[15px] text-soft">
          {kept.name} has changed in the settings since.{' '}
          <button
            type="button"
            className="font-semibold text-ink underline decoration-line underline-offset-4"
            onClick={() => edit(setPlayer(part.id, kept))}
          >
            Use the new figures
          </button>
        </p>
      ) : null}
      <p className="text-[15px] text-soft">
        Places you locked stay; the others are proposed anew.{' '}
        <Link href="/settings/hands" className="underline decoration-line underline-offset-4">
          Hands
        </Link>{' '}
        and{' '}
        <Link href="/settings/weights" className="underline decoration-line underline-offset-4">
          weights
        </Link>{' '}
        are kept in the settings.
      </p>
    </section>
  );
}

function PieceFields({ piece }: { readonly piece: Piece }) {
  const edit = useEdit();
  const key = keyOf(piece, null);
  const setKey = (tonic: string, mode: 'major' | 'minor'): void => {
    edit(changeKey(tonic && parseName(tonic) ? [{ at: ZERO, tonic, mode }] : []));
  };
  const first = piece.context.tempo[0]?.bpm ?? 96;
  return (
    <section aria-label="The piece" className="flex flex-col gap-3">
      <h2 className="text-xl">The piece</h2>
      <NameField label="Name" value={piece.title} onSave={(title) => edit(setTitle(title))} />
      <div className="grid grid-cols-3 gap-3">
        <NameField
          label="Tempo"
          value={String(first)}
          onSave={(text) => {
            const set = setTempo([{ at: ZERO, bpm: Number(text) }, ...piece.context.tempo.slice(1)]);
            return edit(piece.unspecified ? together(`set the tempo to ${text}`, [set, confirm(null)]) : set);
          }}
          check={(text) => (Number(text) >= 10 && Number(text) <= 500 ? null : 'A tempo from 10 to 500.')}
        />
        <SelectField
          label="Key as it sounds"
          value={key?.tonic ?? ''}
          onChange={(event) => setKey(event.target.value, key?.mode ?? 'minor')}
        >
          <option value="">not said</option>
          {TONICS.map((text) => (
            <option key={text} value={text}>
              {text.replace('#', '♯').replace('b', '♭')}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Mode"
          value={key?.mode ?? 'minor'}
          disabled={!key}
          onChange={(event) => setKey(key?.tonic ?? 'C', event.target.value as 'major' | 'minor')}
        >
          <option value="major">major</option>
          <option value="minor">minor</option>
        </SelectField>
      </div>
    </section>
  );
}

function Parts({ piece, part }: { readonly piece: Piece; readonly part: Part }) {
  const edit = useEdit();
  const router = useRouter();
  const add = (): void => {
    const meters = part.riffs[0]?.meters ?? [{ bar: 0, beats: 4, unit: 4 }];
    const riffs = [makeRiff('r', 'First riff', { bars: 2, meters })];
    const made = insertPart(piece, makePart('p', `Part ${piece.parts.length + 1}`, part.setup, { riffs }));
    if (edit(made.edit)) router.push(`/pieces/${piece.id}/parts/${made.part.id}`);
  };
  return (
    <section aria-label="Parts" className="flex flex-col gap-2">
      <h2 className="text-xl">Parts</h2>
      <ul className="flex flex-wrap gap-x-5 gap-y-1">
        {piece.parts.map((one) => (
          <li key={one.id}>
            {one.id === part.id ? (
              <b>{one.name}</b>
            ) : (
              <a className="underline decoration-line underline-offset-4" href={`/pieces/${piece.id}/parts/${one.id}`}>
                {one.name}
              </a>
            )}
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button size="small" onClick={add}>
          Add a part
        </Button>
        <Link href={`/pieces/${piece.id}/bring-in`} className={buttonClass({ size: 'small' })}>
          Bring in a MIDI file
        </Link>
        {piece.parts.length > 1 ? (
          <Button size="small" tone="quiet" onClick={() => edit({ type: 'removePart', part: part.id })}>
            Remove {part.name}
          </Button>
        ) : null}
      </div>
    </section>
  );
}
