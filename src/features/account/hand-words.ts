import type { Profile } from '@/core/hand';

/** A hand in one line: what sets it apart. */
export function handWords(p: Profile): string {
  return [
    `${Math.round(p.comfortable['14'])} mm at ease, ${Math.round(p.maximal['14'])} at most`,
    p.fingers.length < 4 ? `fingers ${p.fingers.join(' ')}` : '',
    p.barre[0] < 2 ? 'no barre' : p.barre[0] < 6 ? `barre up to ${p.barre[0]} strings` : '',
    p.thumb ? 'thumb over' : '',
    p.school === 'free' ? '' : p.school === 'finger-per-fret' ? 'a finger a fret' : '1-2-4 low down',
    p.level === 'player' ? '' : p.level,
  ]
    .filter(Boolean)
    .join(', ');
}
