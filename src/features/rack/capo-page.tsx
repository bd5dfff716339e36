'use client';

import { useState } from 'react';
import {
  bandLine,
  capoPairs,
  chordName,
  readChords,
  readKey,
  shiftChord,
  singerKeys,
  type CapoChoice,
} from '@/core/harmony';
import { keyName, parsePitch, type Key, type Naming } from '@/core/pitch';
import { CAPO_PLACE_WORDS, CAPO_TUNING_WORDS } from '@/core/schools';
import { madeOf, type SetupDraft } from '@/features/setup/draft';
import { SetupFields } from '@/features/setup/setup-fields';
import { CapoPlace } from '@/ui/draw/capo-place';
import { ChordFrameView } from '@/ui/draw/chord-frame';
import { TextField } from '@/ui/field';
import { useSchools } from '@/ui/schools';
import { RackFrame } from './frame';
import { useRack } from './rack-context';
import { useCapoPlan } from './use-capo-plan';

/** Where the capo goes for a key, some chords, a singer, or two guitars. */
export function CapoPage() {
  const rack = useRack();
  const schools = useSchools();
  const [draft, setDraft] = useState<SetupDraft>({ instrument: 'acoustic-6', tuning: 'standard', capos: [] });
  const [keyText, setKeyText] = useState('Bb');
  const [chordText, setChordText] = useState('Bb F Gm Eb');
  const [melody, setMelody] = useState<readonly [string, string]>(['', '']);
  const [voice, setVoice] = useState<readonly [string, string]>(['', '']);
  const [picked, setPicked] = useState<number | null>(null);
  const made = madeOf(draft, rack);
  const setup = made.ok ? made.value.setup : null;
  const key = keyText.trim() === '' ? null : readKey(keyText);
  const keyValue: Key | null = key?.ok ? key.value : null;
  const chords = readChords(chordText);
  const plan = useCapoPlan(
    setup && chords.ok && (!key || key.ok)
      ? { setup, chords: chords.value.map((chord) => chordName(chord)), key: keyValue }
      : null,
  );
  const choices = plan?.ok ? plan.value : [];
  const chosen = choices.find((choice) => choice.capo === picked) ?? choices[0];
  const pairs = capoPairs(choices);
  return (
    <RackFrame
      at="/rack/capo"
      title="Capo"
      lead="Say what has to sound. Every capo place is tried, and every chord gripped by the hand model; open grips count most."
    >
      <div className="grid grid-cols-[minmax(0,3fr)_minmax(0,7fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
        <div className="flex flex-col gap-4">
          <TextField
            label="Key as it sounds"
            value={keyText}
            spellCheck={false}
            onChange={(event) => {
              setKeyText(event.target.value);
              setPicked(null);
            }}
            error={key && !key.ok ? key.error.words : null}
          />
          <TextField
            label="Chords as they sound"
            value={chordText}
            spellCheck={false}
            onChange={(event) => {
              setChordText(event.target.value);
              setPicked(null);
            }}
            error={chords.ok ? (plan && !plan.ok ? plan.error.words : null) : chords.error.words}
            hint="Left empty, the chords of the key are taken."
          />
          <SetupFields draft={draft} onChange={setDraft} noCapo />
          <Singer
            songKey={keyValue}
            melody={melody}
            voice={voice}
            onMelody={setMelody}
            onVoice={setVoice}
            onKey={(key, semitones) => {
              setKeyText(`${key.tonic} ${key.mode}`);
              setChordText(shifted(chordText, semitones, key));
              setPicked(null);
            }}
          />
        </div>
        <div className="flex flex-col gap-5">
          {chosen && setup ? (
            <>
              <section aria-label="Chosen capo" className="border-b border-rule pb-4">
                <div className="flex items-start gap-8 max-[899px]:flex-wrap max-[899px]:gap-3">
                  <div>
                    <h2 className="text-2xl">
                      {chosen.capo === 0 ? 'No capo' : `Capo at fret ${chosen.capo}`}
                      {chosen.shapeKey ? (
                        <span className="text-lg font-normal text-soft">
                          , {keyName(chosen.shapeKey, schools.notes)} shapes
                        </span>
                      ) : null}
                    </h2>
                    <p className="mt-1 text-soft">{chosen.why}</p>
                    <p className="mt-2 max-w-xl">
                      <b>What to tell the band:</b> {bandLine(chosen, keyValue, schools.notes)}
                    </p>
                  </div>
                  {chosen.capo > 0 ? (
                    <figure className="ml-auto w-[300px] shrink-0">
                      <CapoPlace
                        fret={chosen.capo}
                        scaleMm={setup.instrument.scaleMm}
                        place={schools.capoPlace}
                        strings={setup.open.length}
                        held={null}
                      />
                      <figcaption className="text-sm text-soft">
                        {CAPO_PLACE_WORDS[schools.capoPlace]} {CAPO_TUNING_WORDS[schools.capoTuning]}
                      </figcaption>
                    </figure>
                  ) : null}
                </div>
                <div className="mt-3 flex flex-wrap gap-x-4 gap-y-2">
                  {chosen.chords.map((chord) =>
                    chord.frame ? (
                      <ChordFrameView
                        key={chordName(chord.sounding)}
                        frame={chord.frame}
                        name={chordName(chord.shape, schools.notes)}
                        sounds={
                          chosen.capo === 0 && chordName(chord.shape) === chordName(chord.sounding)
                            ? null
                            : `sounds ${chordName(chord.sounding, schools.notes)}`
                        }
                        mirrored={schools.handed === 'left'}
                      />
                    ) : (
                      <p key={chordName(chord.sounding)} className="w-24 text-sm text-trouble">
                        No grip near the capo for {chordName(chord.shape, schools.notes)}.
                      </p>
                    ),
                  )}
                </div>
              </section>
              <Choices choices={choices} chosen={chosen.capo} onPick={setPicked} />
              {pairs.length > 0 ? (
                <section aria-label="Two guitars">
                  <h2 className="text-xl">Two guitars, two places</h2>
                  <ul className="text-[15px]">
                    {pairs.map((one) => (
                      <li
                        key={`${one.first.capo} ${one.second.capo}`}
                        className="flex gap-4 border-t border-rule py-1 first:border-t-0"
                      >
                        <span className="w-72">{capoWord(one.first, schools.notes)}</span>
                        <span className="w-72">{capoWord(one.second, schools.notes)}</span>
                        <span className="font-figures text-soft">{one.score}</span>
                      </li>
                    ))}
                  </ul>
                </section>
              ) : null}
            </>
          ) : null}
        </div>
      </div>
    </RackFrame>
  );
}

