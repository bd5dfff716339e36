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
      ? { setup, chords: chords.value.map((c) => chordName(c)), key: keyValue }
      : null,
  );
  const choices = plan?.ok ? plan.value : [];
  const chosen = choices.find((c) => c.capo === picked) ?? choices[0];
  const pairs = capoPairs(choices);
  return (
    <RackFrame
      at="/rack/capo"
      title="Capo"
      lead="Say what has to sound. Every capo place is tried, and every chord gripped by the hand model; open grips count most."
    >
      <div className="grid grid-cols-[minmax(0,3fr)_minmax(0,7fr)] gap-10">
        <div className="flex flex-col gap-4">
          <TextField
            label="Key as it sounds"
            value={keyText}
            spellCheck={false}
            onChange={(e) => {
              setKeyText(e.target.value);
              setPicked(null);
            }}
            error={key && !key.ok ? key.error.words : null}
          />
          <TextField
            label="Chords as they sound"
            value={chordText}
            spellCheck={false}
            onChange={(e) => {
              setChordText(e.target.value);
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
            onKey={(k, semitones) => {
              setKeyText(`${k.tonic} ${k.mode}`);
              setChordText(shifted(chordText, semitones, k));
              setPicked(null);
            }}
          />
        </div>
        <div className="flex flex-col gap-5">
          {chosen && setup ? (
            <>
              <section aria-label="Chosen capo" className="border-b border-rule pb-4">
                <div className="flex items-start gap-8">
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
                  {chosen.chords.map((c) =>
                    c.frame ? (
                      <ChordFrameView
                        key={chordName(c.sounding)}
                        frame={c.frame}
                        name={chordName(c.shape, schools.notes)}
                        sounds={
                          chosen.capo === 0 && chordName(c.shape) === chordName(c.sounding)
                            ? null
                            : `sounds ${chordName(c.sounding, schools.notes)}`
                        }
                        mirrored={schools.handed === 'left'}
                      />
                    ) : (
                      <p key={chordName(c.sounding)} className="w-24 text-sm text-trouble">
                        No grip near the capo for {chordName(c.shape, schools.notes)}.
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
                    {pairs.map((p) => (
                      <li
                        key={`${p.first.capo} ${p.second.capo}`}
                        className="flex gap-4 border-t border-rule py-1 first:border-t-0"
                      >
                        <span className="w-72">{capoWord(p.first, schools.notes)}</span>
                        <span className="w-72">{capoWord(p.second, schools.notes)}</span>
                        <span className="font-figures text-soft">{p.score}</span>
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

function capoWord(c: CapoChoice, naming: Naming): string {
  return `${c.capo === 0 ? 'no capo' : `capo ${c.capo}`}: ${c.chords.map((x) => chordName(x.shape, naming)).join(' ')}`;
}

/** The chords as typed, moved by semitones and spelled in the new key; what can't be read stays. */
function shifted(text: string, semitones: number, key: Key): string {
  const chords = readChords(text);
  return chords.ok ? chords.value.map((c) => chordName(shiftChord(c, semitones, key))).join(' ') : text;
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
          {choices.slice(0, 8).map((c) => (
            <tr key={c.capo} className={`border-t border-rule ${c.capo === chosen ? 'bg-chosen/40' : ''}`}>
              <td className="py-1">
                <button
                  type="button"
                  aria-pressed={c.capo === chosen}
                  className="font-semibold underline-offset-4 hover:underline"
                  onClick={() => onPick(c.capo)}
                >
                  {c.capo === 0 ? 'none' : `fret ${c.capo}`}
                </button>
              </td>
              <td>{c.shapeKey ? keyName(c.shapeKey, schools.notes) : ''}</td>
              <td className="font-semibold">{c.chords.map((x) => chordName(x.shape, schools.notes)).join(' ')}</td>
              <td className="text-soft">{c.why}</td>
              <td className="text-right font-figures">{c.score}</td>
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
  const notes = [...melody, ...voice].map((t) => (t.trim() === '' ? null : parsePitch(t)));
  const typed = [...melody, ...voice].every((t) => t.trim() !== '');
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
  const wrong = [...melody, ...voice].find((t) => t.trim() !== '' && parsePitch(t) === null);
  return (
    <fieldset className="border-t border-rule pt-3">
      <legend className="text-lg font-semibold">For a singer</legend>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Melody’s lowest"
          placeholder="C4"
          value={melody[0]}
          onChange={(e) => onMelody([e.target.value, melody[1]])}
        />
        <TextField
          label="Melody’s highest"
          placeholder="E5"
          value={melody[1]}
          onChange={(e) => onMelody([melody[0], e.target.value])}
        />
        <TextField
          label="Voice’s lowest"
          placeholder="G3"
          value={voice[0]}
          onChange={(e) => onVoice([e.target.value, voice[1]])}
        />
        <TextField
          label="Voice’s highest"
          placeholder="C5"
          value={voice[1]}
          onChange={(e) => onVoice([voice[0], e.target.value])}
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
          {keys.value.slice(0, 4).map((k) => (
            <li key={k.semitones} className="flex items-baseline gap-3 py-0.5">
              <button
                type="button"
                className="w-28 text-left font-semibold underline decoration-line underline-offset-4"
                onClick={() => onKey(k.key, k.semitones)}
              >
                {keyName(k.key, schools.notes)}
              </button>
              <span className="text-soft">
                {k.above >= 0 && k.below >= 0
                  ? `${k.below} below, ${k.above} above to spare`
                  : `misses by ${-Math.min(k.above, k.below)}`}
              </span>
            </li>
          ))}
        </ul>
      ) : null}
    </fieldset>
  );
}
