import { useEffect, useMemo, useState } from 'react';
import { withAlternative } from '@/core/command';
import { keyOf, type Part, type Piece, type Riff } from '@/core/score';
import { chordName, type ChordUnder } from '@/core/harmony';
import type { Setup } from '@/core/instrument';
import { BACKINGS, backingTrack, chordsOf, ladderRungs, type Balance, type Rung, type Track } from '@/core/synth';
import { keepSounds, keptSounds } from './kept-sounds';
import type { SoundSettings, Strip } from './sound-settings';

export const FIRST_SOUNDS: SoundSettings = {
  beside: {},
  backing: [],
  strips: {},
  click: true,
  double: false,
  countIn: 1,
  turn: null,
  ladder: { on: false, from: 60, to: 100, step: 5, times: 2 },
};
const PLAIN: Strip = { level: 80, muted: false, solo: false };
export const OWN = 'own';
export const CLICK = 'click';

export const stripOf = (settings: SoundSettings, id: string): Strip => settings.strips[id] ?? PLAIN;

/** How loud each voice is: a solo silences the others, but never the click. */
export function balanceOf(ids: readonly string[], settings: SoundSettings): Balance[] {
  const alone = ids.some((id) => id !== CLICK && stripOf(settings, id).solo);
  return ids.map((id) => {
    const { level, muted, solo } = stripOf(settings, id);
    const silent = muted || (id === CLICK ? !settings.click : alone && !solo);
    return { level: silent ? 0 : (level / 80) ** 2, pan: 0 };
  });
}

/** The passes that are played: a ladder climbs, a loop goes round, else each version once. */
export function rungsOf({ ladder }: SoundSettings, speed: number, loop: boolean, versions: number): Rung[] {
  if (ladder.on && loop)
    return ladderRungs(ladder.from / 100, ladder.to / 100, ladder.step / 100, ladder.times * versions);
  return [{ speed: speed / 100, times: loop ? Infinity : versions }];
}

export interface Sounds {
  readonly settings: SoundSettings;
  readonly change: (some: Partial<SoundSettings>) => void;
  readonly tracks: readonly Track[];
  readonly voices: readonly { readonly id: string; readonly name: string }[];
  readonly others: readonly Part[];
  readonly chords: readonly ChordUnder[];
  readonly chordWords: string;
  /** Whether the chords are written, and not guessed from what sounds. */
  readonly chordsSaid: boolean;
  /** Names of what sounds in turn, none where only the written sounds. */
  readonly turns: readonly string[];
}

/** How a piece is listened to, kept on this device; of no piece, for as long as the page is open. */
export function useSoundSettings(pieceId: string | null): Pick<Sounds, 'settings' | 'change'> {
  const [settings, setSettings] = useState(FIRST_SOUNDS);
  // After the page has been taken over from the server's: both must begin the same.
  useEffect(() => {
    const timer = setTimeout(() => {
      const kept = pieceId === null ? null : keptSounds(pieceId, window.localStorage);
      if (kept) setSettings({ ...FIRST_SOUNDS, ...kept });
    }, 0);
    return () => clearTimeout(timer);
  }, [pieceId]);
  const change = (some: Partial<SoundSettings>): void => {
    const next = { ...settings, ...some };
    setSettings(next);
    if (pieceId !== null) keepSounds(pieceId, next, window.localStorage);
  };
  return { settings, change };
}

/** A riff and what is to sound with it; of a piece where it stands in one. Chords that are said go before guesses. */
export function useSounds(
  setup: Setup,
  riff: Riff,
  piece: Piece | null,
  partId: string | null,
  chordsSaid?: readonly ChordUnder[],
): Sounds {
  const { settings, change } = useSoundSettings(piece?.id ?? null);
  const others = useMemo(
    () =>
      (piece?.parts ?? []).filter((part) => part.id !== partId && part.riffs.some((riff) => riff.events.length > 0)),
    [piece, partId],
  );
  const key = piece ? keyOf(piece, null) : null;
  const reading = riff.alternatives?.find((one) => one.id === settings.turn) ?? null;
  const beside = useMemo(
    () =>
      others.flatMap((part) => {
        const of = part.riffs.find((riff) => riff.id === settings.beside[part.id]);
        return of ? [{ part: part, riff: of }] : [];
      }),
    [others, settings.beside],
  );
  const { backing } = settings;
  const chords = useMemo(
    () => chordsSaid ?? (backing.length > 0 ? chordsOf([riff, ...beside.map((b) => b.riff)], key) : []),
    [backing, riff, beside, key, chordsSaid],
  );
  const tracks = useMemo(
    (): Track[] => [
      { setup, versions: reading ? [withAlternative(riff, reading), riff] : [riff] },
      ...beside.map((b) => ({ setup: b.part.setup, versions: [b.riff] })),
      ...BACKINGS.filter((b) => backing.includes(b)).map((b) => backingTrack(riff, chords, b)),
    ],
    [setup, riff, reading, beside, backing, chords],
  );
  return {
    settings,
    change,
    tracks,
    others,
    chords,
    voices: [
      { id: OWN, name: piece?.parts.find((part) => part.id === partId)?.name ?? setup.instrument.name },
      ...beside.map((b) => ({ id: b.part.id, name: b.part.name })),
      ...BACKINGS.filter((b) => backing.includes(b)).map((b) => ({
        id: b,
        name: b === 'bass' ? 'A plain bass' : 'Plain chords',
      })),
      { id: CLICK, name: 'Click' },
    ],
    chordWords: backing.length > 0 ? chords.map((chord) => chordName(chord.chord)).join(' ') : '',
    chordsSaid: chordsSaid !== undefined,
    turns: reading ? [reading.name, 'as written'] : [],
  };
}
