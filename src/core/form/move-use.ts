import { fail, ok, type Result } from '../base';
import { moveShape, moveSound, moveStrings, type Moved } from '../carry';
import { parseChord } from '../harmony';
import type { Setup } from '../instrument';
import { parseName, pitchClass, type Key } from '../pitch';
import type { RiffEvent, UseMove } from '../score';

/** Moving a riff where a form uses it. */

const mod12 = (n: number): number => ((n % 12) + 12) % 12;

/** The pitch class a riff starts from: the tonic of its key, else its first lowest note. */
function homeOf(events: readonly RiffEvent[], key: Key | null): number | null {
  const tonic = key ? parseName(key.tonic) : null;
  if (tonic) return mod12(pitchClass(tonic));
  const first = events.find((event) => event.notes.length > 0);
  return first ? mod12(Math.min(...first.notes.map((note) => note.pitch.midi))) : null;
}

/**
 * Events as a use moves them. To a chord: in shape along the neck by the steps from the riff's home to the root, up or
 * down, whichever is nearer and lies on the neck; where the shape can't go, in sound, for the solver to place.
 */
export function moveUse(setup: Setup, events: readonly RiffEvent[], move: UseMove, key: Key | null): Result<Moved> {
  if (!('chord' in move)) {
    const by = { frets: moveShape, strings: moveStrings, semitones: moveSound }[move.by];
    return by(setup, events, move.steps);
  }
  const chord = parseChord(move.chord);
  if (!chord.ok) return chord;
  const home = homeOf(events, key);
  if (home === null) return ok({ events, lostOpen: 0, lostLocks: 0 });
  const up = mod12(pitchClass(chord.value.root) - home);
  if (up === 0) return ok({ events, lostOpen: 0, lostLocks: 0 });
  const ways = up <= 6 ? [up, up - 12] : [up - 12, up];
  for (const by of ways) {
    const shape = moveShape(setup, events, by);
    if (shape.ok) return shape;
  }
  for (const by of ways) {
    const sound = moveSound(setup, events, by);
    if (sound.ok) return sound;
  }
  return fail('off-neck', `The riff can't be moved to ${move.chord} on this instrument.`, {});
}

/** A move in words, as it is typed too: "up 5 frets", "1 string thicker", "down an octave", "to D". */
export function moveWords(move: UseMove): string {
  if ('chord' in move) return `to ${move.chord}`;
  const many = Math.abs(move.steps);
  if (move.by === 'strings')
    return `${many} ${many === 1 ? 'string' : 'strings'} ${move.steps > 0 ? 'thicker' : 'thinner'}`;
  const way = move.steps < 0 ? 'down' : 'up';
  if (move.by === 'semitones' && many === 12) return `${way} an octave`;
  const what = move.by === 'frets' ? 'fret' : 'semitone';
  return `${way} ${many} ${what}${many === 1 ? '' : 's'}`;
}
