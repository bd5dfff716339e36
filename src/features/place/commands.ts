import type { Result } from '@/core/base';
import {
  addGrace,
  keepAlternative,
  moveNotes,
  movedWords,
  putSpecial,
  setSlideBar,
  setEvidence,
  setFrame,
  setLength,
  setJoin,
  setArticulation,
  setLetRing,
  setTechniqueOfAll,
  shiftPitch,
  type Move,
  type NoteRef,
} from '@/core/command';
import {
  endOf,
  EVENT_SPECS,
  findIn,
  NOTE_SPECS,
  parseFind,
  type EventSpec,
  type Join,
  type Note,
  type NoteSpec,
  type Part,
  type Piece,
  type Riff,
} from '@/core/score';
import { parseName } from '@/core/pitch';
import type { Edit } from '@/core/edit';
import { LENGTHS } from '@/core/rhythm';
import { barOf, barStart, mul, parseMeter, quarter, ZERO, type Quarter } from '@/core/time';
import type { Chosen } from './selection';

/** What a command works on and with. */
export interface BenchContext {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly chosen: Chosen;
  readonly edit: (made: Result<Edit>) => boolean;
  readonly say: (text: string) => void;
}

/** Something that can be done to the riff, found by its id, with its name as it would be said and its key. */
export interface Command {
  readonly id: string;
  readonly group: string;
  readonly name: string;
  /** As `KeyboardEvent.key`, with "Shift+", "Ctrl+" or "Alt+" before it; several where more than one will do. */
  readonly key?: string;
  /** Other words one may type for it. */
  readonly words?: string;
  readonly run: () => void;
}

const ids = (desk: BenchContext): string[] => desk.chosen.events.map((event) => event.id);

/** The note in focus. */
export function focusRef({ chosen, riff }: BenchContext): NoteRef | null {
  const note = chosen.focus?.notes[chosen.noteIndex];
  return chosen.focus && note ? { riff: riff.id, event: chosen.focus.id, note: note.id } : null;
}

/** Commands on what is chosen, in the order of the list. Those that toggle look at the note in focus. */
export function commandsFor(desk: BenchContext): Command[] {
  const made = [
    ...lengthCommands(desk),
    ...joinCommands(desk),
    ...techniqueCommands(desk),
    ...soundCommands(desk),
    ...certaintyCommands(desk),
    ...moveCommands(desk),
  ];
  return [...made].sort((a, b) => GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group));
}

const GROUPS = ['Length', 'Join', 'Bend and vibrato', 'Sound', 'Stroke', 'Hand', 'Certainty', 'Move'];

/** The notes a mark goes to: the one in focus of a chord, or every note of what is chosen. */
const targets = ({ events, single }: Chosen): readonly Note[] =>
  events.flatMap((event) => event.notes).filter((note) => single === null || note.id === single);

/**
 * One change for all: where it would set something on any of them it is set on all, and only where it is set
 * everywhere is it cleared.
 */
const changeOfAll = <Change extends object>(changes: readonly Change[]): Change | undefined =>
  changes.find((change) => Object.values(change).some((value) => value !== null)) ?? changes[0];

/** What the tables of techniques offer, on the notes and events chosen. */
function techniqueCommands(desk: BenchContext): Command[] {
  const { piece, riff, chosen, edit } = desk;
  const notes = targets(chosen);
  const onNotes = (Object.values(NOTE_SPECS) as NoteSpec[]).flatMap((spec) =>
    spec.commands.map(({ change, ...command }): Command => ({
      ...command,
      run: () => {
        const made = changeOfAll(notes.map((note) => change(note.technique ?? {}))) ?? change({});
        edit(setTechniqueOfAll(piece, riff.id, ids(desk), made, chosen.single));
      },
    })),
  );
  const onEvents = (Object.values(EVENT_SPECS) as EventSpec[]).flatMap((spec) =>
    spec.commands.map(({ change, ...command }): Command => ({
      ...command,
      run: () => {
        const made = changeOfAll(chosen.events.map((event) => change(event))) ?? change(chosen.focus ?? {});
        edit(setArticulation(piece, riff.id, ids(desk), made));
      },
    })),
  );
  return [...onNotes, ...onEvents];
}

