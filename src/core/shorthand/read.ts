import type { SyntaxNode } from '@lezer/common';
import type { Finger } from '../base';
import { gripTones } from '../harmony';
import { fretShown, nutOf, pitchAt, shownFret, stringCount } from '../instrument';
import { noteName, parsePitch } from '../pitch';
import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import type { Link } from '../score';
import { add, barOf, barStart, cmp, describeQuarters, mul, parseQuarter, quarter, sub, ZERO, type Quarter } from '../time';
import { parser } from './calls.parser';
import { lengthLabel, LENGTHS } from './lengths';
import { whyNotLinked } from './links';
import { harmonicCalled, readMarks } from './marks';
import { expectedAt } from './expected';
import { fretWords, onTheNeck, readingsOf, stringsNamed, stringWords } from './names';
import type { Called, CallContext, CalledEvent, CalledNote, CallFault, Reading, Understood } from './types';

/** Bounds of one line: enough for any part, too few to hang on. */
export const CALL_LIMITS = { characters: 200_000, events: 20_000, times: 500 } as const;

/**
 * Reads calls. Never throws and never stops at the first fault: what can be understood is,
 * everything else is a fault with its place and what was expected.
 */
export function readCalls(text: string, context: CallContext): Called {
  if (text.length > CALL_LIMITS.characters) {
    const fault = { from: 0, to: text.length, message: `That is ${text.length} characters; ${CALL_LIMITS.characters} at most in one go.` };
    return { events: [], tokens: [], faults: [fault], warnings: [], end: context.at };
  }
  return new Reader(text, context).read();
}

type Draft = { -readonly [K in keyof CalledEvent]: CalledEvent[K] };

class Reader {
  private readonly events: Draft[] = [];
  private readonly tokens: Understood[] = [];
  private readonly faults: CallFault[] = [];
  private readonly warnings: CallFault[] = [];
  private cursor: Quarter;
  private barFrom: Quarter;
  private length: Quarter;
  private string: number | null;
  private readonly schools: Schools;
  /** Above 0 while a repeated group is played again: its tokens were echoed the first time. */
  private echoing = 0;

  constructor(private readonly text: string, private readonly context: CallContext) {
    this.cursor = context.at;
    this.length = context.length;
    this.string = context.string;
    this.schools = context.schools ?? DEFAULT_SCHOOLS;
    const { bar } = barOf(context.meters, context.at);
    this.barFrom = bar < 0 ? ZERO : barStart(context.meters, bar);
  }

  read(): Called {
    const tree = parser.parse(this.text);
    tree.iterate({
      enter: (ref) => {
        if (ref.type.isError) this.faults.push({ ...this.wide(ref.from, ref.to), message: expectedAt(ref.node, this.text) });
      },
    });
    this.items(tree.topNode);
    return { events: this.events, tokens: this.tokens, faults: this.faults, warnings: this.warnings, end: this.cursor };
  }

  /** An empty error (something is missing) is shown on the character before it. */
  private wide(from: number, to: number): { from: number; to: number } {
    return to > from ? { from, to } : { from: Math.max(0, from - 1), to: Math.max(1, to) };
  }

  private slice(node: SyntaxNode): string {
    return this.text.slice(node.from, node.to);
  }

  private fault(node: SyntaxNode, message: string): null {
    if (this.echoing === 0) this.faults.push({ from: node.from, to: node.to, message });
    return null;
  }

  private understood(node: SyntaxNode, label: string, readings: readonly Reading[] = []): void {
    if (this.echoing === 0) this.tokens.push({ from: node.from, to: node.to, label, readings });
  }

  private items(parent: SyntaxNode): void {
    for (let node = parent.firstChild; node; node = node.nextSibling) {
      switch (node.name) {
        case 'Event':
          this.event(node, null);
          break;
        case 'Link':
          this.link(node);
          break;
        case 'Rest':
          this.rest(node);
          break;
        case 'Bar':
          this.bar(node);
          break;
        case 'Length':
          this.length = this.words(node.firstChild ?? node);
          this.understood(node, `from here on each note lasts ${lengthLabel(this.length)}`);
          break;
        case 'Group':
          this.group(node);
          break;
      }
    }
  }

