import type { SyntaxNode } from '@lezer/common';
import { lengthLabel, sumBar, barWords, type Counted } from '../rhythm';
import type { Join } from '../score';
import {
  add,
  barLength,
  barOf,
  barStart,
  cmp,
  mul,
  parseMeter,
  quarter,
  sub,
  swingWords,
  ZERO,
  type FeelStep,
  type MeterChange,
  type Quarter,
  type TempoStep,
} from '../time';
import { parser } from './calls.parser';
import { joinNotes, Lasting, type JoinedNote } from './links';
import { readArticulation, whyNotSo } from './articulations';
import { readMarks } from './marks';
import { joinWord, membersOf, tiltedNotes } from './members';
import { callFinding } from './findings';
import { expectedAt } from './expected';
import { scrapeOf } from './scrapes';
import { lengthOf, spanOf } from './spans';
import { Heads } from './heads';
import type {
  Called,
  CallContext,
  CalledEvent,
  CalledNote,
  CallFinding,
  Ear,
  Interpretation,
  Understood,
} from './types';

/** Bounds of one line: enough for any part, too few to hang on. */
export const CALL_LIMITS = { characters: 200_000, events: 20_000, times: 500 } as const;

/** How long a grace note is when nothing is said, in quarters. */
export const GRACE_LENGTH: Quarter = quarter(1, 8);

/**
 * Reads calls. Never throws and never stops at the first fault: what can be understood is,
 * everything else is a fault with its place and what was expected.
 */
export function readCalls(text: string, context: CallContext): Called {
  if (text.length > CALL_LIMITS.characters) {
    const fault = callFinding(
      { from: 0, to: text.length },
      'too-long',
      `That is ${text.length} characters; ${CALL_LIMITS.characters} at most in one go.`,
    );
    return { events: [], tokens: [], faults: [fault], warnings: [], end: context.at, frame: {}, open: null };
  }
  return new Reader(text, context).read();
}

type Draft = { -readonly [K in keyof CalledEvent]: CalledEvent[K] };

class Reader {
  private readonly events: Draft[] = [];
  private readonly tokens: Understood[] = [];
  private readonly faults: CallFinding[] = [];
  private readonly warnings: CallFinding[] = [];
  private cursor: Quarter;
  private barFrom: Quarter;
  private length: Quarter;
  private meters: readonly MeterChange[];
  private metersSaid = false;
  private readonly tempo: TempoStep[] = [];
  private readonly feel: FeelStep[] = [];
  private readonly heads: Heads;
  private readonly ear: Ear;
  /** What was counted since the bar line, for the sum of the bar. */
  private counted: Counted[] = [];
  /** Graces said and not yet followed by their note. */
  private graces: Draft[] = [];
  /** While a pickup is called; its length when it is. */
  private inPickup = false;
  private pickup: Quarter | null = null;
  private readonly lasting = new Lasting();
  /** Above 0 while a repeated group is played again: its tokens were echoed the first time. */
  private echoing = 0;

  constructor(
    private readonly text: string,
    private readonly context: CallContext,
  ) {
    this.cursor = context.at;
    this.length = context.length;
    this.meters = context.meters;
    const { bar } = barOf(context.meters, context.at);
    this.barFrom = bar < 0 ? ZERO : barStart(context.meters, bar);
    // What the bar holds before the calls begin counts as one.
    if (bar >= 0 && this.barFrom !== context.at)
      this.counted.push({ length: sub(context.at, this.barFrom), name: 'what is there before' });
    const ear = {
      slice: (node: SyntaxNode) => this.slice(node),
      fault: (node: SyntaxNode, mode: string) => void this.fault(node, mode),
      understood: (node: SyntaxNode, line: string, list: readonly Interpretation[] = []) =>
        this.understood(node, line, list),
      span: (node: SyntaxNode) => spanOf(node, ear),
      before: () => this.events.at(-1)?.notes[0]?.pitch ?? null,
    };
    this.heads = new Heads(context, ear);
    this.ear = { ...ear, fret: (s, f) => this.heads.fretTyped(s, f), name: (p) => this.heads.name(p) };
  }

