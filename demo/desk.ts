import type { LinkKind, Request, RequestItem } from '../src/core/desk';

/** What the theatre's people asked the pit band's instructor for; days are counted from the day the demo is loaded. */

export interface DemoItem extends Pick<RequestItem, 'kind' | 'what'> {
  readonly due?: number;
  readonly done?: number;
}
export interface DemoRequest extends Pick<Request, 'asker' | 'title' | 'state'> {
  readonly version?: Request['version'];
  readonly level?: Request['level'];
  readonly credit?: string;
  readonly audience?: string;
  readonly note?: string;
  readonly asked: number;
  readonly due?: number;
  readonly release?: number;
  readonly series?: string;
  readonly items: readonly DemoItem[];
  /** The demo piece that was made for it. */
  readonly piece?: string;
}

export const DEMO_SERIES = [
  { name: 'Autumn evenings', note: 'One piece a fortnight, the easy ones first.' },
  { name: 'For the understudies', note: 'Starter versions only, in large print.' },
] as const;

export const DEMO_REQUESTS: readonly DemoRequest[] = [
  {
    ...{ asker: 'Wilma, lights', title: 'Moth at the Lamp', state: 'working', version: 'live', level: 'recorded' },
    ...{ asked: -12, due: 2, release: 9, series: 'Autumn evenings', piece: 'Moth at the Lamp' },
    credit: 'Music: the Wicker Street pit band',
    audience: 'Reads tab, not staff; knows chord names.',
    items: [
      { kind: 'covered', what: 'both guitars' },
      { kind: 'leftOut', what: 'the tin whistle' },
      { kind: 'later', what: 'the bass in an easier version', due: 12 },
    ],
  },
  {
    ...{ asker: 'Piet, marionettes', title: 'Twelve Lanterns', state: 'ready', version: 'record', level: 'teaching' },
    ...{ asked: -20, due: 0, release: 23, series: 'Autumn evenings', piece: 'Twelve Lanterns' },
    items: [
      { kind: 'covered', what: 'rhythm guitar with the turnaround' },
      { kind: 'later', what: 'the walking bass', due: 16 },
    ],
  },
  {
    ...{ asker: 'Old Jasper', title: 'Trapdoor March', state: 'handed', version: 'record', level: 'recorded' },
    ...{ asked: -40, due: -15, piece: 'Trapdoor March' },
    note: 'He plays left-handed; mirrored neck.',
    items: [
      { kind: 'covered', what: 'the drop D riff', done: -16 },
      { kind: 'later', what: 'the ending as the full band plays it', due: -2 },
    ],
  },
  {
    ...{ asker: 'Wilma, lights', title: 'The Owl’s Overture', state: 'asked', version: 'record' },
    ...{ asked: -1, items: [] },
    note: 'Heard it at the dress rehearsal; two guitars, the second perhaps in another tuning.',
  },
  {
    ...{
      asker: 'The three understudies',
      title: 'Paper Snow',
      state: 'accepted',
      version: 'simplified',
      level: 'starter',
    },
    ...{ asked: -6, due: 8, series: 'For the understudies' },
    audience: 'First year; no barre.',
    items: [
      { kind: 'covered', what: 'the picking pattern on three strings' },
      { kind: 'leftOut', what: 'the harmonics' },
    ],
  },
  {
    ...{ asker: 'A visitor from the upper circle', title: 'The overture of another house', state: 'declined' },
    ...{ asked: -9, items: [] },
    note: 'Not ours to hand out.',
  },
];

export const DEMO_LINKS: readonly { readonly from: string; readonly to: string; readonly kind: LinkKind }[] = [
  { from: 'The Moth Counts to Nine', to: 'Moth at the Lamp', kind: 'prerequisite' },
  { from: 'Glass Moth', to: 'Moth at the Lamp', kind: 'sister riff' },
  { from: 'Cellar Stairs', to: 'Trapdoor March', kind: 'same track' },
];

export const DEMO_HANDOUTS = [
  { piece: 'Trapdoor March', to: 'Old Jasper', what: 'the sheet of the guitar, mirrored neck', on: -16 },
  { piece: 'Moth at the Lamp', to: 'Wilma, lights', what: 'the verse, to begin with', on: -5 },
] as const;
