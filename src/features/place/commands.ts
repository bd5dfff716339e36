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
  type ArticulationChange,
  type Move,
  type NoteRef,
  type TechniqueChange,
} from '@/core/command';
import type { Edit } from '@/core/edit';
import {
  bendShapes,
  endOf,
  findIn,
  parseFind,
  type Join,
  type Part,
  type Piece,
  type Riff,
  type Stroke,
  joinOf,
} from '@/core/score';
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

/** Something that can be done to the riff, with its name as it would be said and its key where it has one. */
export interface Command {
  readonly group: string;
  readonly name: string;
  /** As `KeyboardEvent.key`, with "Shift+" or "Ctrl+" before it. */
  readonly key?: string;
  /** Other words one may type for it. */
  readonly words?: string;
  readonly run: () => void;
}

const ids = (desk: BenchContext): string[] => desk.chosen.events.map((e) => e.id);

/** The note in focus. */
export function focusRef({ chosen, riff }: BenchContext): NoteRef | null {
  const note = chosen.focus?.notes[chosen.noteIndex];
  return chosen.focus && note ? { riff: riff.id, event: chosen.focus.id, note: note.id } : null;
}

/** Commands on what is chosen. Those that toggle look at the note in focus. */
export function commandsFor(desk: BenchContext): Command[] {
  const { piece, riff, chosen, edit } = desk;
  const { focus } = chosen;
  const note = focus?.notes[chosen.noteIndex];
  const now = note?.technique;
  const tech = (change: TechniqueChange) => (): void => void edit(setTechniqueOfAll(piece, riff.id, ids(desk), change));
  const manner = (change: ArticulationChange) => (): void =>
    void edit(setArticulation(piece, riff.id, ids(desk), change));
  const toggleTech = (key: keyof TechniqueChange, value: TechniqueChange): (() => void) =>
    tech(now?.[key] === undefined ? value : { [key]: null });
  const toggleManner = (key: keyof ArticulationChange, value: ArticulationChange): (() => void) =>
    manner(focus?.[key] === undefined ? value : { [key]: null });
  const link = (to: Join) => (): void =>
    void edit(setJoin(piece, riff.id, ids(desk), joinOf(focus) === to ? null : to));
  const bend = (cents: number, shape?: keyof ReturnType<typeof bendShapes>): TechniqueChange => ({
    bend: cents,
    bendCurve: shape ? [...bendShapes(cents)[shape]] : null,
  });
  const stroke = (to: Stroke) => (): void => manner(focus?.stroke === to ? { stroke: null } : { stroke: to })();
  const length = (dur: Quarter) => (): void => void edit(setLength(piece, riff.id, ids(desk), dur));
  const special = (what: 'hole' | 'hit' | 'scrape') => (): void => {
    const at = focus ? focus.at : chosen.insertAt;
    edit(putSpecial(piece, riff.id, what, at, focus?.dur ?? quarter(1)));
  };
  const accent = focus?.accent === undefined ? 'accent' : focus.accent === 'accent' ? 'heavy' : null;
  const certainty = note?.certainty === 'sure' ? 'likely' : note?.certainty === 'likely' ? 'guess' : 'sure';
  return [
    ...Object.entries(LENGTHS).map(([name, dur]): Command => ({
      group: 'Length',
      name: `Make it a ${name}`,
      key: { half: 'w', quarter: 'q', eighth: 'e', sixteenth: 's' }[name],
      words: 'length duration',
      run: length(dur),
    })),
    {
      group: 'Length',
      name: 'Dotted',
      key: '.',
      run: () => {
        if (focus) length(mul(focus.dur, 3, 2))();
      },
    },
    {
      group: 'Length',
      name: 'Three in the time of two (triplet)',
      run: () => {
        if (focus) length(mul(focus.dur, 2, 3))();
      },
    },
    {
      group: 'Length',
      name: 'Staccato, or not',
      key: 'd',
      words: 'short detached',
      run: toggleManner('gate', { gate: 50 }),
    },
    { group: 'Length', name: 'Cut to a third', words: 'short', run: manner({ gate: 33 }) },
    {
      group: 'Length',
      name: 'Let ring, or not',
      key: 'r',
      run: () => void edit(setLetRing(piece, riff.id, ids(desk), !focus?.letRing)),
    },
    {
      group: 'Length',
      name: 'Ring on under what follows, or not',
      key: ';',
      run: toggleTech('letRing', { letRing: true }),
    },
    {
      group: 'Length',
      name: 'Ahead of its beat, or not',
      words: 'anticipation push',
      run: toggleManner('anticipated', { anticipated: true }),
    },
    {
      group: 'Length',
      name: 'Grace note before it',
      key: 'i',
      run: () => {
        if (focus) edit(addGrace(piece, riff.id, focus.id));
      },
    },

    { group: 'Join', name: 'Hammer on to the next, or not', key: 'h', run: link('hammer') },
    { group: 'Join', name: 'Pull off to the next, or not', key: 'p', run: link('pull') },
    { group: 'Join', name: 'Slide to the next, or not', key: 'g', words: 'glide', run: link('slide') },
    {
      group: 'Join',
      name: 'Slide to the next and strike it, or not',
      key: 'Shift+G',
      words: 'shift slide',
      run: link('shift'),
    },
    {
      group: 'Join',
      name: 'The slide that leads here is fast, or not',
      run: toggleManner('quickSlide', { quickSlide: true }),
    },
    {
      group: 'Join',
      name: 'Slide in from lower frets',
      words: 'from nowhere',
      run: toggleTech('slideIn', { slideIn: 'lower' }),
    },
    {
      group: 'Join',
      name: 'Slide in from higher frets',
      words: 'from nowhere',
      run: toggleTech('slideIn', { slideIn: 'higher' }),
    },
    { group: 'Join', name: 'Slide off to lower frets', run: toggleTech('slideOut', { slideOut: 'lower' }) },
    { group: 'Join', name: 'Slide off to higher frets', run: toggleTech('slideOut', { slideOut: 'higher' }) },

    { group: 'Bend and shake', name: 'Bend a whole tone, or not', key: 'b', run: toggleTech('bend', bend(200)) },
    { group: 'Bend and shake', name: 'Bend a half tone', key: 'Shift+B', run: tech(bend(100)) },
    { group: 'Bend and shake', name: 'Bend a quarter tone', run: tech(bend(50)) },
    { group: 'Bend and shake', name: 'Bend a tone and a half', run: tech(bend(300)) },
    { group: 'Bend and shake', name: 'Bend and release', run: tech(bend(now?.bend ?? 200, 'released')) },
    { group: 'Bend and shake', name: 'Bend, release and bend again', run: tech(bend(now?.bend ?? 200, 'again')) },
    {
      group: 'Bend and shake',
      name: 'Bent before it is struck',
      words: 'pre-bend prebend',
      run: tech(bend(now?.bend ?? 200, 'prebend')),
    },
    {
      group: 'Bend and shake',
      name: 'Bent before it is struck, and released',
      words: 'pre-bend prebend',
      run: tech(bend(now?.bend ?? 200, 'prebend-released')),
    },
    {
      group: 'Bend and shake',
      name: 'The finger pushes (to the thick strings)',
      run: tech({ bendDirection: 'thick' }),
    },
    { group: 'Bend and shake', name: 'The finger pulls (to the thin strings)', run: tech({ bendDirection: 'thin' }) },
    {
      group: 'Bend and shake',
      name: 'Bent, how far is unsaid',
      words: 'bend target',
      run: tech({ bend: null, unspecified: ['bend'] }),
    },
    {
      group: 'Bend and shake',
      name: 'Vibrato, or not',
      key: 'v',
      words: 'shake',
      run: toggleTech('vibrato', { vibrato: 40 }),
    },
    { group: 'Bend and shake', name: 'Wide vibrato', key: 'Shift+V', run: tech({ vibrato: 80 }) },
    { group: 'Bend and shake', name: 'Narrow vibrato', run: tech({ vibrato: 20 }) },
    {
      group: 'Bend and shake',
      name: 'Trill with the note two frets up, or not',
      key: 't',
      run: toggleTech('trill', { trill: 2 }),
    },
    { group: 'Bend and shake', name: 'Trill with the next fret', run: tech({ trill: 1 }) },
    {
      group: 'Bend and shake',
      name: 'Trilled, with which note is unsaid',
      run: tech({ trill: null, unspecified: ['trill'] }),
    },

    { group: 'Sound', name: 'Palm mute, or not', key: 'm', run: toggleManner('mute', { mute: 'palm' }) },
    {
      group: 'Sound',
      name: 'Choked by the fretting hand, or not',
      key: 'k',
      words: 'mute',
      run: toggleManner('mute', { mute: 'choked' }),
    },
    { group: 'Sound', name: 'Dead note, or not', key: 'x', run: toggleTech('dead', { dead: true }) },
    { group: 'Sound', name: 'Pinched harmonic, or not', run: toggleTech('pinched', { pinched: 24 }) },
    {
      group: 'Sound',
      name: 'Tapped by the picking hand, or not',
      key: 'y',
      run: toggleTech('tapped', { tapped: true }),
    },
    { group: 'Sound', name: 'Accent, heavy, none', key: 'a', run: manner({ accent }) },
    { group: 'Sound', name: 'Ghost note, or not', run: toggleManner('accent', { accent: 'ghost' }) },
    ...(['pp', 'p', 'mp', 'mf', 'f', 'ff'] as const).map((volume): Command => ({
      group: 'Sound',
      name: `Volume ${volume} from here`,
      run: manner({ dynamic: volume }),
    })),
    { group: 'Sound', name: 'Volume unsaid here', run: manner({ dynamic: null }) },
    { group: 'Sound', name: 'Percussive hit here', run: special('hit') },
    { group: 'Sound', name: 'Pick scrape here', run: special('scrape') },
    {
      group: 'Sound',
      name: 'With the slide bar, or with fingers',
      words: 'bottleneck',
      run: () => void edit(setSlideBar(piece, riff.id, ids(desk), !focus?.slideBar)),
    },

    { group: 'Stroke', name: 'Downstroke, or as the school says', key: 'Shift+D', run: stroke('down') },
    { group: 'Stroke', name: 'Upstroke, or as the school says', key: 'u', run: stroke('up') },
    {
      group: 'Stroke',
      name: 'The stroke before carries on',
      key: 'Shift+C',
      words: 'one pick several notes sweep economy',
      run: stroke('same'),
    },
    ...(
      [
        ['thumb', 'Thumb plucks'],
        ['index', 'Index finger plucks'],
        ['middle', 'Middle finger plucks'],
        ['third', 'Ring finger plucks'],
        ['slap', 'Slap with the thumb'],
        ['pop', 'Pop'],
        ['brush-down', 'Brush down'],
        ['brush-up', 'Brush up'],
      ] as const
    ).map(([to, name]): Command => ({ group: 'Stroke', name, run: stroke(to) })),
    { group: 'Stroke', name: 'As the school says', run: manner({ stroke: null }) },
    {
      group: 'Stroke',
      name: 'Rolled from the thick strings, or not',
      words: 'arpeggio',
      run: toggleManner('roll', { roll: 'thick-first' }),
    },
    {
      group: 'Stroke',
      name: 'Rolled from the thin strings, or not',
      words: 'arpeggio',
      run: toggleManner('roll', { roll: 'thin-first' }),
    },
    { group: 'Stroke', name: 'Raked into, or not', run: toggleManner('rake', { rake: true }) },
    {
      group: 'Stroke',
      name: 'Tremolo in thirty-seconds, or not',
      run: toggleManner('tremolo', { tremolo: quarter(1, 8) }),
    },
    {
      group: 'Stroke',
      name: 'Tremolo in sixteenths, or not',
      run: toggleManner('tremolo', { tremolo: quarter(1, 4) }),
    },

    {
      group: 'Hand',
      name: 'The hand turns on this finger, or not',
      words: 'anchor',
      run: toggleTech('anchor', { anchor: true }),
    },
    {
      group: 'Hand',
      name: 'Keep the finger down for a bar, or not',
      run: toggleTech('hold', { hold: barStart(riff.meters, 1) }),
    },

    {
      group: 'Certainty',
      name: 'Sure, likely, a guess',
      key: 'j',
      run: () => void edit(setEvidence(piece, riff.id, ids(desk), { certainty })),
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
    ).map(([on, name]): Command => ({
      group: 'Certainty',
      name,
      words: 'evidence',
      run: () =>
        void edit(
          setEvidence(piece, riff.id, ids(desk), {
            evidence: { basis: on, at: note?.evidence?.at ?? null, remark: note?.evidence?.remark ?? '' },
          }),
        ),
    })),
    { group: 'Certainty', name: 'Played here, not yet written (a hole)', key: 'o', run: special('hole') },
    {
      group: 'Certainty',
      name: 'Free: either of two',
      run: toggleManner('free', { free: { kind: 'either', remark: '' } }),
    },
    {
      group: 'Certainty',
      name: 'Free: a fill may be played',
      run: toggleManner('free', { free: { kind: 'fill', remark: '' } }),
    },
    {
      group: 'Certainty',
      name: 'Free: may be left out',
      run: toggleManner('free', { free: { kind: 'leave-out', remark: '' } }),
    },
    {
      group: 'Certainty',
      name: 'Keep this as a reading beside',
      words: 'competing version',
      run: () => keepChosen(desk),
    },

    {
      group: 'Move',
      name: 'Up a fret, in shape',
      key: ']',
      words: 'transpose',
      run: () => moveChosen(desk, { by: 'frets', steps: 1 }),
    },
    {
      group: 'Move',
      name: 'Down a fret, in shape',
      key: '[',
      words: 'transpose',
      run: () => moveChosen(desk, { by: 'frets', steps: -1 }),
    },
    { group: 'Move', name: 'A string thinner, in shape', run: () => moveChosen(desk, { by: 'strings', steps: -1 }) },
    { group: 'Move', name: 'A string thicker, in shape', run: () => moveChosen(desk, { by: 'strings', steps: 1 }) },
    {
      group: 'Move',
      name: 'An octave up, in sound',
      words: 'transpose',
      run: () => moveChosen(desk, { by: 'semitones', steps: 12 }),
    },
    {
      group: 'Move',
      name: 'An octave down, in sound',
      words: 'transpose',
      run: () => moveChosen(desk, { by: 'semitones', steps: -12 }),
    },
    { group: 'Move', name: 'A semitone up', key: '+', words: 'transpose', run: () => sounding(desk, 1) },
    { group: 'Move', name: 'A semitone down', key: '-', words: 'transpose', run: () => sounding(desk, -1) },
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
  const first = events.find((e) => !e.grace) ?? events[0];
  const last = events.at(-1);
  return first && last ? { from: first.at, to: endOf(last) } : null;
}

export function keepChosen(desk: BenchContext): void {
  const stretch = stretchOfChosen(desk.chosen);
  if (!stretch) return desk.say('Choose the notes to keep first.');
  const count = (desk.riff.alternatives?.length ?? 0) + 1;
  if (desk.edit(keepAlternative(desk.piece, desk.riff.id, stretch.from, stretch.to, `Reading ${count}`)))
    desk.say('Kept beside. Write it otherwise now; the Phrase page compares them.');
}

/** Commands that take a number or a word typed with them, read from what was typed. */
export function typedCommands(desk: BenchContext, typed: string): Command[] {
  const text = typed.trim();
  const out: Command[] = [];
  const { piece, riff, edit, chosen } = desk;
  const frame = (name: string, run: () => void): number => out.push({ group: 'As typed', name, run });
  const number = (pattern: RegExp): number | null => {
    const m = pattern.exec(text);
    return m ? Number(m[1]) : null;
  };
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
              ...riff.meters.filter((m) => m.bar < bar),
              { bar, ...read },
              ...riff.meters.filter((m) => m.bar > bar),
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
          hits.map((h) => h.event),
          hits[0]?.notes[0] ?? null,
        );
        desk.say(`${hits.length} chosen.`);
      });
    } else if (found) frame(test.error.words, () => desk.say(test.error.words));
  }
  return out;
}
