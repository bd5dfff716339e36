'use client';

import { useState } from 'react';
import { ADULT_HAND, profileSchema, sizedHand, type Profile, type SpanTable } from '@/core/hand';
import { baseNut, fretDistance, makeSetup, pressPoint } from '@/core/instrument';
import type { Player } from '@/core/score';
import { useRefresh } from '@/features/studio/studio';
import { Button } from '@/ui/button';
import { SelectField, TextField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import { deletePlayerAction, savePlayerAction } from './learning-actions';
import { ADULT, usePlayers } from './players-context';
import { handWords } from './hand-words';
import { SettingsFrame } from './settings-frame';

const PAIRS = ['12', '23', '34', '13', '24', '14'] as const;
const FINGER_WORDS = ['', 'index', 'middle', 'ring', 'little'] as const;
const PAIR_WORDS = (pair: string): string => `${FINGER_WORDS[Number(pair[0])]} to ${FINGER_WORDS[Number(pair[1])]}`;

interface Draft {
  readonly id: string | null;
  readonly name: string;
  readonly profile: Profile;
}

const STARTS: readonly (readonly [string, Profile])[] = [
  ['An adult hand', ADULT_HAND],
  ['A small hand', { ...sizedHand(0.88), level: 'beginner' }],
  ['A large hand', { ...sizedHand(1.1), thumb: true }],
  ['A bass player: 1-2-4 low down', { ...ADULT_HAND, school: 'one-two-four' }],
  ['No barre', { ...ADULT_HAND, barre: [1, 1, 1, 1], level: 'beginner' }],
  ['Little finger spared', { ...ADULT_HAND, fingers: [1, 2, 3] }],
];

/** The hands parts are placed for: spans, fingers, barre, thumb, school and level. */
export function HandsPage() {
  const players = usePlayers();
  const toast = useToast();
  const refresh = useRefresh();
  const [draft, setDraft] = useState<Draft | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    if (!draft) return;
    const made = await savePlayerAction(draft);
    setFault(made.ok ? null : made.error.words);
    if (!made.ok) return;
    refresh();
    toast(`${made.value.name} is kept. Choose it for a part on the part’s set-up page.`);
    setDraft(null);
  };
  const remove = async (player: Player): Promise<void> => {
    if (!(await deletePlayerAction(player.id ?? '', true))) return;
    refresh();
    toast(`${player.name} is deleted; parts placed for it keep their copy.`, {
      label: 'Put it back',
      run: () => void deletePlayerAction(player.id ?? '', false).then(refresh),
    });
  };
  return (
    <SettingsFrame
      at="/settings/hands"
      title="Hands"
      lead="Whom a part is placed for. Spans are millimetres between the points where fingertips press. A part keeps a copy of the hand it was placed for."
    >
      <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
        <section aria-label="Hands kept">
          <ul className="divide-y divide-rule border-y border-rule">
            {players.map((one) => (
              <li key={one.id} className="flex items-baseline gap-3 py-2.5">
                <div className="flex-1">
                  <b>{one.name}</b>
                  <p className="text-[15px] text-soft">{handWords(one.profile)}</p>
                </div>
                {one.id === ADULT.id ? null : (
                  <>
                    <Button
                      size="small"
                      onClick={() => setDraft({ id: one.id, name: one.name, profile: one.profile })}
                      aria-label={`Change ${one.name}`}
                    >
                      Change
                    </Button>
                    <Button
                      size="small"
                      tone="quiet"
                      onClick={() => void remove(one)}
                      aria-label={`Take ${one.name} away`}
                    >
                      Delete
                    </Button>
                  </>
                )}
              </li>
            ))}
          </ul>
          <h2 className="mt-6 text-xl">Add a hand</h2>
          <div className="mt-2 flex flex-wrap gap-2">
            {STARTS.map(([name, profile]) => (
              <Button
                key={name}
                size="small"
                onClick={() => {
                  setFault(null);
                  setDraft({
                    id: null,
                    name: name
                      .replace(/^An? /, (mode) => mode.trim())
                      .replace(/^(An|A) ?/, '')
                      .replace(/^./, (letter) => letter.toUpperCase()),
                    profile,
                  });
                }}
              >
                {name}
              </Button>
            ))}
          </div>
          <p className="mt-6 text-sm text-soft">
            Wide stretches, hard bends and fast repetition strain the hand: stop at pain, rest, and see a clinician if
            it lasts. A hand that is injured is judged by its clinician, not by these figures.
          </p>
        </section>
        {draft ? (
          <HandForm
            draft={draft}
            fault={fault}
            onChange={setDraft}
            onSave={() => void save()}
            onLeave={() => setDraft(null)}
          />
        ) : (
          <p className="pt-3 text-soft">Choose a hand to change it, or add one.</p>
        )}
      </div>
    </SettingsFrame>
  );
}