  read(): Called {
    const tree = parser.parse(this.text);
    tree.iterate({
      enter: (ref) => {
        if (ref.type.isError)
          this.faults.push(callFinding(this.wide(ref.from, ref.to), 'grammar', expectedAt(ref.node, this.text)));
      },
    });
    this.items(tree.topNode);
    const last = this.graces.at(-1);
    if (last)
      this.faults.push(
        callFinding(
          { from: Math.max(0, this.text.length - 1), to: this.text.length },
          'lone-grace',
          'A grace note leads to a note: call that too.',
        ),
      );
    this.endPickup();
    const frame = {
      ...(this.pickup && this.pickup !== ZERO ? { pickup: this.pickup } : {}),
      ...(this.metersSaid ? { meters: this.meters } : {}),
      ...(this.tempo.length > 0 ? { tempo: this.tempo } : {}),
      ...(this.feel.length > 0 ? { feel: this.feel } : {}),
    };
    return {
      events: this.events,
      tokens: this.tokens,
      faults: this.faults,
      warnings: this.warnings,
      end: this.cursor,
      frame,
      open: this.openBar(),
    };
  }

  /** The bar being called, where it is not full yet: what is missing, and what that may mean. */
  private openBar(): Called['open'] {
    const { bar } = barOf(this.meters, this.barFrom);
    const next = barStart(this.meters, bar + 1);
    const left = sub(next, this.cursor);
    if (this.counted.length === 0 || left === ZERO || cmp(this.cursor, ZERO) < 0) return null;
    return {
      bar,
      missing: left,
      causes: cmp(left, ZERO) > 0 ? [] : sumBar(this.counted, sub(next, this.barFrom)).causes,
    };
  }

  /** An empty error (something is missing) is shown on the character before it. */
  private wide(from: number, to: number): { from: number; to: number } {
    return to > from ? { from, to } : { from: Math.max(0, from - 1), to: Math.max(1, to) };
  }

  private slice(node: SyntaxNode): string {
    return this.text.slice(node.from, node.to);
  }

  private fault(node: SyntaxNode, message: string): null {
    if (this.echoing === 0) this.faults.push(callFinding(node, 'not-understood', message));
    return null;
  }

