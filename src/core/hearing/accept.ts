import type { Cents, Midi, Seconds } from '../base';
import { quantise, type Grid } from '../rhythm';
import { withJoin, type Note, type RiffEvent, type Technique } from '../score';
import { add, cmp, quarter, sub, toNumber, type Quarter } from '../time';
import type { BarMap } from './bars';

/** A note heard, by the program or by the instructor, on its way into a part. */
export interface Offer {
  readonly at: Seconds;
  readonly until: Seconds;
  readonly midi: Midi;
  readonly cents: Cents;
  readonly certainty: number;
  readonly begins: 'struck' | 'joined';
  readonly manner:
    | { readonly kind: 'bend'; readonly cents: Cents; readonly released: boolean }
    | { readonly kind: 'slide'; readonly from: Midi }
    | { readonly kind: 'vibrato'; readonly width: Cents; readonly hz: number }
    | null;
  /** What it rests on: heard by the program, or by the instructor's own ear. */
  readonly by: 'program' | 'ear';
  readonly basis: 'attack' | 'ring' | 'slide' | null;
}

/** 0:12.4 */
export const clipTime = (at: Seconds): string =>
  `${Math.floor(at / 60)}:${(at % 60 < 10 ? '0' : '') + (Math.floor((at % 60) * 10) / 10).toFixed(1)}`;

const sureOf = (offer: Offer): Note['certainty'] =>
  offer.by === 'ear' || offer.certainty > 0.85 ? 'sure' : offer.certainty > 0.55 ? 'likely' : 'guess';

/**
 * Heard notes as events of a riff: onsets drawn to a grid along the clip's bars, pitches known,
 * places open for the solver, each with where in the clip it was heard. Notes drawn to one place
 * sound together. `moved` says how far each was drawn, in milliseconds.
 */
export function heardEvents(
  offers: readonly Offer[],
  bars: BarMap,
  grid: Grid,
  finest = 4,
): { readonly events: RiffEvent[]; readonly moved: readonly number[] } {
  const sorted = [...offers].sort((a, b) => a.at - b.at);
  const drawn = quantise(
    sorted.map((offer) => bars.quarters(offer.at)),
    grid,
    finest,
  );
  const moved = sorted.map((offer, i) =>
    Math.round((bars.seconds(toNumber(drawn[i]?.at ?? quarter(0))) - offer.at) * 1000),
  );
  const groups = new Map<Quarter, Offer[]>();
  sorted.forEach((offer, i) => {
    const at = drawn[i]?.at ?? quarter(0);
    groups.set(at, [...(groups.get(at) ?? []), offer]);
  });
  const times = [...groups.keys()].sort(cmp);
  const smallest = quarter(1, 4);
  const events = times.map((at, i): RiffEvent => {
    const group = groups.get(at) ?? [];
    const next = times[i + 1];
    const until = Math.max(...group.map((offer) => bars.quarters(offer.until)));
    // As long as it was heard, to the next sixteenth, and no longer than to the next note.
    const hearing = quarter(Math.max(1, Math.round((until - toNumber(at)) * 4)), 4);
    const room = next ? sub(next, at) : hearing;
    const gap = next ? toNumber(room) - toNumber(hearing) : 0;
    const dur = next && (gap < 0.3 || cmp(hearing, room) > 0) ? room : cmp(hearing, smallest) < 0 ? smallest : hearing;
    const following = next ? (groups.get(next) ?? [])[0] : undefined;
    const [first] = group;
    const joins =
      group.length === 1 &&
      first &&
      following &&
      (groups.get(next as Quarter) ?? []).length === 1 &&
      following.begins === 'joined' &&
      cmp(add(at, dur), next as Quarter) === 0;
    const slides = joins && following.manner?.kind === 'slide';
    const notes = group
      .filter((offer, index) => group.findIndex((one) => one.midi === offer.midi) === index)
      .map((offer, index): Note => {
        const techniques: Technique = {
          ...(offer.manner?.kind === 'bend' ? { bend: offer.manner.cents } : {}),
          ...(offer.manner?.kind === 'vibrato' ? { vibrato: Math.max(5, offer.manner.width) } : {}),
          ...(offer.manner?.kind === 'slide' && offer.begins === 'struck'
            ? { slideIn: offer.manner.from < offer.midi ? ('lower' as const) : ('higher' as const) }
            : {}),
        };
        return {
          id: `n${i}-${index}`,
          pitch: { midi: offer.midi, cents: 0, by: offer.by === 'ear' ? 'instructor' : 'heard' },
          place: null,
          dur: null,
          certainty: sureOf(offer),
          evidence: {
            basis: offer.basis === 'ring' ? 'ring' : 'attack',
            at: Math.max(0, Math.round(offer.at * 1000) / 1000),
            remark: `heard at ${clipTime(Math.max(0, offer.at))}${offer.by === 'ear' ? ' by ear' : ''}${offer.basis === 'slide' ? ', slide noise' : ''}`,
          },
          ...(Object.keys(techniques).length > 0 ? { technique: techniques } : {}),
        };
      });
    const join =
      joins && following && first ? (slides ? 'slide' : following.midi > first.midi ? 'hammer' : 'pull') : null;
    return withJoin({ id: `e${i}`, at, dur, notes, letRing: false }, join);
  });
  return { events, moved };
}
