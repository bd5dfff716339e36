import type { PlacedEvent, Term, TermName, Way } from './types';

const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** What a term says, with its quantity, as the middle of a sentence. */
const WORDS: Record<TermName, (amount: number) => string> = {
  stretch: (mm) => `a stretch of ${Math.round(mm)} mm`,
  finger: (n) => `${count(n, 'finger')} pressed`,
  spread: (n) => `a finger ${count(n, 'fret')} beyond one-finger-a-fret`,
  bunched: (n) => `fingers drawn together by ${count(n, 'fret')}`,
  gap: (n) => `${count(n, 'string')} to keep silent inside the chord`,
  barre: (n) => `a barre over ${count(n + 1, 'string')}`,
  open: (n) => (n > 1 ? 'open strings the hand can’t shape' : 'an open string the hand can’t shape'),
  openFar: () => 'an open string far from where the hand is',
  pedal: () => 'an open pedal',
  offString: (n) => `${count(n, 'note')} off the strings you wished for`,
  closed: (n) => `${count(n, 'note')} stopped that could ring open`,
  bend: (newtons) => `a bend that asks ${Math.round(newtons)} N of the finger`,
  thumb: () => 'the thumb over the neck',
  damp: (n) => `${count(n, 'string')} to damp under the bar`,
  openGrip: () => 'an open string in a grip that can’t move with it',
  dull: (n) => `a thick string ${count(n, 'fret')} up where it sounds dull`,
  low: (n) => `the hand ${count(n, 'fret')} below the middle of the neck`,
  high: (n) => `the hand ${count(n, 'fret')} above the middle of the neck`,
  openThin: (n) => (n > 1 ? 'open thin strings the hand can’t shape' : 'an open thin string the hand can’t shape'),
  skip: (n) => `${count(n, 'string')} skipped`,
  reshape: (n) => (n < 1 ? 'the grip moved to other strings' : 'another shape of grip'),
  swap: () => 'a finger changed where it could stay',
  far: () => 'frets beyond the body joint',
  wish: (n) => `${count(n, 'fret')} from the wished position`,
  travel: (mm) => `a shift of ${Math.round(mm)} mm`,
  blindShift: () => 'a shift with no finger to guide it',
  jump: () => 'one finger leaping to another string and fret',
  roll: () => 'one finger moving over to the next string',
  drag: () => 'one finger moving along its string',
  cross: (n) => `${count(n, 'string')} for the pick to cross`,
};

export const termWords = (term: Pick<Term, 'name' | 'amount'>): string => WORDS[term.name](term.amount);

/** Terms that make no difference to a player are not worth a word. */
const WORTH = 0.3;

/** Why an event lies where it does: where the hand is and comes from, and the terms that weigh. */
export function explainEvent(event: PlacedEvent, before: PlacedEvent | null = null): string {
  const stopped = event.notes.some((place) => place && place.fret > 0);
  const travel = event.move.find((term) => term.name === 'travel');
  const hand = !stopped
    ? 'Open: the hand is free'
    : travel && before
      ? `The hand moves from fret ${before.hand} to ${event.hand}, ${Math.round(travel.amount)} mm`
      : before && before.hand === event.hand
        ? `The hand stays at fret ${event.hand}`
        : `The hand begins at fret ${event.hand}`;
  const weighty = [...event.hold, ...event.move]
    .filter((term) => term.cost >= WORTH && !['travel', 'finger', 'open'].includes(term.name))
    .sort((a, b) => b.cost - a.cost);
  return weighty.length === 0 ? `${hand}.` : `${hand}; it costs ${weighty.slice(0, 2).map(termWords).join(' and ')}.`;
}

/** Why a way costs more than another: the terms that grew most, and whether that is here or later. */
export function explainDifference(best: Way, other: Way, at: number): string {
  const grown: { term: Term; by: number; where: number }[] = [];
  other.events.forEach((event, i) => {
    const base = best.events[i];
    if (!base) return;
    const names = new Set([...event.hold, ...event.move, ...base.hold, ...base.move].map((term) => term.name));
    for (const name of names) {
      const by = sumOf(event, name) - sumOf(base, name);
      const term = [...event.hold, ...event.move].find((term) => term.name === name);
      if (by > 0.02 && term) grown.push({ term, by, where: i });
    }
  });
  grown.sort((a, b) => b.by - a.by);
  const first = grown[0];
  const second = grown.find((one) => one.term.name !== first?.term.name);
  if (!first) return 'As easy as any.';
  const words = [first, ...(second && second.by > first.by / 3 ? [second] : [])].map(
    (one) => `${termWords(one.term)}${whereWord(one.where, at)}`,
  );
  return `${capital(words.join(', and '))}.`;
}

const sumOf = (event: PlacedEvent, name: TermName): number =>
  [...event.hold, ...event.move].reduce((sum, term) => (term.name === name ? sum + term.cost : sum), 0);

function whereWord(where: number, at: number): string {
  if (where === at) return '';
  if (where === at + 1) return ' right after it';
  return where > at ? ' later on' : ' before it';
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