function HandForm({
  draft,
  fault,
  onChange,
  onSave,
  onLeave,
}: {
  readonly draft: Draft;
  readonly fault: string | null;
  readonly onChange: (draft: Draft) => void;
  readonly onSave: () => void;
  readonly onLeave: () => void;
}) {
  const { profile } = draft;
  const set = (change: Partial<Profile>): void => onChange({ ...draft, profile: { ...profile, ...change } });
  const checked = profileSchema.safeParse(profile);
  const wrong = checked.success ? null : (checked.error.issues[0]?.message ?? 'Check the figures.');
  const span = (which: 'comfortable' | 'maximal', pair: (typeof PAIRS)[number], text: string): void => {
    const mm = Number(text.replace(',', '.'));
    if (Number.isFinite(mm)) set({ [which]: { ...profile[which], [pair]: mm } as SpanTable });
  };
  return (
    <section aria-label="Hand" className="flex flex-col gap-4">
      <TextField
        label="Name"
        value={draft.name}
        error={draft.name.trim() === '' ? 'Give the hand a name.' : null}
        onChange={(event) => onChange({ ...draft, name: event.target.value })}
        maxLength={80}
      />
      <table className="text-[15px]">
        <caption className="pb-1 text-left text-sm font-semibold text-soft">Spans in millimetres</caption>
        <thead className="text-left text-sm text-soft">
          <tr>
            <th className="font-semibold">Fingers</th>
            <th className="font-semibold">Comfortable</th>
            <th className="font-semibold">At most</th>
          </tr>
        </thead>
        <tbody>
          {PAIRS.map((pair) => (
            <tr key={pair} className="border-t border-rule">
              <td className="py-1">{PAIR_WORDS(pair)}</td>
              {(['comfortable', 'maximal'] as const).map((which) => (
                <td key={which} className="py-1 pr-3">
                  <input
                    aria-label={`${PAIR_WORDS(pair)}, ${which === 'comfortable' ? 'comfortable' : 'at most'}`}
                    inputMode="decimal"
                    defaultValue={profile[which][pair]}
                    key={`${draft.id}${profile[which][pair]}`}
                    onBlur={(event) => span(which, pair, event.target.value)}
                    className="w-20 rounded-sm border border-line/70 bg-sheet px-2 py-1 font-figures"
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-[15px] text-soft">{reachWords(profile)}</p>
      <div className="flex gap-2">
        <Button size="small" onClick={() => set(sizedHand(0.95, profile))}>
          All 5 % smaller
        </Button>
        <Button size="small" onClick={() => set(sizedHand(1.05, profile))}>
          All 5 % larger
        </Button>
      </div>
      <div className="grid grid-cols-2 gap-x-6 gap-y-3">
        <fieldset className="text-[15px]">
          <legend className="text-sm font-semibold text-soft">Fingers that may press</legend>
          {([1, 2, 3, 4] as const).map((f) => (
            <label key={f} className="mr-4 inline-flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={profile.fingers.includes(f)}
                onChange={(event) =>
                  set({
                    fingers: ([1, 2, 3, 4] as const).filter((x) =>
                      x === f ? event.target.checked : profile.fingers.includes(x),
                    ),
                  })
                }
              />{' '}
              {FINGER_WORDS[f]}
            </label>
          ))}
          <label className="mt-1 flex items-center gap-1.5">
            <input type="checkbox" checked={profile.thumb} onChange={(event) => set({ thumb: event.target.checked })} />{' '}
            the thumb may reach over the neck
          </label>
        </fieldset>
        <SelectField
          label="Barre with the index"
          value={String(Math.min(12, profile.barre[0]))}
          onChange={(event) =>
            set({ barre: [Number(event.target.value), ...profile.barre.slice(1)] as unknown as Profile['barre'] })
          }
        >
          <option value="1">none</option>
          {[2, 3, 4, 5].map((n) => (
            <option key={n} value={n}>
              up to {n} strings
            </option>
          ))}
          <option value="12">all strings</option>
        </SelectField>
        <SelectField
          label="School of fingering"
          value={profile.school}
          onChange={(event) => set({ school: event.target.value as Profile['school'] })}
        >
          <option value="free">by reach</option>
          <option value="finger-per-fret">one finger a fret</option>
          <option value="one-two-four">1-2-4 where a finger a fret is too wide</option>
        </SelectField>
        <SelectField
          label="Level"
          value={profile.level}
          onChange={(event) => set({ level: event.target.value as Profile['level'] })}
          hint="How much stretches and barres weigh."
        >
          <option value="beginner">beginner</option>
          <option value="player">player</option>
          <option value="advanced">advanced</option>
        </SelectField>
        <SelectField
          label="Slide worn on"
          value={String(profile.barFinger)}
          onChange={(event) => set({ barFinger: Number(event.target.value) as Profile['barFinger'] })}
        >
          {([2, 3, 4] as const).map((f) => (
            <option key={f} value={f}>
              the {FINGER_WORDS[f]} finger
            </option>
          ))}
        </SelectField>
      </div>
      {(wrong ?? fault) ? (
        <p role="alert" className="text-sm font-semibold text-trouble">
          {wrong ?? fault}
        </p>
      ) : null}
      <div className="flex gap-3">
        <Button tone="yours" disabled={wrong !== null || draft.name.trim() === ''} onClick={onSave}>
          Keep this hand
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </section>
  );
}

/** What the spans mean on two instruments, so that figures can be judged with one in hand. */
function reachWords(profile: Profile): string {
  const from = (id: string): string => {
    const made = makeSetup({ instrument: id });
    if (!made.ok) return '';
    const { setup } = made.value;
    const { scaleMm, frets } = setup.instrument;
    for (let fret = baseNut(setup) + 1; fret + 3 <= frets; fret++)
      if (pressPoint(scaleMm, fret + 3) - pressPoint(scaleMm, fret) <= profile.comfortable['14'])
        return `${setup.instrument.kind === 'bass' ? 'on a bass' : 'on a guitar'} (${Math.round(fretDistance(scaleMm, 12) * 2)} mm) from fret ${fret}`;
    return '';
  };
  return `One finger a fret is at ease ${['guitar-6', 'bass-4'].map(from).filter(Boolean).join(', ')}.`;
}
