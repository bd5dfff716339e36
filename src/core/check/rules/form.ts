import { freeLabel, patchSectionBy, setFrame } from '../../command';
import { moveWords, resolve, rowOver, spansOf } from '../../form';
import { soundingName } from '../../instrument';
import { joinOf, riffEnd, riffStart, type Part, type Piece, type Riff, type RiffEvent } from '../../score';
import { add, barStart, cmp, describeQuarters, mul, secondsAt, toNumber, ZERO } from '../../time';
import { whereIn } from '../places';
import { asked, type CheckFinding, type PartRule, type PieceRule } from '../types';

/**
 * What the form says against what it holds: rows over or short, labels used twice, moved open strings, joints of
 * loops.
 */

/** Rows that don't fill their section, moves that can't be made, variants that lost their riff. */
export const rows: PartRule = {
  id: 'rows',
  name: 'a part with more or less than a section’s bars',
  on: 'part',
  reads: (piece) => [piece.sections, piece.form, piece.parts, piece.costs, piece.context],
  find: (part, piece) => {
    const own = (resolve(piece, part.id)?.findings ?? []).map((found) =>
      asked('rows', {
        ...{ locus: found.locus, words: found.words, evidence: found.evidence, severity: found.severity },
        about: [part.id, found.rule, found.locus],
        ground: [found.words],
        likely: 0.7,
      }),
    );
    const short = piece.sections.flatMap((section) => {
      const row = section.rows.find((one) => one.part === part.id);
      if (!row || row.uses.length === 0) return [];
      const off = rowOver(piece, section, row);
      if (cmp(off, ZERO) >= 0) return [];
      const lacks = mul(off, -1);
      const bar = barStart(part.riffs.find((riff) => riff.id === row.uses.at(-1)?.riff)?.meters ?? FOUR, 1);
      // Some bars short may be a rest nobody wrote; part of a bar short is a wrong count.
      const odd = !Number.isInteger(toNumber(lacks) / toNumber(bar));
      return [
        asked('rows', {
          locus: { part: part.id, path: ['sections', section.id] },
          about: [part.id, section.id, 'short'],
          ground: [off, section.bars],
          words: `${part.name} stops ${describeQuarters(lacks)} quarters before "${section.name}" ends: a rest, or one time too few?`,
          likely: odd ? 0.7 : 0.5,
        }),
      ];
    });
    return [...own, ...short];
  },
};

const FOUR = [{ bar: 0, beats: 4, unit: 4 }] as const;

/** Two sections, or two riffs of a part, that go by one name and are not the same. */
export const labels: PieceRule = {
  id: 'label-twice',
  name: 'a name used twice',
  on: 'piece',
  find: (piece) => {
    const plain = (name: string): string => name.trim().toLowerCase();
    const sections = piece.sections.flatMap((section, i) => {
      const first = piece.sections.findIndex((one) => plain(one.name) === plain(section.name));
      const other = piece.sections[first];
      if (first === i || !other) return [];
      const to = freeLabel(piece.sections, section.name);
      const made = patchSectionBy(piece, section.id, { name: to });
      return [
        asked('label-twice', {
          locus: { path: ['sections', section.id] },
          about: [section.id],
          ground: [section.name, other.id],
          words: `Two sections are called "${section.name}": is the second one another?`,
          evidence: `One has ${other.bars} bars, the other ${section.bars}.`,
          likely: 0.7,
          mends: made.ok ? [{ words: `Call it "${to}"`, edit: made.value }] : [],
        }),
      ];
    });
    const riffs = piece.parts.flatMap((part) =>
      part.riffs.flatMap((riff, i) => {
        const first = part.riffs.findIndex((one) => plain(one.name) === plain(riff.name));
        if (first === i) return [];
        const to = freeName(part.riffs, riff.name);
        const made = setFrame(piece, riff.id, { name: to });
        return [
          asked('label-twice', {
            locus: { part: part.id, riff: riff.id },
            about: [riff.id],
            ground: [riff.name, part.riffs[first]?.id],
            words: `${part.name} has two riffs called "${riff.name}": is the second one another?`,
            likely: 0.65,
            mends: made.ok ? [{ words: `Call it "${to}"`, edit: made.value }] : [],
          }),
        ];
      }),
    );
    return [...sections, ...riffs];
  },
};

