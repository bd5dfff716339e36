import type { SyntaxNode } from '@lezer/common';
import { fail, ok, type Result } from '../base';
import { fretsLeft, harmonicAt, openPitch, type Setup } from '../instrument';
import { impossible, type Tech } from '../score';
import type { Quarter } from '../time';
import type { CalledNote } from './types';

/** What reading a mark needs of its reader. */
interface Ear {
  readonly slice: (node: SyntaxNode) => string;
  readonly fault: (node: SyntaxNode, message: string) => void;
  readonly understood: (node: SyntaxNode, label: string) => void;
  readonly span: (node: SyntaxNode) => Quarter | null;
  /** A typed fret as counted from the string's own zero. */
  readonly fret: (string: number, typed: number) => number;
  readonly name: (pitch: number) => string;
}

/** Techniques said behind a note; `of` gives what they add to it. Null where one can't be. */
export interface Marks {
  readonly of: (note: CalledNote) => Pick<CalledNote, 'tech' | 'cents'>;
}

export const BEND_SIZES: Readonly<Record<string, number>> = { quarter: 50, half: 100, whole: 200 };

/** A bend in words: "half", "whole", else cents. */
export const bendWords = (cents: number): string => Object.entries(BEND_SIZES).find(([, c]) => c === cents)?.[0] ?? String(cents);

export function readMarks(member: SyntaxNode, setup: Setup, notes: readonly CalledNote[], ear: Ear): Marks | null {
  const [only] = notes;
  const tech: { -readonly [K in keyof Tech]: Tech[K] } = {};
  let cents = 0;
  if (member.getChild('Muffled')) {
    tech.dead = true;
    ear.understood(member.getChild('Muffled') ?? member, 'dead: a click');
  }
  const nodes = (['Bend', 'Trill', 'Down', 'Micro'] as const).flatMap((name) => member.getChildren(name).map((node) => ({ name, node })));
  if (nodes.length > 0 && notes.length > 1) {
    ear.fault(nodes[0]?.node ?? member, 'This belongs to one note; call the notes of the chord with +.');
    return null;
  }
  for (const { name, node } of nodes) {
    const number = node.getChild('Number');
    const n = number ? Number(ear.slice(number)) : NaN;
    if (name === 'Bend') {
      const size = node.getChild('BendSize');
      const by = size ? (BEND_SIZES[ear.slice(size)] ?? 0) : n;
      if (!(by >= 10 && by <= 700)) return bad(ear, node, 'A bend is quarter, half, whole, or 10 to 700 cents.');
      tech.bend = by;
      ear.understood(node, `bent up ${by} cents, to ${only ? ear.name(only.pitch + Math.round(by / 100)) : ''}${by % 100 === 0 ? '' : ' or so'}`);
    } else if (name === 'Trill') {
      const place = only?.place;
      if (!node.getChild('By') && !place) return bad(ear, node, 'To which fret? This note has no place yet: say "trill by 2" for two semitones.');
      const by = node.getChild('By') ? n : ear.fret(place?.string ?? 1, n) - (place?.fret ?? 0);
      if (!(by >= 1 && by <= 12)) return bad(ear, node, 'A trill goes to a higher fret of the same string, twelve on at most.');
      tech.trill = by;
      ear.understood(node, `trilled with ${only ? ear.name(only.pitch + by) : ''}`);
    } else if (name === 'Down') {
      const keep = ear.span(node);
      if (keep === null) return null;
      tech.keep = keep;
      ear.understood(node, 'the finger stays down so long');
    } else {
      if (!(n >= 1 && n <= 99)) return bad(ear, node, 'Between 1 and 99 cents, please.');
      cents = node.getChild('Flat') ? -n : n;
      ear.understood(node, `${n} cents ${cents < 0 ? 'flat' : 'sharp'}`);
    }
  }
  const all = { ...only?.tech, ...tech };
  const why = impossible(setup, only?.place ?? null, all);
  if (why) return bad(ear, nodes[0]?.node ?? member, why);
  return { of: (note) => ({ ...(Object.keys(tech).length > 0 || note.tech ? { tech: { ...note.tech, ...tech } } : {}), ...(cents !== 0 ? { cents } : {}) }) };
}

function bad(ear: Ear, node: SyntaxNode, message: string): null {
  ear.fault(node, message);
  return null;
}

/** A natural harmonic by the fret it is touched over, fractional where two nodes lie near one fret. */
export function harmonicCalled(setup: Setup, string: number, fret: number): Result<{ note: CalledNote; node: number }> {
  const node = harmonicAt(fret);
  if (!node || Math.round(node.fret) > fretsLeft(setup, string)) return fail('no-node', 'No harmonic sounds clearly there: nodes are at 12, 7, 19, 5, 4, 9, 16, 3.2, 2.7 and 2.3, from the open string.');
  const pitch = openPitch(setup, string) + node.semitones;
  return ok({ note: { pitch, place: { string, fret: Math.round(node.fret), sure: true }, finger: null, dur: null, tech: { harmonic: true } }, node: node.fret });
}
