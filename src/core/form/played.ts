import { finding, type Finding } from '../base';
import type { Key } from '../pitch';
import { optionsFor, placeRiff } from '../place';
import type { Setup } from '../instrument';
import { keyOf, riffEnd, tempoOf, type Part, type Piece, type Riff, type RiffEvent, type Use } from '../score';
import { barStart, cmp, lt, sub, ZERO } from '../time';
import { moveUse } from './move-use';
import { applyVariant } from './variant';

/** What a use plays, from time 0 of its riff. */
export interface Played {
  readonly events: readonly RiffEvent[];
  readonly lostOpen: number;
  readonly findings: readonly Finding[];
}

/** Versions of a riff that were worked out already, by what makes them. */
const versions = new WeakMap<Riff, Map<string, Played & { readonly setup: Setup; readonly placedBy: unknown }>>();

/** The events of a use before they are laid anywhere: varied, cut to its bars, moved, placed where moving unplaced. */
export function playedBy(piece: Piece, part: Part, riff: Riff, use: Use, variant: string | undefined): Played {
  const key: Key | null = keyOf(piece, riff);
  const { costs } = piece;
  const made = JSON.stringify([variant, use.move, use.bars, key?.tonic]);
  const known = versions.get(riff)?.get(made);
  if (known && known.setup === part.setup && known.placedBy === costs) return known;
  const varied = riff.variants?.find((one) => one.id === variant);
  const { events, findings } = varied ? applyVariant(riff, varied) : { events: riff.events, findings: [] };
  const found: Finding[] = [...findings];
  let { lostOpen, played } = { lostOpen: 0, played: within(riff, events, use) };
  if (use.move) {
    const moved = moveUse(part.setup, played, use.move, key);
    if (moved.ok) {
      lostOpen = moved.value.lostOpen;
      const unplaced = moved.value.events.some((event) => event.notes.some((note) => !note.place));
      played = unplaced
        ? placeRiff({ ...riff, events: moved.value.events }, part.setup, tempoOf(piece, riff), optionsFor(piece, part))
            .riff.events
        : moved.value.events;
    } else {
      found.push(
        finding('not-moved', 'error', `"${riff.name}" can't be moved so: ${moved.error.words}`, {
          part: part.id,
          riff: riff.id,
        }),
      );
      played = [];
    }
  }
  const value = { events: played, lostOpen, findings: found, setup: part.setup, placedBy: costs };
  const kept = versions.get(riff) ?? new Map<string, typeof value>();
  kept.set(made, value);
  versions.set(riff, kept);
  return value;
}

/** The bars of a riff a use plays, from time 0. A pickup goes along where it begins at the beginning. */
function within(riff: Riff, events: readonly RiffEvent[], use: Use): readonly RiffEvent[] {
  const end = riffEnd(riff);
  if (!use.bars)
    return events.some((event) => cmp(event.at, end) >= 0) ? events.filter((event) => lt(event.at, end)) : events;
  const from = barStart(riff.meters, use.bars.from);
  const to = barStart(riff.meters, use.bars.from + use.bars.count);
  return events
    .filter((event) => (use.bars?.from === 0 || cmp(event.at, from) >= 0) && lt(event.at, to))
    .map((event) => (from === ZERO ? event : { ...event, at: sub(event.at, from) }));
}
