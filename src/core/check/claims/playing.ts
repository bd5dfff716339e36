import { joinsInto, type RiffEvent } from '../../score';
import { baseNut, nominalName, openPitch, stringNumbers } from '../../instrument';
import { pitchClass, renderName, type Spelled } from '../../pitch';
import { strokesOf } from '../../rhythm';
import { DEFAULT_SCHOOLS } from '../../schools';
import { setFrame, setTempo } from '../../command';
import { playsWords } from '../../form';
import { ZERO } from '../../time';
import { pitchOf, placeWords } from '../places';
import type { CheckFinding, Mend } from '../types';
import { placed } from './harmony';
import type { ParsedClaim } from './parse';
import type { Stretch, StretchNote } from './stretch';
import { broken, reworded } from './told';

/** Claims about how it is played: places told as lists, bends, ways, strokes, positions, capo, tempo, plays. */

type Of<Kind extends ParsedClaim['kind']> = Extract<ParsedClaim, { readonly kind: Kind }>;
const same = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((one, i) => one === b[i]);
const key = null;

/**
 * Letters, frets and strings told as lists: as many of each, in one order, and what they say sounding in this set-up.
 */
export function list(stretch: Stretch, said: Of<'list'>): CheckFinding[] {
  const { letters, frets, strings } = said;
  const lengths = [letters.length, frets.length, strings.length].filter((n) => n > 1);
  const most = Math.max(...lengths, 1);
  const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;
  const told = [
    letters.length > 0 ? count(letters.length, 'letter') : '',
    frets.length > 0 ? count(frets.length, 'fret') : '',
    strings.length > 1 ? count(strings.length, 'string') : '',
  ].filter(Boolean);
  if (lengths.some((n) => n !== most))
    return [
      broken('letters-frets', stretch, {
        ground: [letters.length, frets.length, strings.length],
        words: `"${stretch.claim.words}" tells ${told.join(' and ')}: which one is missing?`,
        likely: 0.85,
      }),
    ];
  const part = stretch.part;
  const notes = stretch.notes;
  const classes = letters.map(pitchClass);
  const written = notes.map(({ note }) => note.pitch.midi % 12);
  const writtenFrets = notes.map(({ note }) => note.place?.fret ?? -1);
  if (part && letters.length > 1 && frets.length === letters.length && strings.length > 0) {
    const sounds = frets.map(
      (fret, i) => (openPitch(part.setup, strings[Math.min(i, strings.length - 1)] ?? 1) + fret) % 12,
    );
    if (!same(sounds, classes)) return [disagree(stretch, letters, frets, sounds, classes)];
  }
  if (notes.length === most && most > 1) {
    const byFret = frets.length === most && !same(frets, writtenFrets);
    const byLetter = letters.length === most && !same(classes, written);
    if (!byFret && !byLetter) return [];
    const swapped = (byFret && sameSet(frets, writtenFrets)) || (byLetter && sameSet(classes, written));
    const both = byFret && byLetter;
    const off = notes.findIndex((_, i) => (byFret ? frets[i] !== writtenFrets[i] : classes[i] !== written[i]));
    const at = notes[off] ?? null;
    const what = swapped
      ? `${both || letters.length === 0 || frets.length === 0 ? 'the same' : byFret ? 'the same frets' : 'the same letters'} in another order`
      : `another ${byFret ? 'fret' : 'note'}`;
    return [
      broken('letters-frets', stretch, {
        at,
        ground: [written, writtenFrets],
        words: `"${stretch.claim.words}" is said, and ${what} is written${at ? ` at ${placed(stretch.piece, at)} (${pitchOf(at.note.pitch.midi, key)}, ${placeWords(at.note)})` : ''}: which is right?`,
        likely: 0.8,
      }),
    ];
  }
  if (notes.length > 0 && most > 1 && stretch.claim.from !== undefined && notes.length !== most)
    return [
      broken('letters-frets', stretch, {
        ground: [notes.length, most],
        words: `"${stretch.claim.words}" tells ${most} notes, and ${notes.length} are written there: which one is missing?`,
        likely: 0.7,
      }),
    ];
  return [];
}

const sameSet = (a: readonly number[], b: readonly number[]): boolean =>
  same(
    [...a].sort((x, y) => x - y),
    [...b].sort((x, y) => x - y),
  );

function disagree(
  stretch: Stretch,
  letters: readonly Spelled[],
  frets: readonly number[],
  sounds: readonly number[],
  classes: readonly number[],
): CheckFinding {
  const i = sounds.findIndex((pc, k) => pc !== classes[k]);
  const order = sameSet(sounds, classes);
  const letter = letters[i];
  return broken('letters-frets', stretch, {
    ground: [sounds, classes],
    words: order
      ? `"${stretch.claim.words}" gives letters and frets in two orders: which order is played?`
      : `"${stretch.claim.words}": fret ${frets[i] ?? '?'} sounds ${pitchOf(60 + (sounds[i] ?? 0), key).replace(/\d+$/, '')} in this set-up, not ${letter ? renderName(letter) : '?'}. Which is right?`,
    likely: 0.85,
  });
}

