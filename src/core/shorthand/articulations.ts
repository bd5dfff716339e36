import type { SyntaxNode } from '@lezer/common';
import type { Setup } from '../instrument';
import { lengthLabel } from '../rhythm';
import { impossible, impossibleEvent, type Articulation } from '../score';
import { EVENT_FLAGS } from './flag-tokens';
import type { CalledEvent, Ear } from './types';

type Draft = { -readonly [K in keyof Articulation]: Articulation[K] };

/** What is said of an event as a whole, behind its notes. Null where something said can't be. */
export function readArticulation(node: SyntaxNode, ear: Ear): Articulation | null {
  const out: Draft = {};
  const say = (name: string, read: (option: SyntaxNode) => string | null): boolean => {
    for (const option of node.getChildren(name)) {
      const label = read(option);
      if (label === null) return false;
      ear.understood(option, label);
    }
    return true;
  };
  const word = (option: SyntaxNode, child: string | null = null): string => {
    const found = child === null ? option : option.getChild(child);
    return found ? ear.slice(found) : '';
  };
  const number = (option: SyntaxNode): number => Number(word(option, 'Number') || NaN);
  const bad = (option: SyntaxNode, message: string): null => {
    ear.fault(option, message);
    return null;
  };
  const read: readonly boolean[] = [
    say('Staccato', () => {
      out.gate = 50;
      return 'staccato: cut to half its length';
    }),
    say('Cut', (node) => {
      const n = number(node);
      if (!(n >= 5 && n <= 95)) return bad(node, 'A note is cut to 5 to 95 percent of its length.');
      out.gate = n;
      return `cut to ${n} percent of its length`;
    }),
    say('EventFlag', (node) => {
      const found = EVENT_FLAGS.get(word(node));
      if (!found) return null;
      Object.assign(out, { [found.name]: true });
      return found.flag.understood ?? found.flag.spoken;
    }),
    say('Accent', (node) => {
      out.accent = word(node) as Draft['accent'];
      return { accent: 'accented', heavy: 'heavily accented', ghost: 'a ghost note: hardly struck' }[word(node)] ?? '';
    }),
    say('Volume', (node) => {
      out.dynamic = word(node, 'Loudness') as Draft['dynamic'];
      return `from here ${word(node, 'Loudness')}`;
    }),
    say('Stroke', (node) => {
      out.stroke = word(node, 'StrokeKind') as Draft['stroke'];
      return STROKE_WORDS[word(node, 'StrokeKind')] ?? '';
    }),
    say('Roll', (node) => {
      out.roll = word(node, 'RollWay') as Draft['roll'];
      return `rolled, ${word(node, 'RollWay') === 'thick-first' ? 'from the thick strings' : 'from the thin strings'}`;
    }),
    say('Tremolo', (node) => {
      const each = ear.span(node);
      if (each === null) return null;
      out.tremolo = each;
      return `struck again every ${lengthLabel(each)}`;
    }),
    say('Mute', (node) => {
      out.mute = word(node) as Draft['mute'];
      return word(node) === 'palm' ? 'palm muted' : 'choked by the fretting hand';
    }),
    say('Tilt', (node) => {
      const n = number(node) * (node.getChild('Minus') ? -1 : 1);
      if (!(Math.abs(n) >= 1 && Math.abs(n) <= 30))
        return bad(node, 'The bar is tilted by 1 to 30 degrees, or minus so many.');
      out.tilt = n;
      return `the bar tilted: thinner strings sound ${n > 0 ? 'higher' : 'lower'}`;
    }),
    say('Free', (node) => {
      const kind = word(node, 'FreeKind') as NonNullable<Draft['free']>['kind'];
      out.free = { kind, remark: phrase(node, ear) };
      return FREE_WORDS[kind];
    }),
    say('Why', (node) => {
      const text = phrase(node, ear);
      if (text === '') return bad(node, 'Why? Say it in quotes.');
      out.remark = text;
      return 'why it is played here';
    }),
  ];
  return read.includes(false) ? null : out;
}

export const STROKE_WORDS: Readonly<Record<string, string>> = {
  down: 'downstroke',
  up: 'upstroke',
  same: 'the stroke before carries on',
  thumb: 'thumb',
  index: 'index finger plucks',
  middle: 'middle finger plucks',
  third: 'ring finger plucks',
  slap: 'slapped with the thumb',
  pop: 'popped',
  'brush-down': 'brushed down',
  'brush-up': 'brushed up',
};

const FREE_WORDS = {
  either: 'free: either of two will do',
  fill: 'free: a fill may be played',
  'leave-out': 'free: may be left out',
} as const;

/** The text in quotes of a node, without them. */
export function phrase(node: SyntaxNode, ear: Pick<Ear, 'slice'>): string {
  const text = node.getChild('Said');
  return text ? ear.slice(text).slice(1, -1).replace(/\\(.)/g, '$1').trim() : '';
}

/** A text as it is said in quotes. */
export const quoted = (text: string): string =>
  `"${text.replace(/[\\"]/g, (letter) => `\\${letter}`).replace(/\s+/g, ' ')}"`;

/** What can't be done so, or null: the same limits the document has. */
export function whyNotSo(setup: Setup, event: CalledEvent): string | null {
  const whole = impossibleEvent(event);
  if (whole) return whole;
  for (const note of event.notes) {
    const why = note.technique ? impossible(setup, note.place, note.technique, event.slideBar) : null;
    if (why) return why;
  }
  return null;
}