/** First letters, but for the half: H hammers on, and the list of keys says so. */
const LENGTH_KEYS: Readonly<Record<string, string>> = {
  whole: 'w',
  half: 'n',
  quarter: 'q',
  eighth: 'e',
  sixteenth: 's',
};

function lengthCommands(desk: BenchContext): Command[] {
  const { piece, riff, chosen, edit } = desk;
  const { focus } = chosen;
  const length = (dur: Quarter): void => void edit(setLength(piece, riff.id, ids(desk), dur));
  return [
    ...Object.entries(LENGTHS).map(([name, dur]): Command => ({
      id: `length-${name}`,
      group: 'Length',
      name: `Make it a ${name}`,
      key: LENGTH_KEYS[name],
      words: 'length duration',
      run: () => length(dur),
    })),
    {
      id: 'dotted',
      group: 'Length',
      name: 'Dotted',
      key: '.',
      run: () => {
        if (focus) length(mul(focus.dur, 3, 2));
      },
    },
    {
      id: 'triplet',
      group: 'Length',
      name: 'Three in the time of two (triplet)',
      run: () => {
        if (focus) length(mul(focus.dur, 2, 3));
      },
    },
    {
      id: 'let-ring',
      group: 'Length',
      name: 'Let ring, or not',
      key: 'r',
      run: () => void edit(setLetRing(piece, riff.id, ids(desk), !chosen.events.every((event) => event.letRing))),
    },
    {
      id: 'grace',
      group: 'Length',
      name: 'Grace note before it',
      key: 'i',
      run: () => {
        if (focus) edit(addGrace(piece, riff.id, focus.id));
      },
    },
  ];
}

/** Whether everything chosen leads on in a way already: of a chord it is enough that some note does. */
const joinedSo = ({ events, single }: Chosen, to: Join): boolean =>
  events.every((event) => event.notes.some((note) => (single === null || note.id === single) && note.join === to));

function joinCommands(desk: BenchContext): Command[] {
  const { piece, riff, chosen, edit } = desk;
  const join = (to: Join) => (): void =>
    void edit(setJoin(piece, riff.id, ids(desk), joinedSo(chosen, to) ? null : to, chosen.single));
  return [
    { id: 'hammer', group: 'Join', name: 'Hammer on to the next, or not', key: 'h', run: join('hammer') },
    { id: 'pull', group: 'Join', name: 'Pull off to the next, or not', key: 'p', run: join('pull') },
    { id: 'slide', group: 'Join', name: 'Slide to the next, or not', key: 'g', words: 'glide', run: join('slide') },
    {
      id: 'shift-slide',
      group: 'Join',
      name: 'Slide to the next and strike it, or not',
      key: 'Shift+G',
      words: 'shift slide',
      run: join('shift'),
    },
  ];
}

function soundCommands(desk: BenchContext): Command[] {
  const { piece, riff, chosen, edit } = desk;
  const held = targets(chosen).every((note) => note.technique?.hold !== undefined);
  const hold = held ? null : barStart(riff.meters, 1);
  return [
    { id: 'hit', group: 'Sound', name: 'Percussive hit here', run: () => special(desk, 'hit') },
    { id: 'scrape', group: 'Sound', name: 'Pick scrape here', run: () => special(desk, 'scrape') },
    {
      id: 'slide-bar',
      group: 'Sound',
      name: 'With the slide bar, or with fingers',
      words: 'bottleneck',
      run: () => void edit(setSlideBar(piece, riff.id, ids(desk), !chosen.events.every((event) => event.slideBar))),
    },
    {
      id: 'hold',
      group: 'Hand',
      name: 'Keep the finger down for a bar, or not',
      run: () => void edit(setTechniqueOfAll(piece, riff.id, ids(desk), { hold }, chosen.single)),
    },
  ];
}

function special({ piece, riff, chosen, edit }: BenchContext, what: 'hole' | 'hit' | 'scrape'): void {
  const { focus } = chosen;
  edit(putSpecial(piece, riff.id, what, focus ? focus.at : chosen.insertAt, focus?.dur ?? quarter(1)));
}

