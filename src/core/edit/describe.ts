import { findPart, findRiff, type Piece } from '../score';
import { keyName } from '../pitch';
import { barOf } from '../time';
import { capoWords, spellTuning } from '../instrument';
import type { Edit } from './types';

/** One line of history in words, read against the document before the edit. */
export function describeEdit(piece: Piece, edit: Edit): string {
  switch (edit.type) {
    case 'batch':
      return edit.what;
    case 'setTitle':
      return `named the piece "${edit.title}"`;
    case 'setTempo':
      return `set the tempo to ${edit.tempo[0]?.bpm ?? '?'}`;
    case 'setKey':
      return edit.key[0] ? `set the key to ${keyName(edit.key[0])}` : 'left the key open';
    case 'setCosts':
      return edit.costs
        ? `placed by the weights "${edit.costs.name}", version ${edit.costs.version}`
        : 'placed by the program’s own weights';
    case 'setPlayer':
      return edit.player
        ? `placed ${findPart(piece, edit.part)?.name ?? edit.part} for ${edit.player.name}`
        : `placed ${findPart(piece, edit.part)?.name ?? edit.part} for an adult hand`;
    case 'setWishes':
      return `changed what is wished for "${findRiff(piece, edit.riff)?.riff.name ?? edit.riff}"`;
    case 'addPart':
      return `added the part "${edit.part.name}"`;
    case 'removePart':
      return `removed the part "${findPart(piece, edit.part)?.name ?? edit.part}"`;
    case 'renamePart':
      return `named the part "${edit.name}"`;
    case 'setSetup':
      return `set up ${findPart(piece, edit.part)?.name ?? edit.part} as ${spellTuning(edit.setup.open, edit.setup.absent)}${edit.setup.capos.length > 0 ? `, capo ${capoWords(edit.setup)}` : ''}`;
    case 'addRiff':
      return `added the riff "${edit.riff.name}"`;
    case 'removeRiff':
      return `removed the riff "${findRiff(piece, edit.riff)?.riff.name ?? edit.riff}"`;
    case 'setRiff':
      return `changed the frame of "${edit.name}"`;
    case 'setReadings':
      return `changed the readings kept of "${findRiff(piece, edit.riff)?.riff.name ?? edit.riff}"`;
    case 'setUnsaid':
      return edit.unsaid.length > 0 ? 'marked something as unsaid' : 'said what had been taken for granted';
    case 'putEvents':
      return describePut(piece, edit);
    case 'placeNote':
      return edit.place
        ? `put ${barWord(piece, edit.riff, edit.event)} on string ${edit.place.string}, ${edit.place.fret === 0 ? 'open' : `fret ${edit.place.fret}`}`
        : `gave ${barWord(piece, edit.riff, edit.event)} back to the program to place`;
    case 'proposePlaces':
      return `placed ${edit.places.length} note${edit.places.length === 1 ? '' : 's'}`;
  }
}

function describePut(piece: Piece, edit: Extract<Edit, { type: 'putEvents' }>): string {
  const riff = findRiff(piece, edit.riff)?.riff;
  const known = new Set(riff?.events.map((e) => e.id));
  const fresh = edit.put.filter((e) => !known.has(e.id)).length;
  const changed = edit.put.length - fresh;
  const parts: string[] = [];
  if (fresh > 0) parts.push(`wrote ${fresh} ${fresh === 1 ? 'event' : 'events'}`);
  if (changed > 0) parts.push(`changed ${changed}`);
  if (edit.remove.length > 0) parts.push(`removed ${edit.remove.length}`);
  return `${parts.join(', ') || 'changed nothing'} in "${riff?.name ?? edit.riff}"`;
}

function barWord(piece: Piece, riffId: string, eventId: string): string {
  const riff = findRiff(piece, riffId)?.riff;
  const event = riff?.events.find((e) => e.id === eventId);
  if (!riff || !event) return 'a note';
  const { bar } = barOf(riff.meters, event.at);
  return bar < 0 ? 'a note of the pickup' : `a note of bar ${bar + 1}`;
}
