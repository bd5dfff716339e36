import { useSchools } from '@/ui/schools';
import { useRef, type KeyboardEvent } from 'react';
import { fail, type Finger, type Result } from '@/core/base';
import {
  insertEvents,
  lockAt,
  moveEvents,
  removeEvents,
  setFinger,
  setFingerOption,
  toNextString,
  unlock,
  type NoteRef,
} from '@/core/command';
import type { Edit } from '@/core/edit';
import type { Part, Piece, Riff } from '@/core/score';
import { fretShown, fretsLeft } from '@/core/instrument';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls } from '@/core/shorthand';
import { cmp, quarter } from '@/core/time';
import { commandsFor, focusRef } from './commands';
import type { Chosen } from './selection';

export interface Bench {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly chosen: Chosen;
  readonly edit: (made: Result<Edit>) => boolean;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly play: () => void;
  readonly call: () => void;
  readonly help: () => void;
  readonly palette: (typed: string) => void;
  /** Puts what is chosen into the call line as text. */
  readonly rewrite: () => void;
  readonly pasteMoved: () => void;
  readonly tap: () => void;
  readonly zoom: (by: 1 | -1) => void;
  readonly wide: () => void;
  /** Answers the program's question with the n-th place offered. */
  readonly answer: (n: number) => void;
  readonly say: (text: string) => void;
}

/** Two digits typed within this time are one fret, where the neck has it. */
const DIGIT_MS = 1500;