  private group(node: SyntaxNode): void {
    const times = this.times(node);
    for (let i = 0; i < times; i++) {
      if (this.events.length > CALL_LIMITS.events) return void this.fault(node, `More than ${CALL_LIMITS.events} notes in one line; split it.`);
      if (i > 0) this.echoing++;
      this.items(node);
      if (i > 0) this.echoing--;
    }
  }

  private times(node: SyntaxNode): number {
    const twice = node.getChild('Twice');
    if (twice) {
      this.understood(twice, 'played 2 times in all');
      return 2;
    }
    const said = node.getChild('TimesCall') ?? node.getChild('RepeatCall');
    const number = said?.getChild('Number');
    if (!said || !number) return 1;
    const n = Number(this.slice(number));
    const plays = said.name === 'RepeatCall' ? n + 1 : n;
    if (plays < 1 || plays > CALL_LIMITS.times) {
      this.fault(said, `Between 1 and ${CALL_LIMITS.times} times, please.`);
      return 1;
    }
    const readings = said.name === 'RepeatCall'
      ? [{ label: `played and then repeated: ${n + 1} times in all`, text: `${n + 1} times` }, { label: `${n} times in all`, text: `${n} times` }]
      : [];
    this.understood(said, `played ${plays} times in all`, readings);
    return plays;
  }

  private rest(node: SyntaxNode): void {
    const span = this.span(node.getChild('For'));
    const length = span ?? this.length;
    this.cursor = add(this.cursor, length);
    this.understood(node, `rest, ${lengthLabel(length)}`);
  }

  private bar(node: SyntaxNode): void {
    const { bar } = barOf(this.context.meters, this.barFrom);
    const inPickup = cmp(this.context.at, ZERO) < 0 && this.barFrom === ZERO && cmp(this.cursor, ZERO) <= 0;
    const next = inPickup ? ZERO : barStart(this.context.meters, bar + 1);
    if (this.cursor === this.barFrom && !inPickup) return this.understood(node, `bar ${bar + 1} begins`);
    const off = sub(this.cursor, next);
    if (off !== ZERO) {
      const full = describeQuarters(sub(next, inPickup ? this.context.at : this.barFrom));
      const message = cmp(off, ZERO) < 0
        ? `Bar ${bar + 1} is short: ${describeQuarters(mul(off, -1))} of ${full} quarters missing. The next note goes to the bar line.`
        : `Bar ${bar + 1} is over: ${describeQuarters(off)} quarters more than ${full}.`;
      if (this.echoing === 0) this.warnings.push({ from: node.from, to: node.to, message });
    }
    this.understood(node, `bar ${barOf(this.context.meters, next).bar + 1} begins`);
    if (cmp(off, ZERO) < 0) this.cursor = next;
    this.barFrom = next;
  }

  private link(node: SyntaxNode): void {
    const kind: Link = node.getChild('Hammer') ? 'hammer' : node.getChild('Pull') ? 'pull' : 'slide';
    const before = this.events.at(-1);
    if (!before) return void this.fault(node, `Nothing comes before to ${kind} from. Call the first note, then "${kind} 7".`);
    const made = this.event(node, kind);
    if (made) before.link = kind;
  }

