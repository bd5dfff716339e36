import { lockAt, moveEvents, removeEvents, swapPlaces, toNextString, unlock, type NoteRef } from '@/core/command';
import type { Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { cmp, quarter } from '@/core/time';
import { LANES, type LaneName } from '@/ui/draw/lanes';
import { commandsFor, focusRef, type BenchContext, type Command } from './commands';
import type { SideTab } from './side';

/** What the bench itself can do beside changing the riff. Its hands: buttons, keys and the command list call these. */
export interface BenchActions {
  readonly undo: () => void;
  readonly redo: () => void;
  readonly play: () => void;
  readonly saveSound: () => void;
  readonly call: () => void;
  readonly help: () => void;
  readonly newRiff: () => void;
  /** Opens the list of commands with something typed. */
  readonly palette: (typed: string) => void;
  /** Puts what is chosen into the call line as text. */
  readonly rewrite: () => void;
  readonly copy: () => Promise<void>;
  readonly paste: () => Promise<void>;
  readonly pasteMoved: () => void;
  readonly movePhrase: () => void;
  /** Goes and asks which set-up what is chosen was played in. */
  readonly findSetup: () => void;
  readonly tap: () => void;
  readonly playIn: () => void;
  readonly zoom: (by: 1 | -1) => void;
  readonly barsInRow: (bars: number | null) => void;
  readonly wide: () => void;
  readonly neck: () => void;
  readonly lane: (lane: LaneName) => void;
  readonly side: (tab: SideTab) => void;
  /** Answers the program's question with the n-th place offered. */
  readonly answer: (n: number) => void;
  /** The next digit typed is a finger, or another finger that would do. */
  readonly fingerNext: (what: 'finger' | 'option') => void;
}

export interface Bench extends BenchContext {
  readonly actions: BenchActions;
  /** What is shown now, for commands that say what they would change. */
  readonly shown: { readonly wide: boolean; readonly neck: boolean };
}

/** Everything that can be done at the bench: the one list behind its keys, its command list and the sheet of keys. */
export const benchCommands = (bench: Bench): Command[] => [
  ...commandsFor(bench),
  ...chooseCommands(bench),
  ...placeCommands(bench),
  ...writeCommands(bench),
  ...viewCommands(bench),
];

/** From nowhere the first step goes to the note nearest to the caret, or to an end of the riff. */
function step({ riff, chosen }: BenchContext, by: 1 | -1, extend: boolean): void {
  const { caret } = chosen.selection;
  const last = riff.events.length - 1;
  const after = caret === null ? -1 : riff.events.findIndex((event) => cmp(event.at, caret) >= 0);
  const from = (): number => {
    if (chosen.focusIndex >= 0) return chosen.focusIndex + by;
    if (caret === null) return by > 0 ? 0 : last;
    return by > 0 ? (after < 0 ? last : after) : (after < 0 ? last + 1 : after) - 1;
  };
  const event = riff.events[Math.max(0, Math.min(last, from()))];
  if (event) chosen.choose(event, null, extend);
}

function chooseCommands(bench: Bench): Command[] {
  const { riff, chosen } = bench;
  const group = 'Choose';
  const goTo = (event: (typeof riff.events)[number] | undefined, extend: boolean): void => {
    if (event) chosen.choose(event, null, extend);
  };
  const chordNote = (by: 1 | -1): void => {
    const notes = chosen.focus?.notes ?? [];
    const from = chosen.single ? chosen.noteIndex : by > 0 ? -1 : 0;
    const next = notes[(from + by + notes.length) % Math.max(1, notes.length)];
    if (chosen.focus && next) chosen.choose(chosen.focus, next.id);
  };
  return [
    { id: 'previous', group, name: 'The note before', key: 'ArrowLeft', run: () => step(bench, -1, false) },
    { id: 'next', group, name: 'The next note', key: 'ArrowRight', run: () => step(bench, 1, false) },
    {
      id: 'extend-back',
      group,
      name: 'A stretch, one more before',
      key: 'Shift+ArrowLeft',
      run: () => step(bench, -1, true),
    },
    {
      id: 'extend',
      group,
      name: 'A stretch, one more after',
      key: 'Shift+ArrowRight',
      run: () => step(bench, 1, true),
    },
    { id: 'chord-up', group, name: 'The next note of a chord', key: 'ArrowUp', run: () => chordNote(1) },
    { id: 'chord-down', group, name: 'The note before in a chord', key: 'ArrowDown', run: () => chordNote(-1) },
    { id: 'first', group, name: 'The first note', key: 'Home', run: () => goTo(riff.events[0], false) },
    { id: 'last', group, name: 'The last note', key: 'End', run: () => goTo(riff.events.at(-1), false) },
    {
      id: 'extend-first',
      group,
      name: 'A stretch back to the first note',
      key: 'Shift+Home',
      run: () => goTo(riff.events[0], true),
    },
    {
      id: 'extend-last',
      group,
      name: 'A stretch on to the last note',
      key: 'Shift+End',
      run: () => goTo(riff.events.at(-1), true),
    },
    {
      id: 'swap-place',
      group: 'Hand',
      name: 'Swap with its other place',
      key: 'Shift+A',
      words: 'alternative or',
      run: () => {
        const ref = focusRef(bench);
        if (ref) bench.edit(swapPlaces(bench.piece, ref));
      },
    },
    { id: 'all', group, name: 'Choose the whole riff', key: 'Ctrl+A', run: chosen.chooseAll },
    {
      id: 'none',
      group,
      name: 'Choose nothing',
      key: 'Escape',
      run: () => {
        // From one note of a chord back to the chord, then to nothing.
        if (chosen.single && (chosen.focus?.notes.length ?? 0) > 1) chosen.choose(chosen.focus, null);
        else chosen.choose(null, null);
      },
    },
    {
      id: 'find',
      group,
      name: 'Find: every bend, string 3 above fret 12',
      key: 'Ctrl+F',
      run: () => bench.actions.palette('find '),
    },
  ];
}

function placeCommands(bench: Bench): Command[] {
  const { piece, chosen, edit, actions } = bench;
  const group = 'Place';
  const onNote = (make: (ref: NoteRef) => Result<Edit>): void => {
    const ref = focusRef(bench);
    if (ref) edit(make(ref));
  };
  const toggleLock = (): void => {
    const place = chosen.focus?.notes[chosen.noteIndex]?.place;
    onNote((ref) => (place?.locked ? unlock(piece, ref) : lockAt(piece, ref, place?.string ?? 1, place?.fret ?? 0)));
  };
  return [
    { id: 'lock', group, name: 'Lock this place, or give it back', key: 'l', words: 'unlock keep', run: toggleLock },
    {
      id: 'thinner-string',
      group,
      name: 'Same pitch, thinner string',
      key: 'Alt+ArrowUp',
      run: () => onNote((ref) => toNextString(piece, ref, -1)),
    },
    {
      id: 'thicker-string',
      group,
      name: 'Same pitch, thicker string',
      key: 'Alt+ArrowDown',
      run: () => onNote((ref) => toNextString(piece, ref, 1)),
    },
    {
      id: 'finger',
      group,
      name: 'Finger: then 1 to 4, 5 the thumb, 0 the program’s',
      key: 'f',
      run: () => actions.fingerNext('finger'),
    },
    {
      id: 'finger-option',
      group,
      name: 'Another finger that would do: then 1 to 4',
      key: 'Shift+F',
      run: () => actions.fingerNext('option'),
    },
    ...[1, 2, 3, 4].map((n): Command => ({
      id: `answer-${n}`,
      group,
      name: `Answer the question with place ${n}`,
      key: `Alt+${n}`,
      run: () => actions.answer(n - 1),
    })),
  ];
}

function writeCommands(bench: Bench): Command[] {
  const { piece, riff, chosen, edit, actions } = bench;
  const group = 'Write';
  const ids = chosen.events.map((event) => event.id);
  const shift = (sixteenths: number): void => void edit(moveEvents(piece, riff.id, ids, quarter(sixteenths, 4)));
  const remove = (): void => {
    if (!edit(removeEvents(piece, riff.id, ids))) return;
    const after = riff.events.find((event, i) => i > chosen.focusIndex && !ids.includes(event.id));
    const next = after ?? riff.events[Math.max(0, chosen.focusIndex - 1)];
    chosen.choose(next && !ids.includes(next.id) ? next : null, null);
  };
  return [
    { id: 'call', group, name: 'Call notes', key: 'c', run: actions.call },
    {
      id: 'rewrite',
      group,
      name: 'Change what is chosen as calls',
      key: 'Ctrl+E',
      words: 'edit text',
      run: actions.rewrite,
    },
    { id: 'tap', group, name: 'Tap the rhythm', key: 'Shift+T', run: actions.tap },
    { id: 'play-in', group, name: 'Play in from a keyboard, or not', words: 'midi piano', run: actions.playIn },
    { id: 'earlier', group, name: 'A sixteenth earlier', key: 'Alt+ArrowLeft', run: () => shift(-1) },
    { id: 'later', group, name: 'A sixteenth later', key: 'Alt+ArrowRight', run: () => shift(1) },
    { id: 'delete', group, name: 'Delete', key: 'Delete', words: 'remove', run: remove },
    { id: 'copy', group, name: 'Copy, as calls', key: 'Ctrl+C', run: () => void actions.copy() },
    {
      id: 'cut',
      group,
      name: 'Cut, as calls',
      key: 'Ctrl+X',
      run: () => void actions.copy().then(() => edit(removeEvents(piece, riff.id, ids))),
    },
    { id: 'paste', group, name: 'Paste', key: 'Ctrl+V', run: () => void actions.paste() },
    {
      id: 'move-phrase',
      group,
      name: 'Move the phrase',
      key: 'Shift+M',
      words: 'transpose chord key octave register',
      run: actions.movePhrase,
    },
    { id: 'find-setup', group, name: 'Which set-up was this', words: 'tuning capo', run: actions.findSetup },
    { id: 'paste-moved', group, name: 'Paste moved', key: 'Ctrl+Shift+V', run: actions.pasteMoved },
    { id: 'undo', group, name: 'Undo', key: 'Ctrl+Z', run: actions.undo },
    { id: 'redo', group, name: 'Redo', key: 'Ctrl+Y', run: actions.redo },
    { id: 'commands', group, name: 'Every command by its name', key: 'Ctrl+K', run: () => actions.palette('') },
  ];
}

function viewCommands({ actions, shown }: Bench): Command[] {
  const group = 'See and listen';
  return [
    { id: 'play', group, name: 'Play, or stop', key: ' ', run: actions.play },
    { id: 'save-sound', group, name: 'Save the sound as WAV', words: 'bounce export audio', run: actions.saveSound },
    ...LANES.map((lane): Command => ({
      id: `lane-${lane}`,
      group,
      name: `The ${lane} lane, or not`,
      words: lane === 'staff' ? 'standard notation' : 'lane',
      run: () => actions.lane(lane),
    })),
    { id: 'closer', group, name: 'Fewer bars in a row', key: 'z', words: 'zoom', run: () => actions.zoom(-1) },
    { id: 'wider', group, name: 'More bars in a row', key: 'Shift+Z', words: 'zoom', run: () => actions.zoom(1) },
    ...[1, 2, 4, 8].map((bars): Command => ({
      id: `bars-${bars}`,
      group,
      name: `${bars} ${bars === 1 ? 'bar' : 'bars'} in a row`,
      words: 'zoom',
      run: () => actions.barsInRow(bars),
    })),
    {
      id: 'bars-fit',
      group,
      name: 'As many bars in a row as stay legible',
      words: 'zoom',
      run: () => actions.barsInRow(null),
    },
    {
      id: 'wide',
      group,
      name: shown.wide ? 'Show the reasons' : 'The strip over the whole width',
      key: 'Shift+W',
      run: actions.wide,
    },
    { id: 'neck', group, name: shown.neck ? 'Hide the neck' : 'Show the neck', run: actions.neck },
    ...(
      [
        ['note', ''],
        ['phrase', 'ways regions alternatives'],
        ['hand', ''],
        ['riff', 'tempo meter swing strokes bars'],
      ] as const
    ).map(([tab, words]): Command => ({
      id: `side-${tab}`,
      group,
      name: `Beside the strip: ${tab}`,
      words,
      run: () => actions.side(tab),
    })),
    { id: 'new-riff', group, name: 'New riff in this part', words: 'add insert', run: actions.newRiff },
    { id: 'keys', group, name: 'Keys', key: '?', run: actions.help },
  ];
}

/** Keys beside the one a command is listed with. */
export const ALSO: Readonly<Record<string, string>> = {
  '/': 'Ctrl+F',
  ',': 'Ctrl+K',
  Backspace: 'Delete',
  '=': '+',
  'Ctrl+Shift+Z': 'Ctrl+Y',
};
