import type { SyntaxNode } from '@lezer/common';
import { fail, ok, type Finger, type Result } from '../base';
import { fretsLeft, harmonicAt, openPitch, shownFret, type Setup } from '../instrument';
import { microtone, microtoneWords, parseMicrotone } from '../pitch';
import { bendShapes, type BendShape, impossible, PINCHED, type Basis, type Technique } from '../score';
import { phrase } from './articulations';
import { NOTE_FLAGS } from './flag-tokens';
import type { CalledNote, Ear } from './types';

export const BEND_SIZES: Readonly<Record<string, number>> = { quarter: 50, half: 100, whole: 200 };

/** A bend in words: "half", "whole", else cents. */
export const bendWords = (cents: number): string =>
  Object.entries(BEND_SIZES).find(([, c]) => c === cents)?.[0] ?? String(cents);

/** Vibrato by its words, in cents to either side. */
export const VIBRATO = { narrow: 20, plain: 40, wide: 80 } as const;

type Draft = { -readonly [K in keyof CalledNote]: CalledNote[K] };
type TechDraft = { -readonly [K in keyof Technique]: Technique[K] };

/** What the words behind one note change in it; a string says what is wrong. */
type Read = (node: SyntaxNode, note: Draft, techniques: TechDraft) => string | { readonly label: string };

/** Reads the marks behind the notes of one member. Null where one can't be; everything wrong is said. */
export function readMarks(
  from: readonly SyntaxNode[],
  setup: Setup,
  notes: readonly CalledNote[],
  ear: Ear,
  { bar, each = false, span }: MarkOptions,
): CalledNote[] | null {
  const reader = new MarkReader(setup, ear);
  const marks = from.flatMap((parent) => reader.marksIn(parent)).filter(({ node }) => !span || within(node, span));
  if (marks.length === 0) return [...notes];
  const [single] = marks.filter((one) => !SHARED.has(one.name));
  if (single && notes.length > 1 && !each) {
    ear.fault(single.node, 'This belongs to one note; call the notes of the chord with +.');
    return null;
  }
  const out: CalledNote[] = [];
  let refused: string | null = null;
  for (const [i, note] of notes.entries()) {
    const draft: Draft = { ...note };
    const noteTechniques: TechDraft = { ...note.technique };
    for (const { node, read } of marks) {
      const answer = read(node, draft, noteTechniques);
      if (typeof answer === 'string') {
        ear.fault(node, answer);
        return null;
      }
      if (i === 0) ear.understood(node, answer.label);
    }
    const why = impossible(setup, draft.place, noteTechniques, bar);
    if (why && each && notes.length > 1) {
      // Said of a whole chord, a mark goes to the notes it can: an open string doesn't slide.
      refused ??= why;
      out.push(note);
      continue;
    }
    if (why) {
      ear.fault(marks[0]?.node ?? from[0] ?? ({ from: 0, to: 0 } as SyntaxNode), why);
      return null;
    }
    if (
      draft.finger &&
      draft.place &&
      !noteTechniques.dead &&
      !noteTechniques.tapped &&
      (draft.place.fret === 0) !== (draft.finger.finger === 0)
    ) {
      ear.fault(
        marks.find((one) => one.name === 'With')?.node ?? from[0] ?? ({ from: 0, to: 0 } as SyntaxNode),
        draft.place.fret === 0 ? 'An open string takes no finger.' : 'A stopped note needs a finger from 1 to 4.',
      );
      return null;
    }
    out.push({ ...draft, ...(Object.keys(noteTechniques).length > 0 ? { technique: noteTechniques } : {}) });
  }
  if (refused !== null && out.every((note, i) => note === notes[i])) {
    ear.fault(marks[0]?.node ?? from[0] ?? ({ from: 0, to: 0 } as SyntaxNode), refused);
    return null;
  }
  return out;
}

/** How marks are read. */
export interface MarkOptions {
  /** Played with a slide bar. */
  readonly bar: boolean;
  /** They go to each of several notes, where they can. */
  readonly each?: boolean;
  /** Only those that stand in a stretch of the text. */
  readonly span?: { readonly from: number; readonly to: number } | undefined;
}

