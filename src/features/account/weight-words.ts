import type { WeightRef } from '@/core/place';

/** What each weight is called, what it is paid for and in what unit: the words of the settings page, in its order. */
export const WEIGHT_GROUPS: readonly {
  readonly title: string;
  readonly weights: readonly (readonly [WeightRef['name'], string, string])[];
}[] = [
  {
    title: 'Fingers',
    weights: [
      ['finger', 'Pressing', 'each time it presses: index, middle, ring, little'],
      ['stretch', 'Stretch', 'per mm² beyond a comfortable span'],
      ['spread', 'Spread fingers', 'per fret a finger reaches beyond one a fret'],
      ['bunched', 'Bunched fingers', 'per fret a finger is drawn in'],
      ['barre', 'Barre', 'each barre, by the finger that lies'],
      ['barreString', 'Strings under a barre', 'per string under a barre beyond the first'],
      ['thumb', 'Thumb over', 'each note stopped by the thumb'],
      ['bend', 'Bend', 'per newton a bend asks for'],
    ],
  },
  {
    title: 'Where the hand is',
    weights: [
      ['low', 'Low on the neck', 'per fret the index lies below fret 5'],
      ['high', 'High on the neck', 'per fret it lies above fret 9'],
      ['far', 'Beyond the joint', 'per fret beyond the body joint'],
      ['dull', 'Dull thick strings', 'per fret beyond the seventh on the two thickest strings'],
      ['wish', 'Off the wished position', 'per fret from a wished position'],
      ['offString', 'Off the wished strings', 'per note off the strings wished for'],
    ],
  },
  {
    title: 'Open strings and grips',
    weights: [
      ['open', 'Open thick strings', 'per open note on the two thickest strings'],
      ['openThin', 'Open thin strings', 'per open note on thinner ones'],
      ['openFar', 'Open strings up the neck', 'besides, while the hand lies beyond fret 4'],
      ['pedal', 'Open pedals', 'instead, per open note of a low pedal'],
      ['openGrip', 'Open strings in grips', 'per open string in a grip of two or three'],
      ['gap', 'Silent strings in chords', 'per string inside a chord to keep silent'],
      ['damp', 'Damping under the bar', 'per string to damp under a slide bar'],
      ['flat', 'Flat finger', 'per string beyond the first under a flat index or ring finger'],
      ['reshape', 'Another shape', 'from one grip to another on strings otherwise spaced'],
    ],
  },
  {
    title: 'Moving',
    weights: [
      ['travel', 'Travel', 'per mm the hand travels when there is time'],
      ['blindShift', 'Unguided shift', 'a shift that no finger guides'],
      ['jump', 'Leaping finger', 'one finger to another string and fret'],
      ['swap', 'Changed finger', 'another finger on the same note or fret without a cause'],
      ['roll', 'Rolling finger', 'one finger to the next string at its fret'],
      ['drag', 'Dragged finger', 'one finger along its string, unslid'],
      ['cross', 'Crossing strings', 'per string the pick crosses'],
      ['skip', 'Skipping strings', 'per string it skips'],
    ],
  },
];

const LABELS = new Map(WEIGHT_GROUPS.flatMap((one) => one.weights.map(([name, label]) => [name, label] as const)));
const FINGERS = ['index', 'middle', 'ring', 'little'] as const;

/** A weight by its name on the page: "Barre, ring". */
export const weightLabel = ({ name, index }: WeightRef): string =>
  `${LABELS.get(name) ?? name}${index === null ? '' : `, ${FINGERS[index] ?? ''}`}`;