function certaintyCommands(desk: BenchContext): Command[] {
  const { piece, riff, chosen, edit } = desk;
  const note = chosen.focus?.notes[chosen.noteIndex];
  const certainty = note?.certainty === 'sure' ? 'likely' : note?.certainty === 'likely' ? 'guess' : 'sure';
  return [
    {
      id: 'certainty',
      group: 'Certainty',
      name: 'Sure, likely, a guess',
      key: 'j',
      run: () => void edit(setEvidence(piece, riff.id, ids(desk), { certainty }, chosen.single)),
    },
    ...(
      [
        ['attack', 'Its attack was heard'],
        ['ring', 'An open string was heard ringing'],
        ['seen', 'Seen live'],
        ['isolated', 'Heard alone in the mix'],
        ['told', 'Told by the player'],
        ['pattern', 'By the pattern around it'],
      ] as const
    ).map(([basis, name]): Command => ({
      id: `evidence-${basis}`,
      group: 'Certainty',
      name,
      words: 'evidence',
      run: () => {
        const { at = null, remark = '' } = note?.evidence ?? {};
        edit(setEvidence(piece, riff.id, ids(desk), { evidence: { basis, at, remark } }, chosen.single));
      },
    })),
    {
      id: 'hole',
      group: 'Certainty',
      name: 'Played here, not yet written (a hole)',
      key: 'o',
      run: () => special(desk, 'hole'),
    },
    {
      id: 'keep-alternative',
      group: 'Certainty',
      name: 'Keep this as an alternative beside',
      words: 'competing version reading',
      run: () => keepChosen(desk),
    },
  ];
}

function moveCommands(desk: BenchContext): Command[] {
  const move = (id: string, name: string, by: Move['by'], steps: number, extra: Partial<Command> = {}): Command => ({
    id,
    group: 'Move',
    name,
    words: 'transpose',
    ...extra,
    run: () => moveChosen(desk, { by, steps }),
  });
  return [
    move('up-fret', 'Up a fret, in shape', 'frets', 1, { key: ']' }),
    move('down-fret', 'Down a fret, in shape', 'frets', -1, { key: '[' }),
    move('thinner', 'A string thinner, in shape', 'strings', -1),
    move('thicker', 'A string thicker, in shape', 'strings', 1),
    move('octave-up', 'An octave up, in sound', 'semitones', 12),
    move('octave-down', 'An octave down, in sound', 'semitones', -12),
    {
      id: 'semitone-up',
      group: 'Move',
      name: 'A semitone up',
      key: '+',
      words: 'transpose',
      run: () => sounding(desk, 1),
    },
    {
      id: 'semitone-down',
      group: 'Move',
      name: 'A semitone down',
      key: '-',
      words: 'transpose',
      run: () => sounding(desk, -1),
    },
  ];
}

/** One note goes along its string where it is locked; several go together in sound. */
function sounding(desk: BenchContext, by: number): void {
  const ref = focusRef(desk);
  if (desk.chosen.events.length > 1) moveChosen(desk, { by: 'semitones', steps: by });
  else if (ref) desk.edit(shiftPitch(desk.piece, ref, by));
}

export function moveChosen(desk: BenchContext, move: Move): void {
  const made = moveNotes(desk.piece, desk.riff.id, ids(desk), move);
  if (!made.ok) return void desk.edit(made);
  if (!desk.edit({ ok: true, value: made.value.edit })) return;
  const lost = movedWords(made.value.moved);
  if (lost) desk.say(lost);
}

/** From where to where the chosen events go: to the end of the last. */
export function stretchOfChosen({ events }: Chosen): { readonly from: Quarter; readonly to: Quarter } | null {
  const first = events.find((event) => !event.grace) ?? events[0];
  const last = events.at(-1);
  return first && last ? { from: first.at, to: endOf(last) } : null;
}

export function keepChosen(desk: BenchContext): void {
  const stretch = stretchOfChosen(desk.chosen);
  if (!stretch) return desk.say('Choose the notes to keep first.');
  const count = (desk.riff.alternatives?.length ?? 0) + 1;
  if (desk.edit(keepAlternative(desk.piece, desk.riff.id, stretch.from, stretch.to, `Alternative ${count}`)))
    desk.say('Kept beside. Write it otherwise now; the Phrase page compares them.');
}