function capoWord(choice: CapoChoice, naming: Naming): string {
  return `${choice.capo === 0 ? 'no capo' : `capo ${choice.capo}`}: ${choice.chords.map((chord) => chordName(chord.shape, naming)).join(' ')}`;
}

/** The chords as typed, moved by semitones and spelled in the new key; what can't be read stays. */
function shifted(text: string, semitones: number, key: Key): string {
  const chords = readChords(text);
  return chords.ok ? chords.value.map((chord) => chordName(shiftChord(chord, semitones, key))).join(' ') : text;
}

function Choices({
  choices,
  chosen,
  onPick,
}: {
  readonly choices: readonly CapoChoice[];
  readonly chosen: number;
  readonly onPick: (capo: number) => void;
}) {
  const schools = useSchools();
  return (
    <section aria-label="All places">
      <h2 className="text-xl">All places, easiest first</h2>
      <table className="w-full text-[15px]">
        <thead className="text-left text-sm text-soft">
          <tr>
            <th className="w-24 font-semibold">Capo</th>
            <th className="w-28 font-semibold">Shape key</th>
            <th className="font-semibold">Shapes</th>
            <th className="font-semibold">Why</th>
            <th className="w-16 text-right font-semibold">Ease</th>
          </tr>
        </thead>
        <tbody>
          {choices.slice(0, 8).map((choice) => (
            <tr key={choice.capo} className={`border-t border-rule ${choice.capo === chosen ? 'bg-chosen/40' : ''}`}>
              <td className="py-1">
                <button
                  type="button"
                  aria-pressed={choice.capo === chosen}
                  className="font-semibold underline-offset-4 hover:underline"
                  onClick={() => onPick(choice.capo)}
                >
                  {choice.capo === 0 ? 'none' : `fret ${choice.capo}`}
                </button>
              </td>
              <td>{choice.shapeKey ? keyName(choice.shapeKey, schools.notes) : ''}</td>
              <td className="font-semibold">
                {choice.chords.map((chord) => chordName(chord.shape, schools.notes)).join(' ')}
              </td>
              <td className="text-soft">{choice.why}</td>
              <td className="text-right font-figures">{choice.score}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

interface SingerProps {
  readonly songKey: Key | null;
  readonly melody: readonly [string, string];
  readonly voice: readonly [string, string];
  readonly onMelody: (range: readonly [string, string]) => void;
  readonly onVoice: (range: readonly [string, string]) => void;
  readonly onKey: (key: Key, semitones: number) => void;
}

/** A singer's range against the melody's: the keys that fit. */
function Singer({ songKey, melody, voice, onMelody, onVoice, onKey }: SingerProps) {
  const schools = useSchools();
  const notes = [...melody, ...voice].map((text) => (text.trim() === '' ? null : parsePitch(text)));
  const typed = [...melody, ...voice].every((text) => text.trim() !== '');
  const [ml, mh, vl, vh] = notes;
  const keys =
    songKey &&
    typed &&
    ml !== null &&
    mh !== null &&
    vl !== null &&
    vh !== null &&
    ml !== undefined &&
    mh !== undefined &&
    vl !== undefined &&
    vh !== undefined
      ? singerKeys(songKey, { low: ml, high: mh }, { low: vl, high: vh })
      : null;
  const wrong = [...melody, ...voice].find((text) => text.trim() !== '' && parsePitch(text) === null);
  return (
    <fieldset className="border-t border-rule pt-3">
      <legend className="text-lg font-semibold">For a singer</legend>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Melody’s lowest"
          placeholder="C4"
          value={melody[0]}
          onChange={(event) => onMelody([event.target.value, melody[1]])}
        />
        <TextField
          label="Melody’s highest"
          placeholder="E5"
          value={melody[1]}
          onChange={(event) => onMelody([melody[0], event.target.value])}
        />
        <TextField
          label="Voice’s lowest"
          placeholder="G3"
          value={voice[0]}
          onChange={(event) => onVoice([event.target.value, voice[1]])}
        />
        <TextField
          label="Voice’s highest"
          placeholder="C5"
          value={voice[1]}
          onChange={(event) => onVoice([voice[0], event.target.value])}
        />
      </div>
      {wrong ? (
        <p role="alert" className="mt-1 text-sm font-semibold text-trouble">
          “{wrong}” is no pitch; write it with its octave, such as C4.
        </p>
      ) : null}
      {keys && !keys.ok ? (
        <p role="alert" className="mt-1 text-sm font-semibold text-trouble">
          {keys.error.words}
        </p>
      ) : null}
      {keys?.ok ? (
        <ul className="mt-2 text-[15px]">
          {keys.value.slice(0, 4).map((one) => (
            <li key={one.semitones} className="flex items-baseline gap-3 py-0.5">
              <button
                type="button"
                className="w-28 text-left font-semibold underline decoration-line underline-offset-4"
                onClick={() => onKey(one.key, one.semitones)}
              >
                {keyName(one.key, schools.notes)}
              </button>
              <span className="text-soft">
                {one.above >= 0 && one.below >= 0
                  ? `${one.below} below, ${one.above} above to spare`
                  : `misses by ${-Math.min(one.above, one.below)}`}
              </span>
            </li>
          ))}
        </ul>
      ) : null}
    </fieldset>
  );
}
