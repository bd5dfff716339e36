import type { Result } from '@/core/base';
import { lockAt } from '@/core/command';
import type { Piece, Riff } from '@/core/score';
import type { Edit } from '@/core/edit';
import type { Anchor, AnchorChoice } from '@/core/place';
import type { PhraseAnswer } from '@/workers/place.worker';

/** The phrase an event belongs to. */
export function phraseOf(riff: Riff, phrases: readonly PhraseAnswer[], event: string | null): PhraseAnswer | null {
  if (event === null) return null;
  const index = (id: string): number => riff.events.findIndex((event) => event.id === id);
  const at = index(event);
  return phrases.find((phrase) => index(phrase.from) <= at && at <= index(phrase.to)) ?? null;
}

/** Places offered at most, each with its key. */
const CHOICES = 4;

/** A place less likely than this is offered only where there are no two others. */
const LIKELY = 0.02;

/** From so sure on the program does not ask. */
const SURE_ENOUGH = 0.85;

/** The phrase to ask about: the one in hand where it has a question, else the least sure of the others. */
export function askedPhrase(
  phrases: readonly PhraseAnswer[],
  inHand: PhraseAnswer | null,
  passed: ReadonlySet<string>,
): PhraseAnswer | null {
  const open = (phrase: PhraseAnswer): boolean =>
    phrase.ask !== null && phrase.sure < SURE_ENOUGH && !passed.has(`${phrase.ask.event}.${phrase.ask.note}`);
  if (inHand && open(inHand)) return inHand;
  return [...phrases].filter(open).sort((a, b) => a.sure - b.sure)[0] ?? null;
}

/** The places worth offering: up to four, none that nobody would choose. */
export const offered = (ask: Anchor): readonly AnchorChoice[] =>
  ask.choices.filter((place, i) => i < 2 || place.share >= LIKELY).slice(0, CHOICES);

/** The answer to a question as an edit: the note is locked there. */
export function answerEdit(piece: Piece, riff: Riff, phrase: PhraseAnswer, choice: AnchorChoice): Result<Edit> {
  const note = riff.events.find((event) => event.id === phrase.ask?.event)?.notes[phrase.ask?.note ?? 0];
  return lockAt(
    piece,
    { riff: riff.id, event: phrase.ask?.event ?? '', note: note?.id ?? '' },
    choice.string,
    choice.fret,
  );
}
