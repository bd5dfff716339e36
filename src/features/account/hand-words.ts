import type { Profile } from '@/core/hand';

/** A hand in one line: what sets it apart. */
export function handWords(profile: Profile): string {
  return [
    `${Math.round(profile.comfortable['14'])} mm at ease, ${Math.round(profile.maximal['14'])} at most`,
    profile.fingers.length < 4 ? `fingers ${profile.fingers.join(' ')}` : '',
    profile.barre[0] < 2 ? 'no barre' : profile.barre[0] < 6 ? `barre up to ${profile.barre[0]} strings` : '',
    profile.thumb ? 'thumb over' : '',
    profile.school === 'free' ? '' : profile.school === 'finger-per-fret' ? 'a finger a fret' : '1-2-4 low down',
    profile.level === 'player' ? '' : profile.level,
  ]
    .filter(Boolean)
    .join(', ');
}
