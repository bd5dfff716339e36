/** The bench's keys: one list for the handler's documentation and the sheet that shows them. */
export const KEY_SHEET: readonly { readonly group: string; readonly keys: readonly (readonly [string, string])[] }[] = [
  {
    group: 'Choose',
    keys: [
      ['← →', 'the note before, the next'],
      ['Shift with ← →', 'a stretch of notes'],
      ['↑ ↓', 'the notes of a chord'],
      ['Home, End', 'first, last note'],
      ['Ctrl A', 'the whole riff'],
      ['Escape', 'nothing'],
    ],
  },
  {
    group: 'Place',
    keys: [
      ['0–9', 'fret on this string, locked'],
      ['Alt ↑, Alt ↓', 'same pitch, thinner or thicker string'],
      ['+, −', 'a semitone up, down'],
      ['L', 'lock this place, or give it back'],
      ['F then 1–4', 'finger (5 the thumb, 0: the program chooses)'],
      ['Alt 1–4', 'answer where the program asks'],
    ],
  },
  {
    group: 'Write',
    keys: [
      ['C', 'call notes'],
      ['Alt ←, Alt →', 'a sixteenth earlier, later'],
      ['Q W E S', 'quarter, half, eighth, sixteenth long'],
      ['. (period)', 'dotted'],
      ['H, P, G', 'hammer on, pull off, glide to the next'],
      ['R', 'let ring'],
      ['Delete', 'remove'],
      ['Ctrl X, C, V', 'cut, copy, paste (as calls)'],
      ['Ctrl Z, Ctrl Y', 'undo, redo'],
    ],
  },
  { group: 'Listen', keys: [['Space', 'play, stop'], ['?', 'this sheet']] },
];
