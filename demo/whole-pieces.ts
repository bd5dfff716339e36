import type { DemoPiece } from './shapes';

/** Pieces of the show from the first bar to the last: sections, endings, moved riffs and the order they come in. */
export const WHOLE_PIECES: readonly DemoPiece[] = [
  {
    title: 'Moth at the Lamp',
    tempo: 126,
    key: { tonic: 'A', mode: 'minor' },
    source: {
      version: 'live',
      name: 'the evening the lamp went out, second act',
      evidence: [
        { what: 'the box office’s tape, both guitars left and right', certainty: 'sure' },
        { what: 'seen from the lighting bridge: guitar 1 stays in the first position', certainty: 'likely' },
      ],
      authorship: 'Who wrote the bridge nobody remembers; the bass line may be older than the show.',
    },
    claims: [
      { words: 'all A minor pentatonic', part: 'Guitar 1', riff: 'Lamp' },
      { words: 'all A harmonic minor', part: 'Guitar 1', riff: 'Glow' },
      { words: 'no capo', part: 'Guitar 2' },
    ],
    parts: [
      {
        name: 'Guitar 1',
        role: 'waltz, picked, then the tune',
        instrument: 'guitar-6',
        tuning: 'standard',
        tone: 'soft, the picks let ring',
        tones: [
          {
            name: 'Lamp',
            goal: 'warm, no edge',
            knobs: [
              { device: 'guitar', knob: 'tone', value: 4 },
              { device: 'amp', knob: 'treble', value: 3.5 },
              { device: 'amp', knob: 'reverb', value: 6 },
            ],
          },
          { name: 'Glow', goal: 'brighter, for the tune', knobs: [{ device: 'amp', knob: 'treble', value: 6 }] },
        ],
        riffs: [
          {
            name: 'Lamp',
            meter: '3/4',
            calls: `eighths on 5 open ring on 4 2 ring on 3 2 ring on 2 1 ring on 3 2 ring on 4 2 ring |
              on 4 3 ring on 3 2 ring on 2 1 ring on 1 1 ring on 2 1 ring on 3 2 ring`,
          },
          {
            name: 'Wing',
            meter: '3/4',
            calls: `eighths on 4 open ring on 3 2 ring on 2 3 ring on 1 1 ring on 2 3 ring on 3 2 ring |
              on 6 open ring on 4 2 ring on 3 1 ring on 2 open ring on 3 1 ring on 4 2 ring`,
            variants: [
              {
                name: '2nd ending',
                from: 2,
                calls: 'eighths on 6 open ring on 5 2 ring on 4 2 ring on 3 1 ring on 2 open ring on 1 open ring',
              },
            ],
          },
          {
            name: 'Glow',
            meter: '3/4',
            calls: `note C4 for half note A3 for quarter | note G3 for half note E3 for quarter |
              quarters note G#3 note B3 note E4 | note A3 for dotted half vibrato`,
          },
        ],
      },
      {
        name: 'Guitar 2',
        role: 'chops behind',
        instrument: 'guitar-6',
        tuning: 'standard',
        riffs: [
          {
            name: 'Chop',
            meter: '3/4',
            calls: `rest for quarter chord Am for quarter chord Am for quarter |
              rest for quarter chord F for quarter chord F for quarter`,
          },
          {
            name: 'Chop turn',
            meter: '3/4',
            calls: `rest for quarter chord Dm for quarter chord Dm for quarter |
              rest for quarter chord E for quarter chord E for quarter`,
          },
          {
            name: 'Chop round',
            meter: '3/4',
            calls: `chord F for dotted half ring | chord C for dotted half ring | chord E for dotted half ring | chord Am for dotted half ring`,
          },
        ],
      },
      {
        name: 'Bass',
        role: 'one to the bar',
        instrument: 'bass-4',
        tuning: 'bass-standard',
        riffs: [
          { name: 'Low lamp', meter: '3/4', calls: 'note A1 for dotted half | note F1 for dotted half' },
          {
            name: 'Low wing',
            meter: '3/4',
            calls: 'note D2 for dotted half | note E1 for half note G#1 for quarter',
          },
          {
            name: 'Low glow',
            meter: '3/4',
            calls:
              'note F1 for dotted half | note C2 for dotted half | note E1 for dotted half | note A1 for dotted half',
          },
        ],
      },
    ],
    form: {
      sections: [
        {
          name: 'Intro',
          bars: 4,
          chords: '| Am | F | Am | F |',
          cue: 'the lamp is lit on the first note',
          rows: { 'Guitar 1': 'Lamp 2 times', Bass: 'rest 2 bars, Low lamp' },
        },
        {
          name: 'Verse',
          bars: 8,
          chords: '| Am | F | Am | F | Dm | E | Am | F |',
          rows: {
            'Guitar 1': 'Lamp 2 times, Wing (2nd: 2nd ending), Lamp',
            'Guitar 2': 'Chop 2 times, Chop turn, Chop',
            Bass: 'Low lamp 2 times, Low wing, Low lamp',
          },
        },
        {
          name: 'Refrain',
          bars: 8,
          chords: '| F | C | E | Am | F | C | E | Am |',
          cue: 'voice enters on three',
          levels: { 'Guitar 2': 60 },
          rows: {
            'Guitar 1': 'Glow, Glow up an octave',
            'Guitar 2': 'Chop round 2 times',
            Bass: 'Low glow 2 times',
          },
        },
        {
          name: 'Bridge',
          bars: 4,
          chords: '| Cm | Ab | Cm | G |',
          key: { tonic: 'C', mode: 'minor' },
          tempo: 108,
          rows: {
            'Guitar 1': 'Lamp to Cm 2 times',
            'Guitar 2': 'rest 4 bars "hands off the strings"',
            Bass: 'Low lamp to Cm 2 times',
          },
        },
      ],
      order: 'Intro, Verse 2 times, Refrain, Verse, Refrain, Bridge slowing over 2 bars, Refrain held',
    },
  },
  {
    title: 'Twelve Lanterns',
    tempo: 112,
    key: { tonic: 'E', mode: 'major' },
    parts: [
      {
        name: 'Guitar',
        role: 'shuffle for the lantern walk',
        instrument: 'guitar-6',
        tuning: 'standard',
        riffs: [
          {
            name: 'Shuffle',
            meter: '4/4',
            calls: `eighths [on 6 open + on 5 2] 2 times [on 6 open + on 5 4] 2 times [on 6 open + on 5 2] 2 times [on 6 open + on 5 4] 2 times`,
          },
          {
            name: 'Turnaround',
            meter: '4/4',
            calls: `triplet eighths on 1 4 on 2 5 on 1 4 on 1 3 on 2 4 on 1 3 on 1 2 on 2 3 on 1 2 chord B7 for quarter`,
            variants: [
              {
                name: 'end chord',
                from: 1,
                calls: 'triplet eighths on 1 4 on 2 5 on 1 4 on 1 3 on 2 4 on 1 3 chord E for half ring',
              },
            ],
          },
        ],
      },
      {
        name: 'Bass',
        role: 'walks',
        instrument: 'bass-4',
        tuning: 'bass-standard',
        riffs: [
          { name: 'Walk', meter: '4/4', calls: 'quarters on 4 open on 4 4 on 3 2 on 3 4' },
          {
            name: 'Turn',
            meter: '4/4',
            calls: 'quarters on 4 open on 4 4 on 3 open for eighth on 3 1 for eighth on 3 2',
          },
        ],
      },
    ],
    form: {
      sections: [
        {
          name: 'Intro',
          bars: 4,
          chords: '| B7 | A7 | E7 | E7 3 B7 1 |',
          swing: 66,
          cue: 'the drummer lights the first lantern',
          rows: {
            Guitar: 'Shuffle to B, Shuffle 1 string thinner, Shuffle, Turnaround',
            Bass: 'Walk to B, Walk 1 string thinner, Walk, Turn',
          },
        },
        {
          name: 'Round',
          bars: 12,
          chords: '| E7 | E7 | E7 | E7 | A7 | A7 | E7 | E7 | B7 | A7 | E7 | E7 3 B7 1 |',
          swing: 66,
          rows: {
            Guitar:
              'Shuffle 4 times, Shuffle 1 string thinner 2 times, Shuffle 2 times, Shuffle to B, Shuffle 1 string thinner, Shuffle, Turnaround (last: end chord)',
            Bass: 'Walk 4 times, Walk 1 string thinner 2 times, Walk 2 times, Walk to B, Walk 1 string thinner, Walk, Turn',
          },
        },
      ],
      order: 'Intro, Round 3 times held',
    },
  },
  {
    title: 'Trapdoor March',
    tempo: 120,
    key: { tonic: 'D', mode: 'minor' },
    parts: [
      {
        name: 'Guitar 1',
        role: 'march, drop D',
        instrument: 'guitar-6',
        tuning: 'drop-d',
        riffs: [
          {
            name: 'Trap',
            meter: '4/4',
            calls: `eighths [on 6 open + on 5 open + on 4 open palm] 3 times rest for eighth on 6 3 + on 5 3 + on 4 3 on 6 5 + on 5 5 + on 4 5 rest for eighth on 6 open + on 5 open + on 4 open |
              [on 6 open + on 5 open + on 4 open palm] 3 times rest for eighth on 6 8 + on 5 8 + on 4 8 on 6 7 + on 5 7 + on 4 7 on 6 5 + on 5 5 + on 4 5 on 6 3 + on 5 3 + on 4 3`,
            variants: [
              {
                name: 'door slams',
                from: 2,
                calls:
                  'eighths on 6 open + on 5 open + on 4 open accent for quarter rest for quarter on 6 open + on 5 open + on 4 open accent for half ring',
              },
            ],
          },
          {
            name: 'Fall',
            meter: '4/4',
            calls: `eighths on 3 10 on 3 9 on 3 7 on 4 10 on 3 7 on 4 10 on 4 8 on 4 7 | on 4 10 on 4 8 on 4 7 on 5 10 on 5 8 vibrato for half`,
          },
        ],
      },
      {
        name: 'Guitar 2',
        role: 'answers from the flies',
        instrument: 'guitar-6',
        tuning: 'standard',
        riffs: [
          {
            name: 'Answer',
            meter: '4/4',
            calls: `rest for half on 3 7 + on 2 6 for quarter on 3 5 + on 2 6 for quarter | on 3 7 + on 2 6 for dotted half rest for quarter`,
          },
          {
            name: 'Fall, lower',
            meter: '4/4',
            calls: `eighths on 4 12 on 4 10 on 4 8 on 5 12 on 4 8 on 5 12 on 5 10 on 5 8 | on 5 12 on 5 10 on 5 8 on 6 12 on 6 10 vibrato for half`,
          },
        ],
      },
      {
        name: 'Bass',
        role: 'under the boards',
        instrument: 'bass-4',
        tuning: 'bass-drop-d',
        riffs: [
          {
            name: 'Boards',
            meter: '4/4',
            calls: `eighths [on 4 open] 3 times rest for eighth on 4 3 on 4 5 rest for eighth on 4 open | [on 4 open] 3 times rest for eighth on 4 8 on 4 7 on 4 5 on 4 3`,
          },
          { name: 'Long boards', meter: '4/4', calls: 'on 3 5 for whole | on 3 3 for half on 3 1 for half' },
        ],
      },
    ],
    form: {
      sections: [
        {
          name: 'Knocks',
          bars: 2,
          cue: 'three knocks under the stage',
          rows: { 'Guitar 1': 'bar 1 of Trap 2 times' },
        },
        {
          name: 'March',
          bars: 8,
          chords: '| D5 | D5 | D5 | D5 | F5 | F5 | D5 | D5 |',
          rows: {
            'Guitar 1': 'Trap 2 times, Trap up 3 frets, Trap (even: door slams)',
            'Guitar 2': 'rest 2 bars, Answer, Answer up 3 frets, free 2 bars "anything that creaks"',
            Bass: 'Boards 2 times, Boards up 3 frets, Boards',
          },
        },
        {
          name: 'Fall',
          bars: 4,
          chords: '| Dm | C 2 Bb 2 | Dm | C 2 Bb 2 |',
          tempo: 100,
          levels: { 'Guitar 2': 50 },
          rows: { 'Guitar 1': 'Fall 2 times', 'Guitar 2': '"Fall, lower" 2 times', Bass: 'Long boards 2 times' },
        },
      ],
      order: 'Knocks, March 2 times, Fall, March 2 times stops 1 bar early, Fall slowing over 2 bars to 50 %',
    },
  },
];