  private understood(node: SyntaxNode, label: string, readings: readonly Interpretation[] = []): void {
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
        case 'Special':
          this.special(node);
          break;
        case 'Rest': {
          const length = spanOf(node.getChild('For'), this.ear) ?? this.length;
          this.step(length, 'the rest');
          this.understood(node, `rest, ${lengthLabel(length)}`);
          break;
        }
        case 'Pickup':
          this.beginPickup(node);
          break;
        case 'Bar':
          this.bar(node);
          break;
        case 'Length':
          this.length = lengthOf(node.firstChild ?? node, this.ear);
          this.understood(node, `from here on each note lasts ${lengthLabel(this.length)}`);
          break;
        case 'Group':
          this.group(node);
          break;
        case 'Meter':
          this.meter(node);
          break;
        case 'Tempo':
        case 'Swing':
        case 'Straight':
          this.lane(node);
          break;
      }
    }
  }

  private step(length: Quarter, name: string): void {
    this.cursor = add(this.cursor, length);
    this.counted.push({ length, name });
  }

  private group(node: SyntaxNode): void {
    const times = this.times(node);
    const string = node.getChild('StringCall');
    for (let i = 0; i < times; i++) {
      if (string && this.heads.stringCalled(string) === null) return;
      if (this.events.length > CALL_LIMITS.events)
        return void this.fault(node, `More than ${CALL_LIMITS.events} notes in one line; split it.`);
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
    const syntax = node.getChild('TimesCall') ?? node.getChild('RepeatCall');
    const number = syntax?.getChild('Number');
    if (!syntax || !number) return 1;
    const n = Number(this.slice(number));
    const plays = syntax.name === 'RepeatCall' ? n + 1 : n;
    if (plays < 1 || plays > CALL_LIMITS.times) {
      this.fault(syntax, `Between 1 and ${CALL_LIMITS.times} times, please.`);
      return 1;
    }
    const readings =
      syntax.name === 'RepeatCall'
        ? [
            { label: `played and then repeated: ${n + 1} times in all`, text: `${n + 1} times` },
            { label: `${n} times in all`, text: `${n} times` },
          ]
        : [];
    this.understood(syntax, `played ${plays} times in all`, readings);
    return plays;
  }

  /** What is called up to the first bar line leads into it. */
  private beginPickup(node: SyntaxNode): void {
    if (this.events.length > 0 || cmp(this.context.at, ZERO) > 0)
      return void this.fault(
        node,
        'A pickup comes before everything else: put the caret at the beginning of the riff.',
      );
    this.cursor = ZERO;
    this.counted = [];
    this.inPickup = true;
    this.understood(node, 'a pickup: what follows leads into bar 1');
  }

  /** Moves what was called as a pickup before the first bar. */
  private endPickup(): void {
    if (!this.inPickup) return;
    this.inPickup = false;
    this.pickup = this.cursor;
    for (const event of this.events) event.at = sub(event.at, this.cursor);
    this.cursor = ZERO;
    this.barFrom = ZERO;
    this.counted = [];
  }

  private bar(node: SyntaxNode): void {
    if (this.inPickup) {
      const full = barLength(this.meters[0] ?? { beats: 4, unit: 4 });
      if (cmp(this.cursor, full) >= 0)
        return void this.fault(node, 'A pickup is shorter than a bar: call this as a bar of its own.');
      this.endPickup();
      return this.understood(node, 'bar 1 begins');
    }
    const { bar } = barOf(this.meters, this.barFrom);
    const inPickup = cmp(this.context.at, ZERO) < 0 && this.barFrom === ZERO && cmp(this.cursor, ZERO) <= 0;
    const next = inPickup ? ZERO : barStart(this.meters, bar + 1);
    if (this.cursor === this.barFrom && !inPickup) return this.understood(node, `bar ${bar + 1} begins`);
    const off = sub(this.cursor, next);
    if (off !== ZERO && this.echoing === 0) {
      const full = sub(next, inPickup ? this.context.at : this.barFrom);
      const words = barWords(sumBar(this.counted, full), full);
      const short = cmp(off, ZERO) < 0;
      const wording = short
        ? `Bar ${bar + 1} is short: ${words}. The next note goes to the bar line.`
        : `Bar ${bar + 1} is over: ${words}.`;
      this.warnings.push(callFinding(node, short ? 'bar-short' : 'bar-over', wording, 'warning', bar));
    }
    this.understood(node, `bar ${barOf(this.meters, next).bar + 1} begins`);
    if (cmp(off, ZERO) < 0) this.cursor = next;
    this.barFrom = next;
    this.counted = cmp(off, ZERO) > 0 ? [{ length: off, name: 'what hangs over from the bar before' }] : [];
  }

  private meter(node: SyntaxNode): void {
    const ratio = node.getChild('Ratio');
    const meter = parseMeter(ratio ? this.slice(ratio) : '');
    if (!meter) return void this.fault(node, 'A meter has 1 to 32 beats of a 1, 2, 4, 8, 16 or 32, such as 7/8.');
    const { bar } = barOf(this.meters, cmp(this.cursor, ZERO) < 0 ? ZERO : this.cursor);
    if (cmp(this.cursor, ZERO) >= 0 && this.cursor !== barStart(this.meters, bar))
      return void this.fault(node, 'A meter changes at a bar line: this is within a bar.');
    this.meters = [
      ...this.meters.filter((meter) => meter.bar < bar),
      { bar, ...meter },
      ...this.meters.filter((meter) => meter.bar > bar),
    ];
    this.metersSaid = true;
    this.understood(node, `from bar ${bar + 1} on ${meter.beats}/${meter.unit}`);
  }

  private lane(node: SyntaxNode): void {
    const number = node.getChild('Number') ?? node.getChild('Decimal');
    const n = number ? Number(this.slice(number)) : NaN;
    const at = cmp(this.cursor, ZERO) < 0 ? ZERO : this.cursor;
    const put = <T extends { readonly at: Quarter }>(list: T[], step: T): void => {
      if (list.at(-1)?.at === at) list.pop();
      list.push(step);
    };
    if (node.name === 'Tempo') {
      if (!(n >= 10 && n <= 500)) return void this.fault(node, 'A tempo is 10 to 500 quarters a minute.');
      const ramp = node.getChild('Ramp') !== null;
      put(this.tempo, { at, bpm: n, ...(ramp ? { ramp: true as const } : {}) });
      this.understood(
        node,
        ramp ? `from ${n} quarters a minute, changing evenly to the next tempo` : `${n} quarters a minute from here`,
      );
      return;
    }
    const swing = node.name === 'Straight' ? 50 : n;
    if (!(swing >= 50 && swing <= 80))
      return void this.fault(
        node,
        'Swing is the share of the first of two, from 50 (straight) to 80 percent; 67 is triplets.',
      );
    const unit = node.getChild('Fine') ? ('1/4' as const) : ('1/2' as const);
    put(this.feel, { at, swing, unit });
    this.understood(
      node,
      swing === 50
        ? 'straight from here'
        : `${unit === '1/2' ? 'eighths' : 'sixteenths'} swing from here, ${swingWords(swing)}`,
    );
  }

  private link(node: SyntaxNode): void {
    const kind = joinWord(node);
    const before = this.events.at(-1);
    if (!before)
      return void this.fault(node, `Nothing comes before to ${kind} from. Call the first note, then "${kind} 7".`);
    this.event(node, kind);
  }

  private special(node: SyntaxNode): void {
    const what = node.getChild('Hole') ? 'hole' : node.getChild('Hit') ? 'hit' : 'scrape';
    const word = node.firstChild;
    if (word)
      this.understood(
        word,
        {
          hole: 'played here, not yet written',
          hit: 'a hit on strings or body',
          scrape: 'the pick scraped along the strings',
        }[what],
      );
    const along = node.getChild('Scraped');
    const scraped = along ? scrapeOf(along, this.context.setup, this.ear) : undefined;
    if (scraped !== null) this.put(node, [], { kind: what, ...(scraped ? { scraped } : {}) });
  }

  private event(node: SyntaxNode, link: Join | null): Draft | null {
    const before = this.events.at(-1);
    const called: JoinedNote[] = [];
    const members = membersOf(node);
    const all = node.getChild('All');
    const bar = node.getChild('Bottleneck') !== null;
    for (const [i, { member, joined }] of members.entries()) {
      const how = joined ? (joined.getChild('Struck') ? null : joinWord(joined)) : link;
      if (joined && how && !before) return this.fault(joined, `Nothing comes before to ${how} from.`);
      const made = this.member(member, i === members.length - 1 ? node : null, all) ?? [];
      called.push(...made.map((note) => ({ note, link: how })));
    }
    if (called.length === 0) return null;
    if (all) {
      this.understood(all, 'what follows is said of every note of the chord');
      const span = { from: all.to, to: node.to };
      const marked = readMarks(
        [node],
        this.context.setup,
        called.map((one) => one.note),
        this.ear,
        { bar, each: true, span },
      );
      if (!marked) return null;
      for (const [i, note] of marked.entries()) called[i] = { note, link: called[i]?.link ?? null };
    }
    const notes = joinNotes(before, called);
    if (typeof notes === 'string') return this.fault(node, notes);
    const strings = notes.flatMap((note) => (note.place ? [note.place.string] : []));
    if (new Set(strings).size < strings.length) return this.fault(node, 'One string is asked for two notes at once.');
    if (notes.some((note, i) => note.technique?.hammered && !called[i]?.note.technique?.hammered))
      this.understood(node, 'hammered on from nowhere, on a string that did not sound');
    for (const parent of [node, ...node.getChildren('JoinedMember')])
      for (const kind of ['Hammer', 'Pull', 'Slide', 'Shift', 'Struck', 'Grace'] as const) {
        const word = parent.getChild(kind);
        if (!word) continue;
        this.understood(
          word,
          {
            Hammer: 'hammered on to',
            Pull: 'pulled off to',
            Slide: 'slid to',
            Shift: 'slid to and struck again',
            Struck: 'struck beside them',
            Grace: 'a grace note: counts for nothing in the bar',
          }[kind],
        );
      }
    const made = this.put(node, notes, node.getChild('Grace') ? { grace: true } : {});
    if (
      made &&
      before &&
      called.some(({ link: how }) => how) &&
      called.every((one) => one.link ?? one.note.technique?.hammered)
    )
      this.lasting.under(before, made);
    else if (made) this.lasting.end();
    return made;
  }

  /** Puts an event at the cursor and goes on by its step. */
  private put(
    node: SyntaxNode,
    notes: readonly CalledNote[],
    extra: Pick<Draft, 'kind' | 'grace' | 'scraped'>,
  ): Draft | null {
    const manner = readArticulation(node, this.ear);
    if (!manner) return null;
    const step = spanOf(node.getChild('For'), this.ear) ?? (extra.grace ? GRACE_LENGTH : this.length);
    const held = spanOf(node.getChild('Held'), this.ear);
    const event: Draft = {
      at: this.cursor,
      dur: held ?? step,
      notes,
      letRing: node.getChild('Ring') !== null,
      ...(node.getChild('Bottleneck') ? { slideBar: true as const } : {}),
      ...manner,
      ...extra,
    };
    if (event.tilt !== undefined) event.notes = tiltedNotes(this.context.setup, event.notes, event.tilt);
    const why = whyNotSo(this.context.setup, event);
    if (why) return this.fault(node, why);
    for (const [name, say] of [
      ['For', `for ${lengthLabel(step)}`],
      ['Held', `held for ${lengthLabel(held ?? step)}`],
      ['Ring', 'left ringing'],
      ['Bottleneck', 'with the slide bar'],
    ] as const) {
      const option = node.getChild(name);
      if (option) this.understood(option, say);
    }
    this.events.push(event);
    if (extra.grace) this.graces.push(event);
    else {
      this.layGraces();
      this.step(step, `note ${this.counted.length + 1}`);
    }
    return event;
  }

  /**
   * Graces said before a note share the time just before it: their own length each, less where the note before would
   * be covered.
   */
  private layGraces(): void {
    const { graces } = this;
    if (graces.length === 0) return;
    this.graces = [];
    const before = this.events.at(-graces.length - 2);
    const room = before ? mul(sub(this.cursor, before.at), 1, 2) : quarter(1);
    const wanted = graces.reduce((sum, one) => add(sum, one.dur), ZERO);
    let at = cmp(wanted, room) > 0 ? sub(this.cursor, room) : sub(this.cursor, wanted);
    for (const grace of graces) {
      if (cmp(wanted, room) > 0) grace.dur = mul(room, 1, graces.length);
      grace.at = at;
      at = add(at, grace.dur);
    }
  }

  /**
   * One member of a chord; a grip or a chord name may give several notes. `tail` holds marks said behind the options.
   */
  private member(node: SyntaxNode, tail: SyntaxNode | null, all: SyntaxNode | null): CalledNote[] | null {
    const called = node.getChild('StringCall') ?? node.getChild('StringLetter');
    if (called && this.heads.stringCalled(called) === null) return null;
    const notes = this.heads.head(node);
    // A chord or grip as a whole takes a mark on each of its notes that can, and so does a note with its octave.
    const each = ['ChordCall', 'GripCall', 'NameCall', 'Octave'].some((name) => node.getChild(name) !== null);
    return (
      notes &&
      readMarks([node, ...(tail ? [tail] : [])], this.context.setup, notes, this.ear, {
        bar: (tail ?? node.parent)?.getChild('Bottleneck') !== null,
        each,
        span: all ? { from: 0, to: all.from } : undefined,
      })
    );
  }
}
