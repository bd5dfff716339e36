import type { DemoPiece } from './shapes';
import { WHOLE_PIECES } from './whole-pieces';

export type { DemoPart, DemoPiece, DemoRiff, DemoSection } from './shapes';

export const DEMO_PIECES: readonly DemoPiece[] = [
  {
    title: 'Paper Snow',
    level: { name: 'For the understudies', level: 'starter' },
    tempo: 88,
    key: { tonic: 'Eb', mode: 'major' },
    parts: [
      {
        name: 'Acoustic guitar',
        role: 'finale, rhythm',
        instrument: 'acoustic-6',
        tuning: 'standard',
        capo: 3,
        riffs: [
          {
            name: 'Finale',
            meter: '3/4',
            plays: 2,
            calls: `quarters on 5 3 for eighth on 4 2 for eighth chord C for half ring | on 6 3 for eighth on 4 open for eighth chord G for half ring |
              on 5 open for eighth on 4 2 for eighth chord Am for half ring | chord F for dotted half ring`,
          },
        ],
      },
    ],
  },
  {
    title: 'Curtain Rope',
    tempo: 66,
    key: { tonic: 'B', mode: 'minor' },
    parts: [
      {
        name: 'Baritone',
        role: 'act two, low riff',
        instrument: 'baritone-27',
        tuning: 'baritone-b',
        riffs: [
          {
            name: 'Rope riff',
            meter: '4/4',
            plays: 8,
            calls: `eighths on 6 open open note F#2 note B2 note A2 note F#2 note E2 note D2 |
              on 6 open open note F#2 note B2 note C#3 note D3 for quarter pull note B2 |
              on 6 open open note G2 note B2 note A2 note G2 note F#2 note E2 | note D2 + note A2 for half ring on 6 3 slide 5 for dotted quarter`,
          },
        ],
      },
    ],
  },
  {
    title: 'Tea with the Understudy',
    tempo: 76,
    key: { tonic: 'G', mode: 'major' },
    parts: [
      {
        name: 'Slide guitar',
        role: 'song, opening',
        instrument: 'guitar-6',
        tuning: 'x G2 D3 G3 B3 D4',
        riffs: [
          {
            name: 'Opening',
            meter: '4/4',
            plays: 1,
            calls: `eighths on 5 open on 3 3 slide 5 on 2 5 on 3 5 pull 3 on 4 open on 5 open |
              on 5 open + on 4 open for quarter on 3 open hammer 2 on 2 open on 1 open on 2 3 slide 5 |
              on 5 5 + on 4 5 + on 3 5 for quarter ring on 2 5 on 1 5 on 5 7 + on 4 7 + on 3 7 for quarter ring on 5 open for quarter`,
          },
        ],
      },
    ],
  },
  {
    title: 'Strings for a Wooden Fox',
    tempo: 132,
    key: { tonic: 'F', mode: 'minor' },
    parts: [
      {
        name: 'Guitar',
        role: 'chase, rhythm',
        instrument: 'guitar-6',
        tuning: 'down-2',
        riffs: [
          {
            name: 'Chase',
            meter: '4/4',
            plays: 4,
            calls: `eighths [note F2 + note C3] 3 times note Ab2 + note Eb3 note F2 + note C3 rest for eighth note Bb2 + note F3 note Ab2 + note Eb3 |
              [note F2 + note C3] 3 times note C3 + note G3 note Bb2 + note F3 rest for eighth note Ab2 + note Eb3 note G2 + note D3`,
          },
          {
            name: 'Fox runs',
            meter: '4/4',
            plays: 2,
            calls: `sixteenths note F3 note G3 note Ab3 note C4 note Bb3 note Ab3 note G3 note F3 note Eb3 hammer note F3 note Ab3 note G3 note F3 pull note Eb3 note C3 note Eb3 |
              note F3 for quarter note C4 note Bb3 note Ab3 note G3 note Ab3 hammer note Bb3 note C4 note Eb4 note F4 for quarter`,
          },
        ],
      },
    ],
  },
  {
    title: 'Cellar Stairs',
    tempo: 104,
    key: { tonic: 'E', mode: 'minor' },
    parts: [
      {
        name: 'Bass',
        role: 'going down',
        instrument: 'bass-4',
        tuning: 'bass-standard',
        riffs: [
          {
            name: 'Stairs',
            meter: '4/4',
            plays: 8,
            calls: `eighths note E1 for quarter note E2 note D2 note B1 note A1 note G1 hammer note A1 | note E1 for quarter note E2 note D2 note C2 note B1 note A1 note F#1 |
              note G1 for quarter note G2 note F#2 note E2 note D2 note B1 note G1 | note A1 note A1 note C2 hammer note D2 note B1 for quarter note D#2 for quarter`,
          },
        ],
      },
    ],
  },
  {
    title: 'The Moth Counts to Nine',
    tempo: 126,
    key: { tonic: 'A', mode: 'minor' },
    parts: [
      {
        name: 'First guitar',
        role: 'overture, arpeggio',
        instrument: 'guitar-6',
        tuning: 'standard',
        riffs: [
          {
            name: 'Overture',
            meter: '9/8',
            plays: 1,
            calls: `eighths on 5 open ring on 4 2 ring on 3 2 ring on 2 1 ring 1 for eighth on 3 2 on 4 2 on 3 2 on 2 1 |
              on 4 3 ring on 3 2 ring on 2 1 ring on 1 1 ring on 2 1 on 3 2 on 4 3 on 3 2 on 2 1 |
              note B2 note G3 note B3 note D4 note B3 note G3 note D3 note G3 note B3 | note E3 + note G#3 + note B3 + note E4 for dotted half ring note E2 for dotted quarter`,
          },
        ],
      },
    ],
  },
  {
    title: 'Lantern Crank',
    tempo: 92,
    key: { tonic: 'C', mode: 'minor' },
    parts: [
      {
        name: 'Second guitar',
        role: 'verse riff',
        instrument: 'guitar-6',
        tuning: 'drop-c',
        riffs: [
          {
            name: 'Verse',
            meter: '4/4',
            plays: 4,
            calls: `sixteenths on 6 open for eighth open on 5 5 on 4 5 for eighth hammer 7 for eighth note Bb3 for dotted eighth note G3 on 5 5 for eighth slide 7 for eighth |
              on 6 open for eighth 3 for eighth note C3 note F3 hammer note G3 for eighth on 3 5 + on 2 5 for quarter ring note Eb3 for eighth note F2 for eighth`,
          },
          {
            name: 'Crank turns',
            meter: '4/4',
            plays: 2,
            calls: `eighths on 6 open + on 5 open + on 4 open for quarter [on 6 open] 2 times on 6 3 + on 5 3 + on 4 3 for quarter on 6 5 + on 5 5 + on 4 5 for quarter |
              on 6 open + on 5 open + on 4 open for quarter [on 6 open] 2 times on 6 8 + on 5 8 + on 4 8 for quarter on 6 7 + on 5 7 + on 4 7 for quarter`,
          },
        ],
      },
      {
        name: 'Bass',
        role: 'verse, under the riff',
        instrument: 'bass-4',
        tuning: 'bass-drop-c',
        riffs: [
          {
            name: 'Verse',
            meter: '4/4',
            plays: 8,
            calls: `eighths note C1 for dotted eighth note C1 for sixteenth note F1 note G1 note Bb1 for dotted eighth note G1 for sixteenth note C2 note D2 |
              note C1 note Eb1 note C2 for sixteenth note F1 for sixteenth note G1 note D2 for quarter note Eb1 note F1`,
          },
        ],
      },
    ],
  },
  {
    title: 'Half Moon Hook',
    tempo: 92,
    key: { tonic: 'E', mode: 'major' },
    parts: [
      {
        name: 'Acoustic guitar',
        role: 'interlude, drones',
        instrument: 'acoustic-6',
        tuning: 'standard',
        capo: [{ fret: 2, strings: [5, 4, 3] }],
        riffs: [
          {
            name: 'Interlude',
            meter: '4/4',
            plays: 1,
            calls: `eighths on 6 open on 4 open on 3 open on 1 open ring on 2 open ring on 3 open on 4 2 open |
              on 5 open on 4 2 on 3 2 on 2 open ring on 1 open ring on 3 2 open on 4 2 |
              on 6 open on 5 2 on 4 2 on 3 open on 2 open ring on 1 2 open ring on 3 open | on 6 open + on 4 open + on 3 open + on 2 open for whole ring`,
          },
        ],
      },
    ],
  },
  {
    title: 'Glass Moth',
    tempo: 76,
    key: { tonic: 'G', mode: 'major' },
    parts: [
      {
        name: 'Slide guitar',
        role: 'dream scene',
        instrument: 'guitar-6',
        tuning: 'open-g',
        riffs: [
          {
            name: 'Dream',
            meter: '4/4',
            plays: 4,
            calls: `quarters on 4 5 + on 3 5 + on 2 5 bottleneck slide on 4 7 + on 3 7 + on 2 7 bottleneck on 1 5 bottleneck on 2 5 flat 25 bottleneck |
              on 3 5 bottleneck slide 7 bottleneck on 4 open for half ring`,
          },
        ],
      },
      {
        name: 'First guitar',
        role: 'answers the slide',
        instrument: 'guitar-6',
        tuning: 'standard',
        riffs: [
          {
            name: 'Answer',
            meter: '4/4',
            calls: `eighths on 3 7 bend whole note D4 note B3 note A3 trill by 2 for quarter on 5 dead on 5 dead on 5 dead |
              on 4 harmonic 12 for quarter ring on 3 harmonic 12 for quarter ring note B3 bend half note G3 note E3 note D3`,
          },
        ],
      },
    ],
  },
  {
    title: 'Ink and Wire',
    tempo: 104,
    key: { tonic: 'A', mode: 'minor' },
    parts: [
      {
        name: 'First guitar',
        role: 'the spider, everything at once',
        instrument: 'guitar-6',
        tuning: 'standard',
        riffs: [
          {
            name: 'Wire run',
            meter: '4/4',
            plays: 2,
            calls: `tempo 104 swing 56 fine sixteenths on 5 open palm accent open palm open palm 3 hammer 5 on 4 2 palm 2 palm 5 pull 3 2 palm open palm on 5 3 palm 3 palm open palm 5 slide 7 |
              on 4 7 vibrato for quarter volume f grace on 3 5 hammer 7 5 on 3 7 bend whole released for eighth on 2 8 prebend whole released for quarter why "the bend is heard falling, not rising" on 6 open palm open palm 3 palm open palm |
              on 3 5 + on 2 5 + on 1 5 for quarter rolled thick-first ring triplet eighths on 1 12 tapped pull 8 pull 5 hole for quarter hit for eighth scrape for eighth |
              tempo 104 ramp on 3 9 bend whole pushed + on 2 7 for quarter accent on 3 7 vibrato wide likely seen at 41.2 "left hand on the film" for half either "or the low A" on 6 5 from-lower for quarter staccato tempo 76`,
          },
        ],
      },
      {
        name: 'Bass',
        role: 'the spider’s feet',
        instrument: 'bass-4',
        tuning: 'bass-standard',
        riffs: [
          {
            name: 'Feet',
            meter: '4/4',
            plays: 4,
            calls: `sixteenths on 3 open for eighth stroke slap dead stroke slap dead stroke slap on 1 2 stroke pop dead stroke slap on 3 3 hammer 5 on 2 5 stroke pop for eighth dead stroke slap dead stroke slap on 3 open for eighth stroke slap on 4 3 slide 5 |
              on 3 open for quarter accent on 3 7 trill by 2 for eighth on 2 5 vibrato for eighth on 1 7 bend ? for quarter guess on 4 5 off-lower for quarter`,
          },
        ],
      },
    ],
  },
  ...WHOLE_PIECES,
];