function freeName(riffs: readonly Riff[], name: string): string {
  const taken = new Set(riffs.map((riff) => riff.name.toLowerCase()));
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`.toLowerCase())) return `${name} ${n}`.slice(0, 120);
}

/** A riff that is moved where it is used, and had open strings: they are stopped now, or have changed their degree. */
export const movedOpen: PartRule = {
  id: 'moved-open',
  name: 'open strings lost by moving a shape',
  on: 'part',
  reads: (piece) => [piece.sections, piece.form, piece.costs, piece.context],
  find: (part, piece) => {
    const told = new Set<string>();
    return spansOf(piece, part).spans.flatMap(({ use, lostOpen, riff, pass }): CheckFinding[] => {
      if (lostOpen === 0 || !use.move || !riff || told.has(use.id)) return [];
      told.add(use.id);
      const open = [
        ...new Set(
          riff.events.flatMap((event) =>
            event.notes.flatMap((note) => (note.place?.fret === 0 ? [note.place.string] : [])),
          ),
        ),
      ];
      return [
        asked('moved-open', {
          locus: { part: part.id, riff: riff.id, path: ['sections', pass.section.id] },
          about: [use.id],
          ground: [use.move, lostOpen, riff.id, open],
          words: `"${riff.name}" in "${pass.section.name}" goes ${moveWords(use.move)}: ${lostOpen === 1 ? 'a note that was open is' : `${lostOpen} notes that were open are`} stopped there. Is it played so?`,
          evidence: `Open ${open.length === 1 ? 'was string' : 'were strings'} ${open.sort((a, b) => b - a).join(', ')} (${open.map((string) => soundingName(part.setup, string)).join(', ')}). A shape without open strings, or other places, may lie better.`,
          likely: 0.35,
        }),
      ];
    });
  },
};

/** How the last of a riff leads into its first where it comes again. */
export const joint: PartRule = {
  id: 'loop-joint',
  name: 'how a riff leads back into itself',
  on: 'part',
  reads: (piece) => [piece.sections, piece.form, piece.context],
  find: (part, piece) => {
    const again = new Set(part.riffs.filter((riff) => (riff.plays ?? 1) > 1).map((riff) => riff.id));
    for (const section of piece.sections)
      for (const row of section.rows)
        if (row.part === part.id)
          row.uses.forEach((use, i) => {
            if (use.riff && (use.plays > 1 || row.uses[i + 1]?.riff === use.riff)) again.add(use.riff);
          });
    return part.riffs.flatMap((riff) => (again.has(riff.id) ? loop(riff, part, piece) : []));
  },
};

/** Frets a hand may jump at once, and how long it has for it: beyond both nobody arrives in time. */
const JUMP = { frets: 7, seconds: 0.25 } as const;

function loop(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const events = riff.events.filter((event) => event.notes.length > 0 && !event.grace);
  const [first, last] = [events[0], events.at(-1)];
  if (!first || !last || first === last || (riff.variants?.length ?? 0) > 0) return [];
  const out: CheckFinding[] = [];
  const begins = add(riffEnd(riff), riffStart(riff));
  const covered = events.filter((event) => cmp(event.at, begins) >= 0);
  if (riff.pickup !== ZERO && covered.length > 0)
    out.push(
      asked('loop-joint', {
        locus: { part: part.id, riff: riff.id, event: covered[0]?.id ?? last.id },
        about: [riff.id, 'pickup'],
        ground: [riff.pickup, covered.map((event) => event.at)],
        words: `"${riff.name}" comes again, and its pickup falls on what its last bar plays at ${whereIn(riff, covered[0] ?? last)}: which of them sounds the second time?`,
        evidence: 'In the form the pickup is played instead.',
        likely: 0.6,
      }),
    );
  const from = last.notes.flatMap((note) => (note.place && note.place.fret > 0 ? [note.place.fret] : []));
  const to = first.notes.flatMap((note) => (note.place && note.place.fret > 0 ? [note.place.fret] : []));
  const tempo = riff.tempo ?? piece.context.tempo;
  const seconds = secondsAt(tempo, add(begins, ZERO)) - secondsAt(tempo, last.at);
  const before = Math.max(0, ...events.slice(1).map((event, i) => fretsBetween(events[i], event)));
  const jump = from.length > 0 && to.length > 0 ? Math.abs(Math.min(...from) - Math.min(...to)) : 0;
  if (jump > Math.max(JUMP.frets, before) && seconds < JUMP.seconds)
    out.push(
      asked('loop-joint', {
        locus: { part: part.id, riff: riff.id, event: last.id },
        about: [riff.id, 'jump'],
        ground: [jump, Math.round(seconds * 100), from, to],
        words: `From the last note of "${riff.name}" back to its first is ${jump} frets in ${Math.round(seconds * 1000)} ms: does another ending lead back?`,
        likely: 0.6,
      }),
    );
  const join = joinOf(last);
  const leads =
    join && first.notes.some((note) => last.notes.some((one) => one.join && one.place?.string === note.place?.string));
  if (join && !leads)
    out.push(
      asked('loop-joint', {
        locus: { part: part.id, riff: riff.id, event: last.id },
        about: [riff.id, 'join'],
        ground: [join, last.notes.map((note) => note.place?.string), first.notes.map((note) => note.place?.string)],
        words: `The last note of "${riff.name}" is joined to what follows, and where the riff comes again that is its first note, on another string: what does it lead to?`,
        likely: 0.65,
      }),
    );
  return out;
}

/** How far the hand goes from one event to the next, by the lowest frets that are pressed. */
function fretsBetween(a: RiffEvent | undefined, b: RiffEvent): number {
  const low = (event: RiffEvent | undefined): number =>
    Math.min(...(event?.notes.flatMap((note) => (note.place && note.place.fret > 0 ? [note.place.fret] : [])) ?? []));
  const apart = Math.abs(low(a) - low(b));
  return Number.isFinite(apart) ? apart : 0;
}