export function bend(stretch: Stretch, { to }: Of<'bend'>): CheckFinding[] {
  const bends = stretch.notes.filter(({ note }) => note.technique?.bend);
  const [first] = stretch.notes;
  if (bends.length === 0)
    return first
      ? [
          broken('claim-bend', stretch, {
            at: first,
            ground: ['none'],
            words: `"${stretch.claim.words}" is said, and no bend is written there: is it missing?`,
          }),
        ]
      : [];
  const off = bends.find(
    ({ note }) => (note.pitch.midi + Math.round((note.technique?.bend ?? 0) / 100)) % 12 !== pitchClass(to),
  );
  if (!off) return [];
  const reached = off.note.pitch.midi + (off.note.technique?.bend ?? 0) / 100;
  return [
    broken('claim-bend', stretch, {
      at: off,
      ground: [off.note.pitch.midi, off.note.technique?.bend],
      words: `"${stretch.claim.words}" is said, but the bend at ${placed(stretch.piece, off)} comes to ${Number.isInteger(reached) ? pitchOf(reached, key) : `${pitchOf(Math.floor(reached), key)} and a quarter tone`}: how far?`,
    }),
  ];
}

export function direction(stretch: Stretch, { what, up }: Of<'direction'>): CheckFinding[] {
  const { events } = stretch;
  const wrong = (at: StretchNote | null, is: string): CheckFinding[] => [
    broken('claim-direction', stretch, {
      at,
      ground: [events.map((event) => event.notes.map((note) => note.pitch.midi))],
      words: `"${stretch.claim.words}" is said, but it goes ${is}: which is right?`,
      evidence: 'Up is read as higher in pitch, towards the body.',
    }),
  ];
  if (what === 'line') {
    const tops = events
      .filter((event) => event.notes.length > 0)
      .map((event) => Math.max(...event.notes.map((note) => note.pitch.midi)));
    const gone = (tops.at(-1) ?? 0) - (tops[0] ?? 0);
    return gone !== 0 && gone > 0 !== up ? wrong(stretch.notes[0] ?? null, gone > 0 ? 'up' : 'down') : [];
  }
  for (const [i, event] of events.entries()) {
    const before: RiffEvent | undefined = events[i - 1];
    for (const [id, { from, how }] of joinsInto(before, event)) {
      const note = event.notes.find((one) => one.id === id);
      if (!note || (how !== 'slide' && how !== 'shift')) continue;
      const rises = note.pitch.midi > from.pitch.midi;
      if (rises !== up)
        return wrong(stretch.notes.find((one) => one.note.id === from.id) ?? null, rises ? 'up' : 'down');
    }
  }
  const into = stretch.notes.find(({ note }) => note.technique?.slideIn && (note.technique.slideIn === 'lower') !== up);
  return into ? wrong(into, up ? 'down, from higher frets' : 'up, from lower frets') : [];
}

export function strokes(stretch: Stretch, { stroke }: Of<'strokes'>): CheckFinding[] {
  const { riff, part, piece } = stretch;
  if (!riff || !part) return [];
  const wanted = stroke === 'alternate' ? 'alternate' : stroke === 'down' ? 'down' : null;
  const struck = new Map(
    strokesOf(riff, part.setup, riff.picking ?? DEFAULT_SCHOOLS.picking).map((one) => [one.event, one]),
  );
  const bare = wanted
    ? new Map(
        strokesOf({ ...riff, events: riff.events.map(({ stroke: _, ...event }) => event) }, part.setup, wanted).map(
          (one) => [one.event, one.stroke],
        ),
      )
    : null;
  const off = stretch.events.find((event) => {
    const is = struck.get(event.id)?.stroke;
    if (is !== 'down' && is !== 'up') return false;
    return bare ? is !== bare.get(event.id) : is !== 'up';
  });
  if (!off) return [];
  const is = struck.get(off.id)?.stroke ?? '';
  const at = stretch.notes.find((one) => one.event.id === off.id) ?? null;
  const made = wanted ? setFrame(piece, riff.id, { picking: wanted }) : null;
  const own = stretch.events.every((event) => event.stroke === undefined);
  const mends: Mend[] = made?.ok && own && wanted ? [{ words: `Pick "${riff.name}" so`, edit: made.value }] : [];
  return [
    broken('claim-strokes', stretch, {
      at,
      ground: [stretch.events.map((event) => struck.get(event.id)?.stroke)],
      words: `"${stretch.claim.words}" is said, but at ${at ? placed(piece, at) : 'one place'} it is struck ${is}: which is right?`,
      evidence:
        struck.get(off.id)?.by === 'instructor'
          ? 'That stroke was said on the note.'
          : 'Strokes nobody said go by the school.',
      mends,
    }),
  ];
}

