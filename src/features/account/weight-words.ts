import type { WeightRef } from '@/core/place';

/** What each weight is paid for, and in what unit: the words of the settings page, in its order. */
export const WEIGHT_GROUPS: readonly { readonly title: string; readonly weights: readonly (readonly [WeightRef['name'], string])[] }[] = [
  {
    title: 'Fingers',
    weights: [
      ['finger', 'each time it presses: index, middle, ring, little'],
      ['stretch', 'per mm² beyond a comfortable span'],
      ['spread', 'per fret a finger reaches beyond one a fret'],
      ['bunched', 'per fret a finger is drawn in'],
      ['barre', 'each barre, by the finger that lies'],
      ['barreString', 'per string under a barre beyond the first'],
      ['thumb', 'each note stopped by the thumb'],
      ['bend', 'per newton a bend asks for'],
    ],
  },
  {
    title: 'Where the hand is',
    weights: [
      ['low', 'per fret the index lies below fret 5'],
      ['high', 'per fret it lies above fret 9'],
      ['far', 'per fret beyond the body joint'],
      ['dull', 'per fret beyond the seventh on the two thickest strings'],
      ['wish', 'per fret from a wished position'],
      ['offString', 'per note off the strings wished for'],
    ],
  },
  {
    title: 'Open strings and grips',
    weights: [
      ['open', 'per open note on the two thickest strings'],
      ['openThin', 'per open note on thinner ones'],
      ['openFar', 'besides, while the hand lies beyond fret 4'],
      ['pedal', 'instead, per open note of a low pedal'],
      ['openGrip', 'per open string in a grip of two or three'],
      ['gap', 'per string inside a chord to keep silent'],
      ['damp', 'per string to damp under a slide bar'],
      ['reshape', 'from one grip to another on strings otherwise spaced'],
    ],
  },
  {
    title: 'Moving',
    weights: [
      ['travel', 'per mm the hand travels when there is time'],
      ['blindShift', 'a shift that no finger guides'],
      ['jump', 'one finger to another string and fret'],
      ['roll', 'one finger to the next string at its fret'],
      ['drag', 'one finger along its string, unslid'],
      ['cross', 'per string the pick crosses'],
      ['skip', 'per string it skips'],
    ],
  },
];
