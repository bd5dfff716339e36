import { freshIds } from '../../base';
import { moveEvents, removeEvents } from '../../command';
import { lengthLabel } from '../../rhythm';
import { keyOf, type Part, type Piece, type RiffEvent } from '../../score';
import { add, barStart, cmp, sub, toNumber, ZERO, type Quarter } from '../../time';
import { atItsEnd, cellsOf, classesOf, type Cell, type CellClass } from '../cells';
import { pitchOf } from '../places';
import { asked, type CheckFinding, type Mend, type PartRule } from '../types';
import { standsIn } from './copy';

/**
 * A bar that is another one again with a note missing, or with one more: counted by its onsets, before anyone listens.
 */

const LEAST = 5;
const SLIP = {
  ...{ lost: 0.45, closed: 0.75, extra: 0.35 },
  /** Silence where the note would be; or the note before is held through it. */
  ...{ gap: 0.15, held: -0.3 },
  ...{ agreed: 0.2, ending: -0.3 },
  /** Every other bar of the riff is full to its end. */
  full: 0.2,
} as const;

type Kind = 'lost' | 'closed' | 'extra';

interface Missing {
  readonly kind: Kind;
  readonly model: CellClass;
  /** The event of the model that is not there; of the bar itself where it is one too many. */
  readonly event: RiffEvent;
  /** Where it would stand in the cell, or stands. */
  readonly at: Quarter;
}

const pitches = (cell: Cell, i: number): string => (cell.notes[i] ?? []).map((note) => note.pitch.midi).join('+');

/** The index at which `more` has one event beyond `fewer`, everything else the same and at the same time. */
function oneMore(more: Cell, fewer: Cell): number | null {
  if (more.events.length !== fewer.events.length + 1) return null;
  let at = 0;
  while (at < fewer.events.length && more.at[at] === fewer.at[at] && pitches(more, at) === pitches(fewer, at)) at++;
  for (let i = at; i < fewer.events.length; i++)
    if (more.at[i + 1] !== fewer.at[i] || pitches(more, i + 1) !== pitches(fewer, i)) return null;
  return at;
}

/** The same where what follows came forward into the place of the lost event. */
function oneMoreClosed(more: Cell, fewer: Cell): number | null {
  if (more.events.length !== fewer.events.length + 1) return null;
  const sounds = (cell: Cell): string[] => cell.events.map((_, i) => pitches(cell, i));
  const [a, b] = [sounds(more), sounds(fewer)];
  for (let at = 0; at < a.length - 1; at++) {
    const gap = sub(more.at[at + 1] ?? ZERO, more.at[at] ?? ZERO);
    const fits = b.every((sound, i) =>
      i < at
        ? sound === a[i] && fewer.at[i] === more.at[i]
        : sound === a[i + 1] &&
          fewer.at[i] === sub(more.at[i + 1] ?? ZERO, gap) &&
          fewer.events[i]?.dur === more.events[i + 1]?.dur,
    );
    if (fits) return at;
  }
  return null;
}

function missingOf(one: CellClass, model: CellClass): Missing | null {
  if (one.length !== model.length || Math.max(one.first.events.length, model.first.events.length) < LEAST) return null;
  const lost = oneMore(model.first, one.first);
  if (lost !== null) return made('lost', model, model.first, lost);
  const closed = oneMoreClosed(model.first, one.first);
  if (closed !== null) return made('closed', model, model.first, closed);
  const extra = oneMore(one.first, model.first);
  return extra === null ? null : made('extra', model, one.first, extra);
}

function made(kind: Kind, model: CellClass, cell: Cell, index: number): Missing | null {
  const event = cell.events[index];
  return event ? { kind, model, event, at: cell.at[index] ?? ZERO } : null;
}

export const lostNote: PartRule = {
  id: 'lost-note',
  name: 'a note lost, or one too many',
  on: 'part',
  // What is written in takes the next free ids.
  reads: (piece) => [piece.context.key, piece.lastId],
  find: (part, piece) => {
    const classes = classesOf(part, 1);
    return classes.flatMap((one): CheckFinding[] => {
      const [cell] = one.cells;
      // What comes again is meant.
      if (!cell || one.cells.length > 1) return [];
      const found = classes.flatMap((model) => (model === one ? [] : (missingOf(one, model) ?? [])));
      const [best] = found.sort((a, b) => b.model.cells.length - a.model.cells.length || (a.kind === 'extra' ? 1 : -1));
      return best ? question(part, piece, one, cell, best) : [];
    });
  },
};