export function position(stretch: Stretch, { fret }: Of<'position'>): CheckFinding[] {
  const off = stretch.notes.find(({ note }) => {
    const place = note.place;
    return place !== null && place.fret > 0 && (place.fret < fret - 1 || place.fret > fret + 4);
  });
  if (!off) return [];
  return [
    broken('claim-position', stretch, {
      at: off,
      ground: [off.note.place?.fret],
      words: `"${stretch.claim.words}" is said, but ${placeWords(off.note)} at ${placed(stretch.piece, off)} is out of its reach: another position, or another place for that note?`,
      evidence: `From position ${fret} a hand takes frets ${fret} to ${fret + 3}, and one to either side.`,
    }),
  ];
}

export function capo(stretch: Stretch, { fret }: Of<'capo'>): CheckFinding[] {
  const parts = stretch.part ? [stretch.part] : stretch.piece.parts;
  const off = parts.find((part) => baseNut(part.setup) !== fret);
  if (!off || (!stretch.part && parts.some((part) => baseNut(part.setup) === fret))) return [];
  const is = baseNut(off.setup);
  return [
    broken('claim-setup', stretch, {
      ground: [is],
      words: `"${stretch.claim.words}" is said, but ${off.name} has ${is === 0 ? 'no capo' : `a capo at ${is}`}: which is right?`,
      evidence: `Its thickest string is ${nominalName(off.setup, Math.max(...stringNumbers(off.setup)))}; everything sounds ${is === 0 ? 'as written' : `${is} semitones higher than open`}.`,
    }),
  ];
}

export function tempo(stretch: Stretch, { bpm, click }: Of<'tempo'>): CheckFinding[] {
  const lane = stretch.section?.context?.tempo ?? stretch.riff?.tempo ?? stretch.piece.context.tempo;
  const is = lane[0]?.bpm ?? 0;
  const clicks = stretch.riff?.click ?? stretch.piece.context.click ?? 1;
  const wrongClick = click !== null && Math.abs(click - bpm * clicks) > 2;
  if (Math.abs(is - bpm) <= 2 && !wrongClick) return [];
  const piece = stretch.section === null && stretch.riff === null;
  return [
    broken('claim-tempo', stretch, {
      ground: [is, clicks],
      words: `"${stretch.claim.words}" is said, but ${Math.abs(is - bpm) > 2 ? `the tempo is ${is}` : `${clicks} ${clicks === 1 ? 'click' : 'clicks'} to the beat make ${bpm * clicks}`}: which is right?`,
      evidence:
        Math.abs(is - 2 * bpm) <= 3
          ? 'It is double: the click may have been taken for the pulse.'
          : Math.abs(is * 2 - bpm) <= 3
            ? 'It is half.'
            : null,
      mends:
        piece && Math.abs(is - bpm) > 2
          ? [{ words: `Set the tempo to ${bpm}`, edit: setTempo([{ at: ZERO, bpm }]) }]
          : [],
    }),
  ];
}

export function plays(stretch: Stretch, { times, repeat }: Of<'plays'>): CheckFinding[] {
  const { piece, riff, section } = stretch;
  const counts = riff
    ? [
        ...new Set([
          ...(riff.plays === undefined ? [] : [riff.plays]),
          ...piece.sections.flatMap((one) =>
            one.rows.flatMap((row) => row.uses.flatMap((use) => (use.riff === riff.id ? [use.plays] : []))),
          ),
        ]),
      ]
    : section
      ? piece.form.filter((entry) => entry.section === section.id).map((entry) => entry.plays)
      : [];
  if (counts.length === 0) return [];
  const fits = repeat ? [times, times + 1] : [times];
  const off = counts.find((one) => !fits.includes(one));
  if (off === undefined && !repeat) return [];
  const is = off ?? counts[0] ?? 0;
  return [
    broken('repeat', stretch, {
      ground: [counts],
      likely: off === undefined ? 0.5 : 0.75,
      words:
        off === undefined
          ? `"${stretch.claim.words}" may be ${playsWords(times)} or ${playsWords(times + 1)}; written is ${playsWords(is)}. Which is meant?`
          : `"${stretch.claim.words}" is said, and ${riff ? `"${riff.name}"` : `"${section?.name ?? ''}"`} is played ${playsWords(is)}: which is right?`,
      mends: [reworded(stretch, `played ${is === 1 ? 'once' : `${is} times`}`)],
    }),
  ];
}