  private event(node: SyntaxNode, link: Link | null): Draft | null {
    const before = this.events.at(-1);
    const notes: CalledNote[] = [];
    for (const member of node.getChildren('Member')) notes.push(...(this.member(member) ?? []));
    if (notes.length === 0) return null;
    const strings = notes.flatMap((n) => (n.place ? [n.place.string] : []));
    if (new Set(strings).size < strings.length) return this.fault(node, 'One string is asked for two notes at once.');
    if (link !== null && before) {
      const why = whyNotLinked(link, before, notes);
      if (why) return this.fault(node, why);
    }
    const step = this.span(node.getChild('For')) ?? this.length;
    const held = this.span(node.getChild('Held'));
    const event: Draft = { at: this.cursor, dur: held ?? step, notes, link: null, ring: node.getChild('Ring') !== null, ...(node.getChild('Bottleneck') ? { bar: true as const } : {}) };
    for (const [name, say] of [['For', `for ${lengthLabel(step)}`], ['Held', `held for ${lengthLabel(held ?? step)}`], ['Ring', 'left ringing'], ['Bottleneck', 'with the slide bar']] as const) {
      const option = node.getChild(name);
      if (option) this.understood(option, say);
    }
    for (const kind of ['Hammer', 'Pull', 'Slide'] as const) {
      const word = node.getChild(kind);
      if (word) this.understood(word, { Hammer: 'hammered on to', Pull: 'pulled off to', Slide: 'slid to' }[kind]);
    }
    this.cursor = add(this.cursor, step);
    this.events.push(event);
    return event;
  }

  /** One member of a chord; a grip or a chord name may give several notes. */
  private member(node: SyntaxNode): CalledNote[] | null {
    const called = node.getChild('StringCall') ?? node.getChild('StringLetter');
    if (called && this.stringCalled(called) === null) return null;
    const notes = this.head(node);
    if (!notes) return null;
    const unsure = node.getChild('Unsure') !== null;
    const withFinger = node.getChild('With');
    const lasting = node.getChild('Lasting');
    const dur = this.span(lasting);
    const finger = withFinger ? this.finger(withFinger) : null;
    if (finger && notes.length > 1) return this.fault(withFinger ?? node, 'A finger belongs to one note; call the notes with + to finger each.');
    const [only] = notes;
    const marks = readMarks(node, this.context.setup, notes, { slice: (n) => this.slice(n), fault: (n, m) => void this.fault(n, m), understood: (n, l) => this.understood(n, l), span: (n) => this.span(n), fret: (s, f) => this.fretTyped(s, f), name: (p) => this.name(p) });
    if (!marks) return null;
    if (finger && only?.place && !only.tech?.dead && (only.place.fret === 0) !== (finger.finger === 0)) {
      return this.fault(withFinger ?? node, only.place.fret === 0 ? 'An open string takes no finger.' : 'A stopped note needs a finger from 1 to 4.');
    }
    return notes.map((n) => ({
      ...n,
      place: n.place && unsure ? { ...n.place, sure: false } : n.place,
      finger: finger ?? n.finger,
      dur: dur ?? n.dur,
      ...marks.of(n),
    }));
  }

  private finger(node: SyntaxNode): CalledNote['finger'] {
    const number = node.getChild('Number');
    const n = number ? Number(this.slice(number)) : node.getChild('Thumb') ? 5 : NaN;
    if (!(n >= 0 && n <= 5)) return this.fault(node, 'Fingers are 1 (index) to 4 (little), or "thumb".');
    const sure = node.getChild('Unsure') === null;
    this.understood(node, `${['no finger', 'index', 'middle', 'ring finger', 'little finger', 'thumb over the neck'][n] ?? ''}${sure ? '' : ', proposed'}`);
    return { finger: n as Finger, sure };
  }

  private stringCalled(node: SyntaxNode): number | null {
    const { setup } = this.context;
    const number = node.getChild('Number');
    if (number) {
      const n = Number(this.slice(number));
      const exists = n >= 1 && n <= stringCount(setup) && !setup.absent.includes(n);
      if (!exists) {
        return this.fault(node, setup.absent.includes(n) ? `String ${n} is taken off in this set-up.` : `There is no string ${n}: strings are 1 (thinnest) to ${stringCount(setup)}.`);
      }
      this.string = n;
      this.understood(node, stringWords(setup, n));
      return n;
    }
    const letters = node.name === 'StringLetter' ? node : node.getChild('StringLetter');
    const letter = letters?.getChild('Letter');
    if (!letters || !letter) return null;
    const name = this.slice(letter);
    const side = letters.getChild('Thick') ? 'thick' : letters.getChild('Thin') ? 'thin' : null;
    let choices = stringsNamed(name, setup, this.string);
    if (side) choices = [...choices].sort((a, b) => (side === 'thick' ? b.string - a.string : a.string - b.string)).slice(0, 1);
    const [taken] = choices;
    if (!taken) return this.fault(node, `No string is called ${name} in this set-up, neither by name nor by sound.`);
    this.string = taken.string;
    this.understood(node, stringWords(setup, taken.string), choices.length > 1 ? choices.map(({ string }) => ({ label: stringWords(setup, string), text: `on ${string}` })) : []);
    return taken.string;
  }