const within = (node: SyntaxNode, { from, to }: { readonly from: number; readonly to: number }): boolean =>
  node.from >= from && node.to <= to;

/** Marks that may be said of all notes of a grip or chord at once. */
const SHARED = new Set(['Unsure', 'Muffled', 'Lasting', 'Ends', 'Certainty', 'Evidence', 'under', 'Vibrato', 'Down']);

const FINGER_WORDS = ['no finger', 'index', 'middle', 'ring finger', 'little finger', 'thumb over the neck'] as const;
const BASIS_WORDS: Readonly<Record<string, readonly [Basis | null, string]>> = {
  attack: ['attack', 'its attack was heard'],
  'open-ring': ['ring', 'an open string was heard ringing'],
  seen: ['seen', 'seen live'],
  isolated: ['isolated', 'heard alone in the mix'],
  told: ['told', 'told by the player'],
  pattern: ['pattern', 'by the pattern around it'],
  noted: [null, 'noted'],
};

/** The word of the call line for a basis. */
export const basisWord = (basis: Basis | null): string =>
  Object.entries(BASIS_WORDS).find(([, [b]]) => b === basis)?.[0] ?? 'noted';

class MarkReader {
  constructor(
    private readonly setup: Setup,
    private readonly ear: Ear,
  ) {}

  marksIn(parent: SyntaxNode): { name: string; node: SyntaxNode; read: Read }[] {
    const found: { name: string; node: SyntaxNode; read: Read }[] = [];
    for (let node = parent.firstChild; node; node = node.nextSibling) {
      const read = this.reads[node.name];
      // A flag goes by its word.
      if (read) found.push({ name: node.name === 'NoteFlag' ? this.ear.slice(node) : node.name, node, read });
    }
    return found;
  }

  private number(node: SyntaxNode | null): number {
    const number = node?.getChild('Number') ?? node?.getChild('Decimal');
    return number ? Number(this.ear.slice(number)) : NaN;
  }

  private finger(node: SyntaxNode): Finger | null {
    const n = node.getChild('Thumb') ? 5 : this.number(node);
    return n >= 0 && n <= 5 ? (n as Finger) : null;
  }

  private bend(node: SyntaxNode, note: Draft, noteTechniques: TechDraft, pre: boolean): string | { label: string } {
    const size = node.getChild('BendSize');
    const to = node.getChild('BendTo');
    const shape = `${pre ? 'prebend' : ''}${node.getChild('Again') ? 'again' : node.getChild('Released') ? `${pre ? '-' : ''}released` : ''}`;
    if (shape === 'prebendagain') return 'A pre-bend is released or held; for more say the curve.';
    const way = node.getChild('Pushed') ? 'thick' : node.getChild('Pulled') ? 'thin' : null;
    if (way) noteTechniques.bendDirection = way;
    if (node.getChild('Unknown')) {
      if (node.getChild('Curve')) return 'A curve says how far: give its points without "?".';
      noteTechniques.unspecified = [...(noteTechniques.unspecified ?? []), 'bend'];
      if (shape !== '') noteTechniques.bendShape = shape as BendShape;
      return {
        label: `bent${pre ? ' before it is struck' : ''}${node.getChild('Released') ? ' and released' : ''}${node.getChild('Again') ? ', released and bent again' : ''}, how far is not said yet`,
      };
    }
    let by = size ? (BEND_SIZES[this.ear.slice(size)] ?? 0) : this.number(node);
    if (to) {
      const cents = parseMicrotone(this.ear.slice(to).replace(/^to\s*/, ''), note.pitch, null);
      if (!cents.ok) return cents.error.words;
      by = cents.value;
    }
    if (!(by >= 10 && by <= 700)) return 'A bend is quarter, half, whole, to a note, or 10 to 700 cents.';
    noteTechniques.bend = by;
    const curve = node.getChild('Curve');
    if (curve) {
      const points = curve.getChildren('Ratio').map((node) => this.ear.slice(node).split('/').map(Number));
      if (points.length < 2 || points.length > 12)
        return 'A curve has 2 to 12 points, percent of the note and cents: curve 0/0 40/200 100/0.';
      noteTechniques.bendCurve = points.map(([at = 0, cents = 0]) => ({ at, cents }));
    } else if (shape !== '') noteTechniques.bendCurve = [...bendShapes(by)[shape as BendShape]];
    const words = microtoneWords(microtone(note.pitch, by));
    return {
      label: `${pre ? 'bent before it is struck' : 'bent up'} ${by} cents, to ${words.target}${node.getChild('Released') ? ', and released' : ''}${node.getChild('Again') ? ', released and bent again' : ''}${way ? `, ${way === 'thick' ? 'pushed towards the thick' : 'pulled towards the thin'} strings` : ''}`,
    };
  }