/** Commands that take a number or a word typed with them, read from what was typed. */
export function typedCommands(desk: BenchContext, typed: string): Command[] {
  const text = typed.trim();
  const out: Command[] = [];
  const { piece, riff, edit, chosen } = desk;
  const frame = (name: string, run: () => void): number =>
    out.push({ id: `typed-${out.length}`, group: 'As typed', name, run });
  const number = (pattern: RegExp): number | null => {
    const match = pattern.exec(text);
    return match ? Number(match[1]) : null;
  };
  const named = /^key\s+(\S+)\s+(major|minor)$/i.exec(text);
  const tonic = named?.[1] ? named[1].charAt(0).toUpperCase() + named[1].slice(1) : '';
  if (named && parseName(tonic)) {
    const mode = named[2]?.toLowerCase() === 'major' ? 'major' : 'minor';
    frame(`Key of this riff: ${tonic} ${mode}`, () => void edit(setFrame(piece, riff.id, { key: { tonic, mode } })));
  }
  const tempo = number(/^tempo\s+(\d+(?:\.\d+)?)$/i);
  if (tempo !== null && tempo >= 10 && tempo <= 500)
    frame(
      `Tempo of this riff: ${tempo}`,
      () => void edit(setFrame(piece, riff.id, { tempo: [{ at: ZERO, bpm: tempo }] })),
    );
  const swing = number(/^swing\s+(\d+)$/i);
  if (swing !== null && swing >= 50 && swing <= 80)
    frame(
      `Swing ${swing} % in eighths`,
      () => void edit(setFrame(piece, riff.id, { feel: [{ at: ZERO, swing, unit: '1/2' }] })),
    );
  const plays = number(/^plays?\s+(\d+)$/i);
  if (plays !== null && plays >= 1 && plays <= 999)
    frame(`Played ${plays} times in all`, () => void edit(setFrame(piece, riff.id, { plays })));
  const bars = number(/^bars?\s+(\d+)$/i);
  if (bars !== null && bars >= 1 && bars <= 2000)
    frame(`${bars} bars long`, () => void edit(setFrame(piece, riff.id, { bars })));
  const meter = /^meter\s+(\d+\/\d+)$/i.exec(text);
  const read = meter ? parseMeter(meter[1] ?? '') : null;
  if (read) {
    const bar = chosen.focus ? Math.max(0, barOf(riff.meters, chosen.focus.at).bar) : 0;
    frame(
      `Meter ${read.beats}/${read.unit} from bar ${bar + 1}`,
      () =>
        void edit(
          setFrame(piece, riff.id, {
            meters: [
              ...riff.meters.filter((meter) => meter.bar < bar),
              { bar, ...read },
              ...riff.meters.filter((meter) => meter.bar > bar),
            ],
          }),
        ),
    );
  }
  const move = /^(?:move\s+)?([+-]?\d+)\s*(frets?|strings?|semitones?)$/i.exec(text);
  if (move) {
    const by = /^f/i.test(move[2] ?? '') ? 'frets' : /^st/i.test(move[2] ?? '') ? 'strings' : 'semitones';
    frame(`Move what is chosen by ${move[1]} ${by}`, () => moveChosen(desk, { by, steps: Number(move[1]) }));
  }
  const why = /^why\s+(.+)$/i.exec(text);
  if (why?.[1])
    frame(
      `Why it is played here: ${why[1]}`,
      () => void edit(setArticulation(piece, riff.id, ids(desk), { remark: why[1] ?? null })),
    );
  const found = /^find\s+(.+)$/i.exec(text);
  const asked = found?.[1] ?? (text.length > 2 ? text : null);
  if (asked) {
    const test = parseFind(asked);
    if (test.ok) {
      const hits = findIn(riff, test.value);
      frame(`Choose ${hits.length === 1 ? 'the 1 place' : `all ${hits.length} places`}: ${asked}`, () => {
        if (hits.length === 0) return desk.say(`Nothing in this riff is "${asked}".`);
        chosen.pick(
          hits.map((one) => one.event),
          hits[0]?.notes[0] ?? null,
        );
        desk.say(`${hits.length} chosen.`);
      });
    } else if (found) frame(test.error.words, () => desk.say(test.error.words));
  }
  return out;
}
