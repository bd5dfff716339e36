import { compareVoices, semitoneWords, voicePitch } from '../../arrange';
import { moveShape, moveSound, moveStrings } from '../../carry';
import { differencesOf, differenceWords, eventsOf } from '../../form';
import { findRiff, keyOf, type Part, type Piece, type Riff } from '../../score';
import { add, barOf, barStart, cmp, ZERO, type Quarter } from '../../time';
import { pitchOf } from '../places';
import { heardIn } from '../sounding';
import type { CheckFinding } from '../types';
import { placed } from './harmony';
import type { ParsedClaim } from './parse';
import type { Stretch } from './stretch';
import { broken } from './told';

/** Claims that a stretch is another one again, moved, or an interval away from another part. */

type Of<Kind extends ParsedClaim['kind']> = Extract<ParsedClaim, { readonly kind: Kind }>;
const MOVES = { frets: moveShape, strings: moveStrings, semitones: moveSound } as const;

export function copy(stretch: Stretch, said: Of<'copy'>): CheckFinding[] {
  const { riff, part, claim } = stretch;
  if (!riff || !part) return [];
  const model = said.riff ? part.riffs.find((one) => one.name.toLowerCase() === said.riff?.toLowerCase()) : riff;
  if (!model)
    return [
      broken('claim-copy', stretch, {
        ground: [said.riff],
        words: `"${claim.words}" is said, and ${part.name} has no riff "${said.riff ?? ''}": which one is meant?`,
      }),
    ];
  const from = (claim.from ?? ZERO) as Quarter;
  const bar = Math.max(0, barOf(riff.meters, from).bar);
  const mine = eventsOf(riff, bar, said.bars);
  let theirs = eventsOf(model, said.bar, said.bars);
  if (said.move) {
    const moved = MOVES[said.move.by](part.setup, theirs, said.move.steps);
    if (!moved.ok)
      return [
        broken('claim-copy', stretch, {
          ground: [said.move],
          words: `"${claim.words}" is said, but that can’t be: ${moved.error.words}`,
        }),
      ];
    theirs = [...moved.value.events];
  }
  const heardOnly = said.move?.by === 'semitones';
  const differences = differencesOf(heardOnly ? bare(theirs) : theirs, heardOnly ? bare(mine) : mine).filter(
    (one) => one.kind !== 'technique',
  );
  const [first] = differences;
  if (!first) return [];
  const event = first.after ?? first.before;
  const at = stretch.notes.find((one) => one.event.id === event?.id) ?? null;
  const words = differenceWords(
    { ...first, at: add(first.at, barStart(riff.meters, bar)) },
    { meters: riff.meters, key: keyOf(stretch.piece, riff) },
  );
  return [
    broken('claim-copy', stretch, {
      at,
      ground: [differences.map((one) => [one.kind, one.at])],
      words: `"${claim.words}" is said, but ${words}${differences.length > 1 ? ` (${differences.length} notes differ)` : ''}: meant?`,
      likely: differences.length <= 2 ? 0.8 : 0.6,
    }),
  ];
}

const bare = (events: ReturnType<typeof eventsOf>): ReturnType<typeof eventsOf> =>
  events.map((event) => ({ ...event, notes: event.notes.map((note) => ({ ...note, place: null })) }));

/** The part another one is said to go with, by its name. */
function partNamed(piece: Piece, name: string, own: Part | null): Part | null {
  const plain = name.toLowerCase().replace(/^the /, '').trim();
  return (
    piece.parts.find((part) => part !== own && part.name.toLowerCase() === plain) ??
    piece.parts.find((part) => part !== own && part.name.toLowerCase().startsWith(plain)) ??
    null
  );
}

export function interval(stretch: Stretch, { interval: said, to }: Of<'interval'>): CheckFinding[] {
  const { piece, part, claim } = stretch;
  const model = partNamed(piece, to, part);
  if (!part || !model)
    return [
      broken('claim-interval', stretch, {
        ground: [to],
        words: `"${claim.words}" is said, and no part is called "${to}": which one is meant?`,
        likely: 0.6,
      }),
    ];
  const key = keyOf(piece, stretch.riff);
  for (const { section, notes } of heardIn(piece)) {
    if (claim.section && claim.section !== section.id) continue;
    const own = notes.filter(
      (one) => one.part === part && (!stretch.riff || one.riff === stretch.riff.id) && inside(one.event, stretch),
    );
    const theirs = notes.filter((one) => one.part === model);
    const events = (list: typeof notes) =>
      list.map((one) => ({
        ...one.event,
        at: one.at,
        notes: one.event.notes.filter((note) => note.pitch.midi === one.midi),
      }));
    const compared = compareVoices(events(theirs), events(own), () => key);
    const off = compared.rows.find((row) => {
      if (said.semitones !== null) return row.semitones !== said.semitones;
      const away = key ? voicePitch(row.model.midi, { by: 'steps', steps: said.steps, key }) : null;
      return away !== null && row.voice.midi !== away;
    });
    if (!off) continue;
    const at = stretch.notes.find((one) => one.event.id === off.voice.event) ?? null;
    return [
      broken('claim-interval', stretch, {
        at,
        ground: [off.voice.midi, off.model.midi],
        words: `"${claim.words}" is said, but ${pitchOf(off.voice.midi, key)}${at ? ` at ${placed(piece, at)}` : ''} is a ${semitoneWords(off.semitones)} ${pitchOf(off.model.midi, key)} of ${model.name}: meant?`,
        evidence: `${compared.rows.length} notes begin together.`,
      }),
    ];
  }
  return [];
}

const inside = (event: Riff['events'][number], { claim, riff }: Stretch): boolean =>
  !riff ||
  ((claim.from === undefined || cmp(event.at, claim.from as Quarter) >= 0) &&
    (claim.to === undefined || cmp(event.at, claim.to as Quarter) < 0));

/** Whether two claims are said of stretches that overlap. */
export function overlapping(piece: Piece, a: Stretch['claim'], b: Stretch['claim']): boolean {
  if ((a.section ?? null) !== (b.section ?? null)) return false;
  if (a.riff && b.riff && a.riff !== b.riff) return false;
  const parts = [a, b].map((claim) => claim.part ?? (claim.riff ? findRiff(piece, claim.riff)?.part.id : undefined));
  if (parts[0] && parts[1] && parts[0] !== parts[1]) return false;
  if ((a.riff ?? null) !== (b.riff ?? null)) return false;
  const end = (to: string | undefined): Quarter | null => (to === undefined ? null : (to as Quarter));
  const [fromA, fromB] = [(a.from ?? '-64') as Quarter, (b.from ?? '-64') as Quarter];
  const [toA, toB] = [end(a.to), end(b.to)];
  return (toB === null || cmp(fromA, toB) < 0) && (toA === null || cmp(fromB, toA) < 0);
}