function question(part: Part, piece: Piece, one: CellClass, cell: Cell, missing: Missing): CheckFinding[] {
  const { kind, model, event, at } = missing;
  const models = model.cells.length;
  // One note more or fewer between two bars that come once each: the shorter one may have lost it.
  if (kind === 'extra' && models < 2) return [];
  const start = barStart(cell.riff.meters, cell.bar);
  const before = cell.events.findLast((_, i) => cmp(cell.at[i] ?? ZERO, at) < 0);
  const held = before !== undefined && cmp(sub(add(before.at, before.dur), start), at) > 0;
  const likely =
    SLIP[kind] +
    (kind === 'lost' ? (held ? SLIP.held : SLIP.gap) : 0) +
    (models >= 3 ? SLIP.agreed : 0) +
    (kind !== 'closed' && atItsEnd(cell, at) ? SLIP.ending + (kind === 'lost' && othersFull(cell) ? SLIP.full : 0) : 0);
  const key = keyOf(piece, cell.riff);
  const name = event.notes.map((note) => pitchOf(note.pitch.midi, key)).join(' ') || 'a hit';
  const beat = toNumber(at);
  const where = standsIn(model, cell);
  const told = {
    lost: `Bar ${cell.bar + 1} is ${where} again without the ${name} ${beats(beat)}: lost, or left out on purpose?`,
    closed: `Bar ${cell.bar + 1} is ${where} again, but the ${name} ${beats(beat)} is missing and all after it comes ${lengthLabel(gapOf(model.first, event))} early: lost?`,
    extra: `Bar ${cell.bar + 1} is ${where} again with ${name} ${beats(beat)} besides: meant?`,
  }[kind];
  const locusEvent = kind === 'extra' ? event : (before ?? cell.events[0]);
  return [
    asked('lost-note', {
      locus: { part: part.id, riff: cell.riff.id, bar: cell.bar, ...(locusEvent ? { event: locusEvent.id } : {}) },
      about: [cell.riff.id, kind, cell.bar, event.notes.map((note) => note.pitch.midi)],
      ground: [one.onsets, model.onsets, models],
      words: told,
      evidence: `${models === 1 ? 'One bar has' : `${models} bars have`} it${kind === 'extra' ? ' without' : ''}; all other notes agree.`,
      likely,
      mends: mendsOf(part, piece, cell, missing, start),
    }),
  ];
}

/** Whether all other bars of a riff sound to their bar line, three of them at least. */
function othersFull({ riff, bar }: Cell): boolean {
  const others = cellsOf(riff, 1).filter((one) => one.bar !== bar);
  return (
    others.length >= 3 &&
    others.every(({ events, bar: at }) => {
      const last = events.at(-1);
      return last !== undefined && cmp(add(last.at, last.dur), barStart(riff.meters, at + 1)) >= 0;
    })
  );
}

const beats = (quarters: number): string => `${Math.round(quarters * 100) / 100} quarters in`;

function gapOf(model: Cell, event: RiffEvent): Quarter {
  const i = model.events.indexOf(event);
  const [from, to] = [model.at[i], model.at[i + 1]];
  return from !== undefined && to !== undefined ? sub(to, from) : event.dur;
}

function mendsOf(part: Part, piece: Piece, cell: Cell, missing: Missing, start: Quarter): Mend[] {
  const { riff } = cell;
  const { kind, event, model, at } = missing;
  if (kind === 'extra') {
    const gone = removeEvents(piece, riff.id, [event.id]);
    return gone.ok ? [{ words: 'Delete it', edit: gone.value }] : [];
  }
  const fresh = freshIds(piece.lastId);
  const copy: RiffEvent = {
    ...event,
    id: fresh('e'),
    at: add(start, at),
    notes: event.notes.map((note) => ({ ...note, id: fresh('n') })),
  };
  const add_ = { type: 'putEvents', part: part.id, riff: riff.id, put: [copy], remove: [] } as const;
  if (kind === 'lost') return [{ words: 'Write it in', edit: add_ }];
  const later = cell.events.filter((_, i) => cmp(cell.at[i] ?? ZERO, at) >= 0).map((one) => one.id);
  const moved = moveEvents(piece, riff.id, later, gapOf(model.first, event));
  if (!moved.ok || moved.value.type === 'batch') return [];
  return [
    {
      words: 'Write it in, and move what follows',
      edit: { type: 'batch', what: 'wrote a lost note in', edits: [moved.value, add_] },
    },
  ];
}