  private head(member: SyntaxNode): CalledNote[] | null {
    const node = ['Open', 'Fret', 'DeadCall', 'HarmonicCall', 'NameCall', 'PitchCall', 'ChordCall', 'GripCall'].map((n) => member.getChild(n)).find((n) => n !== null);
    if (!node) return null;
    switch (node.name) {
      case 'Open':
        return this.fretted(node, 0);
      case 'Fret':
        return this.fretted(node, Number(this.slice(node)), true);
      case 'DeadCall': {
        const number = node.getChild('Number');
        const before = this.events.at(-1)?.notes[0];
        // "note G1, dead, dead": no string was said, so it is the one the note before will lie on.
        if (this.string === null && number === null && before) {
          this.understood(node, 'a dead note, on the string of the note before');
          return [{ pitch: before.pitch, place: null, finger: null, dur: null, tech: { dead: true as const } }];
        }
        const notes = this.fretted(node, number ? Number(this.slice(number)) : 0, number !== null);
        return notes && notes.map((n) => ({ ...n, tech: { dead: true as const } }));
      }
      case 'HarmonicCall':
        return this.harmonic(node);
      case 'NameCall':
        return this.named(node);
      case 'PitchCall': {
        const name = this.slice(node).replace(/^note\s*/, '');
        const pitch = parsePitch(name);
        return pitch === null ? this.fault(node, `"${name}" is no pitch: say a letter and an octave, such as note D3.`) : this.pitched(node, pitch);
      }
      case 'ChordCall':
        return this.chord(node, this.slice(node).replace(/^chord\s*/, ''));
      default:
        return this.grip(node);
    }
  }

  private fretted(node: SyntaxNode, typed: number, counted = false): CalledNote[] | null {
    if (this.string === null) return this.fault(node, 'On which string? Say it first, for example "on 5 3" or "A 3".');
    return this.placed(node, this.string, counted ? this.fretTyped(this.string, typed) : typed);
  }

  private harmonic(node: SyntaxNode): CalledNote[] | null {
    if (this.string === null) return this.fault(node, 'On which string? Say it first, for example "on 4 harmonic 12".');
    const number = node.getChild('Number') ?? node.getChild('Decimal');
    const found = harmonicCalled(this.context.setup, this.string, number ? Number(this.slice(number)) : NaN);
    if (!found.ok) return this.fault(node, found.error.message);
    this.understood(node, `${stringWords(this.context.setup, this.string, this.schools.notes)}, natural harmonic at ${found.value.node}: ${this.name(found.value.note.pitch)}`);
    return [found.value.note];
  }

  private placed(node: SyntaxNode, string: number, fret: number, readings: readonly Reading[] = []): CalledNote[] | null {
    const { setup } = this.context;
    if (fret < 0) return this.fault(node, this.behind(string, fret));
    const pitch = pitchAt(setup, { string, fret });
    if (!pitch.ok) return this.fault(node, pitch.error.message);
    this.string = string;
    this.understood(node, `${stringWords(setup, string, this.schools.notes)}, ${fretWords(fret, shownFret(setup, string, fret, this.schools.frets))}: ${this.name(pitch.value)}`, readings);
    return [{ pitch: pitch.value, place: { string, fret, sure: true }, finger: null, dur: null }];
  }

  /** A typed fret as counted from the string's own zero; "0" is the open string by either school. */
  private fretTyped(string: number, typed: number): number {
    return typed === 0 ? 0 : fretShown(this.context.setup, string, typed, this.schools.frets);
  }

  private behind(string: number, fret: number): string {
    const nut = nutOf(this.context.setup, string);
    return `Fret ${fret + nut} of string ${string} lies behind the capo at fret ${nut}; frets count from the nut here.`;
  }