  /** A slide from or to nowhere, over so many frets or from or to a fret where that is said. */
  private slide(
    node: SyntaxNode,
    note: Draft,
    noteTechniques: TechDraft,
    end: 'In' | 'Out',
  ): string | { readonly label: string } {
    const way = node.getChild('SlideWay');
    const side = way && this.ear.slice(way).endsWith('lower') ? 'lower' : 'higher';
    noteTechniques[`slide${end}`] = side;
    const label = end === 'In' ? `slid into from ${side} frets` : `slid off to ${side} frets`;
    const over = node.getChild('Over');
    if (!over) return { label };
    const n = this.number(over);
    if (over.getChild('ToFret') && !note.place) return 'This note has no place yet: say "by" and how many frets.';
    const away = over.getChild('ToFret') ? this.ear.fret(note.place?.string ?? 1, n) - (note.place?.fret ?? 0) : null;
    const by = away === null ? n : side === 'lower' ? -away : away;
    if (!(by >= 1 && by <= 24)) return `A slide ${end === 'In' ? 'from' : 'to'} ${side} frets covers 1 to 24 of them.`;
    noteTechniques[`slide${end}By`] = by;
    return { label: `${label}, over ${by}` };
  }

  private readonly reads: Readonly<Record<string, Read>> = {
    Unsure: (_, note) => {
      note.place = note.place ? { ...note.place, sure: false } : null;
      return { label: 'a proposal' };
    },
    Muffled: (_, __, noteTechniques) => {
      noteTechniques.dead = true;
      return { label: 'dead: a click' };
    },
    With: (node, note) => {
      const finger = this.finger(node);
      if (finger === null) return 'Fingers are 1 (index) to 4 (little), or "thumb".';
      const sure = node.getChild('Unsure') === null;
      const or = node.getChild('Or');
      const other = or ? this.finger(or) : null;
      if (or && (other === null || other === 0 || other === finger || finger === 0))
        return 'The other finger that would do is one from 1 to 4, and not the same again.';
      note.finger = { finger, sure, ...(other !== null ? { or: other } : {}) };
      return {
        label: `${FINGER_WORDS[finger]}${other !== null ? ` or ${FINGER_WORDS[other]}` : ''}${sure ? '' : ', proposed'}`,
      };
    },
    Lasting: (node, note) => {
      const dur = this.ear.span(node);
      if (dur === null) return 'Expected a length: "lasting 3/2".';
      note.dur = dur;
      return { label: 'a length of its own' };
    },
    Ends: (_, note) => {
      note.ends = true;
      return { label: 'ends with its beat' };
    },
    Bend: (node, note, noteTechniques) => this.bend(node, note, noteTechniques, false),
    Prebend: (node, note, noteTechniques) => this.bend(node, note, noteTechniques, true),
    Vibrato: (node, _, noteTechniques) => {
      const of = node.getChild('Of');
      const n = of
        ? this.number(of)
        : node.getChild('Wide')
          ? VIBRATO.wide
          : node.getChild('Narrow')
            ? VIBRATO.narrow
            : VIBRATO.plain;
      if (!(n >= 5 && n <= 200)) return 'Vibrato goes 5 to 200 cents to either side.';
      noteTechniques.vibrato = n;
      return { label: `shaken by ${n} cents` };
    },
    Trill: (node, note, noteTechniques) => {
      if (node.getChild('Unknown')) {
        noteTechniques.unspecified = [...(noteTechniques.unspecified ?? []), 'trill'];
        return { label: 'trilled, with which note is not said yet' };
      }
      const n = this.number(node);
      if (!node.getChild('By') && !note.place)
        return 'To which fret? This note has no place yet: say "trill by 2" for two semitones.';
      const by = node.getChild('By') ? n : this.ear.fret(note.place?.string ?? 1, n) - (note.place?.fret ?? 0);
      if (!(by >= 1 && by <= 12)) return 'A trill goes to a higher fret of the same string, twelve on at most.';
      noteTechniques.trill = by;
      return { label: `trilled with ${this.ear.name(note.pitch + by)}` };
    },
    Pinched: (node, note, noteTechniques) => {
      const of = node.getChild('Of');
      const n = of ? this.number(of) : 24;
      if (!(PINCHED as readonly number[]).includes(n))
        return `A pinched note speaks ${PINCHED.join(', ')} semitones above.`;
      noteTechniques.pinched = n;
      return { label: `pinched: ${this.ear.name(note.pitch + n)} speaks` };
    },
    NoteFlag: (node, note, noteTechniques) => {
      const found = NOTE_FLAGS.get(this.ear.slice(node));
      if (!found) return 'This technique is not known.';
      Object.assign(noteTechniques, { [found.name]: true });
      if (found.name === 'tapped') note.finger = null;
      return { label: found.flag.understood ?? found.flag.spoken };
    },
    SlideIn: (node, note, noteTechniques) => this.slide(node, note, noteTechniques, 'In'),
    SlideOff: (node, note, noteTechniques) => this.slide(node, note, noteTechniques, 'Out'),
    Down: (node, _, noteTechniques) => {
      const keep = this.ear.span(node);
      if (keep === null) return 'Expected a length: "down whole".';
      noteTechniques.hold = keep;
      return { label: 'the finger stays down so long' };
    },
    Micro: (node, note) => {
      const n = this.number(node);
      if (!(n >= 0 && n <= 99)) return 'Between 0 and 99 cents, please.';
      note.cents = (node.getChild('Flat') ? -n : n) + 0;
      return { label: `${n} cents ${note.cents < 0 ? 'flat' : 'sharp'}` };
    },
    Target: (node, note) => {
      if (!note.place) return 'This note has no place yet: say its string and fret first.';
      const shown = shownFret(this.setup, note.place.string, note.place.fret, 'capo');
      const cents = Math.round((this.number(node) - shown) * 100);
      if (!(Math.abs(cents) <= 99)) return 'That is a whole fret or more away: call the nearer fret.';
      note.cents = cents;
      return { label: `between the frets: ${Math.abs(cents)} cents ${cents < 0 ? 'flat' : 'sharp'}` };
    },
    Certainty: (node, note) => {
      note.certainty = this.ear.slice(node) as 'likely' | 'guess';
      return { label: note.certainty === 'guess' ? 'a guess' : 'likely' };
    },
    Evidence: (node, note) => {
      const word = node.getChild('Basis');
      const [on, label] = BASIS_WORDS[word ? this.ear.slice(word) : 'noted'] ?? [null, 'noted'];
      const clip = node.getChild('ClipTime');
      const at = clip ? this.number(clip) : null;
      if (at !== null && !(at >= 0 && at <= 36_000)) return 'A place in the clip is in seconds, up to ten hours.';
      note.evidence = { basis: on, at, remark: phrase(node, this.ear).slice(0, 300) };
      return { label: `${label}${at === null ? '' : ` at ${at} s`}` };
    },
    Reason: (node, note) => {
      note.reason = phrase(node, this.ear).slice(0, 300);
      return { label: 'your reason for this place' };
    },
  };
}

/** A natural harmonic by the fret it is touched over, fractional where two nodes lie near one fret. */
export function harmonicCalled(setup: Setup, string: number, fret: number): Result<{ note: CalledNote; node: number }> {
  const node = harmonicAt(fret);
  if (!node || Math.round(node.fret) > fretsLeft(setup, string))
    return fail(
      'no-node',
      'No harmonic sounds clearly there: nodes are at 12, 7, 19, 5, 4, 9, 16, 3.2, 2.7 and 2.3, from the open string.',
    );
  const pitch = openPitch(setup, string) + node.semitones;
  return ok({
    note: {
      pitch,
      place: { string, fret: Math.round(node.fret), sure: true },
      finger: null,
      dur: null,
      technique: { harmonic: true },
    },
    node: node.fret,
  });
}
