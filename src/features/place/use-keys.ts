import { useRef, type KeyboardEvent } from 'react';
import { fail, type Finger } from '@/core/base';
import { lockAt, setFinger, setFingerOption } from '@/core/command';
import { fretShown, fretsLeft } from '@/core/instrument';
import { useSchools } from '@/ui/schools';
import { ALSO, benchCommands, type Bench } from './bench-commands';
import { focusRef } from './commands';

/** Two digits typed within this time are one fret, where the neck has it. */
const DIGIT_MS = 1500;

/** Commands that work on notes, and the few of them that work where none is chosen. */
const ON_NOTES = new Set(['Length', 'Join', 'Bend and vibrato', 'Sound', 'Stroke', 'Hand', 'Certainty', 'Move']);
const ANYWHERE = new Set(['hole']);

/** A key as the list of commands has it: "Shift+W", "Ctrl+Shift+V", "Alt+ArrowUp", "h". */
export function keyName({
  key,
  ctrlKey,
  metaKey,
  altKey,
  shiftKey,
}: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
  const letter = /^[a-z]$/i.test(key);
  const ctrl = ctrlKey || metaKey;
  // Only a letter, an arrow, Home or End is another key with shift; other signs say so themselves.
  const shift = shiftKey && (letter || /^(Arrow|Home|End)/.test(key));
  const name = letter ? (ctrl || shift ? key.toUpperCase() : key.toLowerCase()) : key;
  return `${ctrl ? 'Ctrl+' : ''}${altKey && !ctrl ? 'Alt+' : ''}${shift ? 'Shift+' : ''}${name}`;
}

/** The keyboard of the bench: digits are frets and fingers, every other key is that of a command. */
export function useKeys(bench: Bench): {
  readonly onKeyDown: (event: KeyboardEvent) => void;
  readonly fingerNext: (what: 'finger' | 'option') => void;
} {
  const digits = useRef({ text: '', at: 0, note: '' });
  const waiting = useRef<'finger' | 'option' | null>(null);
  const schools = useSchools();

  const typeFinger = (digit: number, what: 'finger' | 'option'): void => {
    const ref = focusRef(bench);
    if (!ref) return;
    const finger = digit === 0 || digit > 5 ? null : (digit as Finger);
    if (what === 'option') bench.edit(setFingerOption(bench.piece, ref, finger));
    else if (digit > 5) bench.edit(fail('finger', 'Fingers are 1 (index) to 4 (little), 5 the thumb.'));
    else bench.edit(setFinger(bench.piece, ref, finger));
  };

  const typeFret = (digit: string, now: number): void => {
    const ref = focusRef(bench);
    if (!ref) return;
    const place = bench.chosen.focus?.notes[bench.chosen.noteIndex]?.place;
    const { setup } = bench.part;
    const last = schools.frets === 'nut' ? setup.instrument.frets : fretsLeft(setup);
    const before = digits.current;
    const more =
      before.note === ref.note &&
      now - before.at < DIGIT_MS &&
      before.text.length === 1 &&
      Number(before.text + digit) <= last;
    const text = more ? before.text + digit : digit;
    digits.current = { text, at: now, note: ref.note };
    const string = place?.string ?? 1;
    const fret = Number(text) === 0 ? 0 : fretShown(setup, string, Number(text), schools.frets);
    // Counted from the nut, a first digit may lie behind the capo: the second is waited for.
    if (fret >= 0) bench.edit(lockAt(bench.piece, ref, string, fret));
  };

  const onKeyDown = (event: KeyboardEvent): void => {
    const pressed = keyName(event);
    if (/^\d$/.test(pressed)) {
      const finger = waiting.current;
      waiting.current = null;
      if (finger) typeFinger(Number(pressed), finger);
      else typeFret(pressed, event.timeStamp);
      event.preventDefault();
      return;
    }
    const key = ALSO[pressed] ?? pressed;
    const command = benchCommands(bench).find((one) => one.key === key);
    if (!command || (ON_NOTES.has(command.group) && !bench.chosen.focus && !ANYWHERE.has(command.id))) return;
    command.run();
    event.preventDefault();
  };
  return { onKeyDown, fingerNext: (what) => (waiting.current = what) };
}