  private name(pitch: number): string {
    return noteName(pitch, { naming: this.schools.notes });
  }

  private pitched(node: SyntaxNode, pitch: number, readings: readonly Reading[] = []): CalledNote[] | null {
    const name = noteName(pitch, { octave: true, naming: this.schools.notes });
    if (!onTheNeck(this.context.setup, pitch)) return this.fault(node, `${name} does not exist on this set-up.`);
    this.understood(node, `the pitch ${name}, for the program to place`, readings);
    return [{ pitch, place: null, finger: null, dur: null }];
  }

  private chord(node: SyntaxNode, symbol: string, readings: readonly Reading[] = []): CalledNote[] | null {
    const tones = gripTones(symbol, this.context.setup);
    if (!tones.ok) return this.fault(node, tones.error.message);
    this.understood(node, `the shape ${symbol}, sounding ${tones.value.map((m) => this.name(m)).join(' ')}`, readings);
    return tones.value.map((pitch) => ({ pitch, place: null, finger: null, dur: null }));
  }

  private named(node: SyntaxNode): CalledNote[] | null {
    const name = this.slice(node);
    const readings = readingsOf(name, this.context.setup, this.string, this.schools);
    const [taken] = readings;
    if (!taken) {
      return this.fault(node, `"${name}" makes sense neither as string and fret, nor as a pitch of this neck, nor as a chord.`);
    }
    const others = readings.length > 1 ? readings.map(({ label, text }) => ({ label, text })) : [];
    if (taken.kind === 'place') return this.placed(node, taken.string, taken.fret, others);
    return taken.kind === 'pitch' ? this.pitched(node, taken.pitch, others) : this.chord(node, taken.symbol, others);
  }

  private grip(node: SyntaxNode): CalledNote[] | null {
    const { setup } = this.context;
    const called = [...node.getChildren('GripFret'), ...node.getChildren('GripSkip'), ...node.getChildren('GripOpen')].sort((a, b) => a.from - b.from);
    const count = stringCount(setup);
    if (called.length !== count) {
      return this.fault(node, `A grip names all ${count} strings, thick to thin, with x for one not played; this names ${called.length}. Say "on" before a note that follows.`);
    }
    const notes: CalledNote[] = [];
    for (const [i, one] of called.entries()) {
      if (one.name === 'GripSkip') continue;
      const string = count - i;
      const fret = one.name === 'GripOpen' ? 0 : this.fretTyped(string, Number(this.slice(one)));
      if (fret < 0) return this.fault(one, this.behind(string, fret));
      const pitch = pitchAt(setup, { string, fret });
      if (!pitch.ok) return this.fault(one, pitch.error.message);
      notes.push({ pitch: pitch.value, place: { string, fret, sure: true }, finger: null, dur: null });
    }
    if (notes.length === 0) return this.fault(node, 'A grip needs at least one string that sounds.');
    this.understood(node, `grip: ${notes.map((n) => this.name(n.pitch)).join(' ')}`);
    return notes;
  }

  private span(node: SyntaxNode | null): Quarter | null {
    const span = node?.getChild('Span');
    if (!node || !span) return null;
    const words = span.getChild('LengthWords');
    const length = words ? this.words(words) : parseQuarter(this.slice(span));
    if (length !== null && cmp(length, ZERO) > 0 && cmp(length, quarter(400)) <= 0) return length;
    return this.fault(span, 'A length is above 0 and at most 400 quarters, such as 3/2 or "dotted quarter".');
  }

  private words(node: SyntaxNode): Quarter {
    const word = node.getChild('LengthWord');
    const name = word ? this.slice(word).replace('halves', 'half').replace(/s$/, '') : 'quarter';
    let length = LENGTHS[name] ?? quarter(1);
    const dots = node.getChildren('Dotted').length;
    if (dots > 0) length = mul(length, 2 ** (dots + 1) - 1, 2 ** dots);
    if (node.getChild('Triplet')) length = mul(length, 2, 3);
    return length;
  }
}