/** The keyboard of the bench. Everything the mouse does has a key here; see KEY_SHEET. */
export function useKeys(bench: Bench): (e: KeyboardEvent) => void {
  const digits = useRef({ text: '', at: 0, note: '' });
  const fingerNext = useRef<'finger' | 'option' | null>(null);
  const schools = useSchools();

  const ref = (): NoteRef | null => focusRef(bench);
  const ids = (): string[] => bench.chosen.events.map((e) => e.id);
  const onNote = (make: (r: NoteRef) => Result<Edit>): void => {
    const r = ref();
    if (r) bench.edit(make(r));
  };

  const goTo = (at: number, extend: boolean): void => {
    const { riff, chosen } = bench;
    const event = riff.events[Math.max(0, Math.min(riff.events.length - 1, at))];
    if (event) chosen.choose(event, null, extend);
  };
  /** From nowhere the first step goes to the note nearest to the caret, or to an end of the riff. */
  const step = (by: 1 | -1, extend: boolean): void => {
    const { riff, chosen } = bench;
    const { caret } = chosen.selection;
    if (chosen.focusIndex >= 0) return goTo(chosen.focusIndex + by, extend);
    const after = caret === null ? -1 : riff.events.findIndex((e) => cmp(e.at, caret) >= 0);
    if (caret === null) return goTo(by > 0 ? 0 : riff.events.length - 1, extend);
    goTo(by > 0 ? (after < 0 ? riff.events.length - 1 : after) : (after < 0 ? riff.events.length : after) - 1, extend);
  };

  const typeDigit = (key: string, now: number): void => {
    const r = ref();
    const place = bench.chosen.focus?.notes[bench.chosen.noteIndex]?.place;
    if (!r) return;
    if (fingerNext.current) {
      const option = fingerNext.current === 'option';
      fingerNext.current = null;
      const n = Number(key);
      if (option) bench.edit(setFingerOption(bench.piece, r, n === 0 || n > 5 ? null : (n as Finger)));
      else
        bench.edit(
          n <= 5
            ? setFinger(bench.piece, r, n === 0 ? null : (n as Finger))
            : fail('finger', 'Fingers are 1 (index) to 4 (little), 5 the thumb.'),
        );
      return;
    }
    const { setup } = bench.part;
    const last = schools.frets === 'nut' ? setup.instrument.frets : fretsLeft(setup);
    const joined = Number(digits.current.text + key);
    const more =
      digits.current.note === r.note &&
      now - digits.current.at < DIGIT_MS &&
      digits.current.text.length === 1 &&
      joined <= last;
    const text = more ? digits.current.text + key : key;
    digits.current = { text, at: now, note: r.note };
    const string = place?.string ?? 1;
    const fret = Number(text) === 0 ? 0 : fretShown(setup, string, Number(text), schools.frets);
    // Counted from the nut, a first digit may lie behind the capo: the second is waited for.
    if (fret >= 0) bench.edit(lockAt(bench.piece, r, string, fret));
  };

  const copy = async (): Promise<void> => {
    const { chosen, riff } = bench;
    const first = chosen.events.find((e) => !e.grace) ?? chosen.events[0];
    if (!first) return;
    await navigator.clipboard.writeText(
      printCalls({ ...riff, events: chosen.events }, first.at, { setup: bench.part.setup, frets: schools.frets }),
    );
    bench.say(`${chosen.events.length === 1 ? 'One note' : `${chosen.events.length} notes`} copied, as calls.`);
  };
  const paste = async (): Promise<void> => {
    const { chosen, riff, part, piece } = bench;
    const text = await navigator.clipboard.readText();
    const called = readCalls(text, {
      setup: part.setup,
      meters: riff.meters,
      at: chosen.insertAt,
      length: FIRST_LENGTH,
      string: null,
      schools,
    });
    if (called.faults[0] || called.events.length === 0) {
      bench.say(`The clipboard does not hold calls: ${called.faults[0]?.words ?? 'it is empty.'}`);
      return;
    }
    bench.edit(insertEvents(piece, riff.id, calledToEvents(called, new Set()), called.end));
  };

  const controlled = (key: string, shift: boolean): boolean => {
    switch (key) {
      case 'z':
        if (shift) bench.redo();
        else bench.undo();
        return true;
      case 'y':
        bench.redo();
        return true;
      case 'a':
        bench.chosen.chooseAll();
        return true;
      case 'c':
        void copy();
        return true;
      case 'x':
        void copy().then(() => bench.edit(removeEvents(bench.piece, bench.riff.id, ids())));
        return true;
      case 'v':
        if (shift) bench.pasteMoved();
        else void paste();
        return true;
      case 'k':
        bench.palette('');
        return true;
      case 'f':
        bench.palette('find ');
        return true;
      case 'e':
        bench.rewrite();
        return true;
    }
    return false;
  };

  const withAlt = (key: string): boolean => {
    const { piece, riff } = bench;
    if (/^[1-4]$/.test(key)) {
      bench.answer(Number(key) - 1);
      return true;
    }
    switch (key) {
      case 'ArrowUp':
        onNote((r) => toNextString(piece, r, -1));
        return true;
      case 'ArrowDown':
        onNote((r) => toNextString(piece, r, 1));
        return true;
      case 'ArrowLeft':
      case 'ArrowRight':
        bench.edit(moveEvents(piece, riff.id, ids(), quarter(key === 'ArrowLeft' ? -1 : 1, 4)));
        return true;
    }
    return false;
  };

  const plain = (e: KeyboardEvent): boolean => {
    const { piece, riff, chosen } = bench;
    const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
    const said = e.shiftKey && /^[a-z]$/i.test(e.key) ? `Shift+${e.key.toUpperCase()}` : key;
    if (/^\d$/.test(key)) typeDigit(key, e.timeStamp);
    else {
      const command = commandsFor(bench).find((c) => c.key === said || (c.key === '+' && said === '='));
      if (command && (chosen.focus || command.key === 'o')) {
        command.run();
        return true;
      }
      if (said === 'Shift+F') {
        fingerNext.current = 'option';
        return true;
      }
      if (said === 'Shift+W') {
        bench.wide();
        return true;
      }
      if (said === 'Shift+Z') {
        bench.zoom(1);
        return true;
      }
      if (said === 'Shift+T') {
        bench.tap();
        return true;
      }
      switch (key) {
        case 'ArrowLeft':
          step(-1, e.shiftKey);
          break;
        case 'ArrowRight':
          step(1, e.shiftKey);
          break;
        case 'ArrowUp':
        case 'ArrowDown': {
          const count = chosen.focus?.notes.length ?? 0;
          const next =
            chosen.focus?.notes[(chosen.noteIndex + (key === 'ArrowUp' ? 1 : count - 1)) % Math.max(1, count)];
          if (chosen.focus && next) chosen.choose(chosen.focus, next.id);
          break;
        }
        case 'Home':
          goTo(0, e.shiftKey);
          break;
        case 'End':
          goTo(Infinity, e.shiftKey);
          break;
        case 'Escape':
          chosen.choose(null, null);
          break;
        case 'Delete':
        case 'Backspace':
          if (bench.edit(removeEvents(piece, riff.id, ids()))) {
            const next =
              riff.events.find((x, i) => i > chosen.focusIndex && !ids().includes(x.id)) ??
              riff.events[Math.max(0, chosen.focusIndex - 1)];
            chosen.choose(next && !ids().includes(next.id) ? next : null, null);
          }
          break;
        case 'l': {
          const place = chosen.focus?.notes[chosen.noteIndex]?.place;
          onNote((r) => (place?.locked ? unlock(piece, r) : lockAt(piece, r, place?.string ?? 1, place?.fret ?? 0)));
          break;
        }
        case 'f':
          fingerNext.current = 'finger';
          break;
        case 'z':
          bench.zoom(-1);
          break;
        case '/':
          bench.palette('find ');
          break;
        case ',':
          bench.palette('');
          break;
        case 'c':
          bench.call();
          break;
        case ' ':
          bench.play();
          break;
        case '?':
          bench.help();
          break;
        default:
          return false;
      }
    }
    return true;
  };

  return (e) => {
    const handled =
      e.ctrlKey || e.metaKey ? controlled(e.key.toLowerCase(), e.shiftKey) : e.altKey ? withAlt(e.key) : plain(e);
    if (handled) e.preventDefault();
  };
}
