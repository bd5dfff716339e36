import { isPartial, nutOf, openPitch, type Setup } from '../../instrument';
import { spell, type Key } from '../../pitch';
import { joinPairs, makeRiff, type Join, type RiffEvent } from '../../score';
import { clefOf, signatureOf, staffBars, type StaffBar } from '../../staff';
import { barStart, cmp, meterAt, sub, toRatio, ZERO, type Quarter } from '../../time';
import { guessSetup, type Music, type MusicPart } from '../music';
import { spellingOf } from './harmony-xml';
import { measureNotes, type Divided } from './measure-out';
import { voicesOf } from './voices';
import { el } from './xml-out';

export interface MusicXmlChoice {
  /** A tab staff alone, a staff alone, or a staff with the tab under it. */
  readonly staves?: 'tab' | 'staff' | 'both';
}

/** Divisions of a quarter at most; finer times are rounded to it, place by place, so that nothing adds up wrong. */
const MOST_DIVISIONS = 16_383;

/** Music as a MusicXML 3.0 partwise score, valid by its schema; at written pitch, an octave above the sound. */
export function writeMusicXml(music: Music, { staves = 'tab' }: MusicXmlChoice = {}): string {
  const parts = music.parts.map((part, i) => ({ part, id: `P${i + 1}`, setup: guessSetup(part).setup }));
  const lines = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 3.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">',
    '<score-partwise version="3.0">',
    el('work', {}, [el('work-title', {}, music.title)]),
    el('identification', {}, [
      music.credit === null ? '' : el('creator', { type: 'composer' }, music.credit),
      el('encoding', {}, [el('software', {}, 'Intonazione')]),
    ]),
    el(
      'part-list',
      {},
      parts.map(({ part, id, setup }) => listed(part, id, setup)),
    ),
  ];
  for (const one of parts) {
    lines.push(
      `<part id="${one.id}">`,
      ...partMeasures(music, one.part, one.setup, staves, one.id === 'P1'),
      '</part>',
    );
  }
  return [...lines, '</score-partwise>', ''].join('\n');
}

function listed(part: MusicPart, id: string, setup: Setup): string {
  const program = part.program ?? (setup.instrument.kind === 'bass' ? 33 : 27);
  return el('score-part', { id }, [
    el('part-name', {}, part.name),
    el('score-instrument', { id: `${id}-I1` }, [el('instrument-name', {}, setup.instrument.name)]),
    el('midi-instrument', { id: `${id}-I1` }, [el('midi-program', {}, program + 1)]),
  ]);
}

function partMeasures(music: Music, part: MusicPart, setup: Setup, staves: string, leads: boolean): string[] {
  const joins = joinsOf(part.events);
  const voices = voicesOf(part).map((voice) => ({ ...voice, bars: voiceBars(music, voice.events, setup) }));
  const divided = dividedBy(
    voices.map((voice) => voice.bars),
    music,
  );
  const first = music.pickup === ZERO ? 0 : -1;
  const out: string[] = [];
  for (let bar = first; bar < music.bars; bar++) {
    const from = bar < 0 ? sub(ZERO, music.pickup) : barStart(music.meters, bar);
    const to = bar < 0 ? ZERO : barStart(music.meters, bar + 1);
    const inBar = voices.flatMap((voice) => {
      const found = voice.bars.get(bar);
      return found ? [{ number: voice.number, bar: found, events: voice.events }] : [];
    });
    const span = { from, to };
    const notes = measureNotes(
      inBar,
      span,
      divided,
      joins,
      staves === 'both' ? 1 : null,
      staves !== 'both' && staves !== 'staff',
    );
    const second =
      staves === 'both'
        ? [
            el('backup', {}, [el('duration', {}, divided(from, to))]),
            ...measureNotes(inBar, span, divided, joins, 2, true),
          ]
        : [];
    out.push(
      el('measure', { number: bar < 0 ? 0 : bar + 1, ...(bar < 0 ? { implicit: 'yes' } : {}) }, [
        barlineLeft(music, bar),
        attributes(music, setup, bar, first, divided.divisions, staves),
        ...(leads ? directions(music, bar, from, to, divided) : []),
        ...notes,
        ...second,
        barlineRight(music, bar),
      ]),
    );
  }
  return out;
}

/** By the id of a note, how it is led to and how it leads on. */
function joinsOf(events: readonly RiffEvent[]): ReadonlyMap<string, Join> {
  const into = new Map<string, Join>();
  events.forEach((event, i) => {
    for (const { from, to, how } of joinPairs(events[i - 1], event)) {
      const join = how === 'hold' ? events[i - 1]?.notes[from]?.join : how;
      const note = event.notes[to];
      if (note && join) into.set(note.id, join);
    }
  });
  return into;
}

/** A voice cut into written signs, key by key, since a sign is spelled by the key it stands in. */
function voiceBars(music: Music, events: readonly RiffEvent[], setup: Setup): Map<number, StaffBar> {
  const riff = makeRiff('voice', 'voice', {
    ...{ bars: music.bars, pickup: music.pickup, meters: [...music.meters], events: [...events] },
  });
  const out = new Map<number, StaffBar>();
  const changes = keyBars(music);
  changes.forEach(({ bar, key }, i) => {
    const to = changes[i + 1]?.bar ?? music.bars;
    for (const one of staffBars(riff, setup, { from: bar, count: to - bar }, { key, pitch: 'sounding' }))
      out.set(one.bar, one);
  });
  return out;
}

/** Bars from which another key holds. */
function keyBars(music: Music): { bar: number; key: Key | null }[] {
  const out: { bar: number; key: Key | null }[] = [];
  let bar = 0;
  for (const key of music.keys) {
    while (bar < music.bars && cmp(barStart(music.meters, bar), key.at) < 0) bar++;
    if (bar >= music.bars) break;
    if (out.length === 0 && bar > 0) out.push({ bar: 0, key: null });
    out.push({ bar, key: { tonic: key.tonic, mode: key.mode } });
  }
  return out.length > 0 ? out : [{ bar: 0, key: null }];
}

/** Counts lengths in divisions, of which a quarter has as many as all times ask for. */
function dividedBy(voices: readonly ReadonlyMap<number, StaffBar>[], music: Music): Divided {
  let divisions = 1;
  const count = (at: Quarter): void => {
    const { d } = toRatio(at);
    const next = (divisions / gcd(divisions, d)) * d;
    if (next <= MOST_DIVISIONS) divisions = next;
  };
  count(music.pickup);
  for (let bar = 1; bar <= music.bars; bar++) count(barStart(music.meters, bar));
  for (const voice of voices) for (const bar of voice.values()) for (const sign of bar.signs) count(sign.at);
  for (const step of [...music.tempo, ...music.chords, ...music.feel]) count(step.at);
  const place = (at: Quarter): number => {
    const { n, d } = toRatio(at);
    return Math.round((n / d) * divisions);
  };
  return Object.assign((from: Quarter, to: Quarter): number => place(to) - place(from), { divisions });
}

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

function attributes(music: Music, setup: Setup, bar: number, first: number, divisions: number, staves: string): string {
  const begins = bar === first;
  const meters = music.meters.find((one) => one.bar === bar);
  const key = keyBars(music).find((one) => one.bar === bar);
  const whole = bar < 0 ? meterAt(music.meters, 0) : meters;
  const told = bar === 0 && first < 0 ? null : whole;
  const sharps =
    bar < 0 || (bar === 0 && first === 0) || key ? signatureOf(key?.key ?? keyBars(music)[0]?.key ?? null) : null;
  const contents = [
    begins ? el('divisions', {}, divisions) : '',
    sharps !== null && (begins || (bar > 0 && key))
      ? el('key', {}, [el('fifths', {}, sharps), el('mode', {}, (key ?? keyBars(music)[0])?.key?.mode ?? 'major')])
      : '',
    told ? el('time', {}, [el('beats', {}, told.beats), el('beat-type', {}, told.unit)]) : '',
    ...(begins ? staffAttributes(setup, staves) : []),
  ].filter(Boolean);
  return contents.length > 0 ? el('attributes', {}, contents) : '';
}

function staffAttributes(setup: Setup, staves: string): string[] {
  const both = staves === 'both';
  const clef = clefOf(setup);
  const n = (staff: number): Record<string, number> => (both ? { number: staff } : {});
  const staffClef = el('clef', n(1), [
    el('sign', {}, clef === 'bass' ? 'F' : 'G'),
    el('line', {}, clef === 'bass' ? 4 : 2),
  ]);
  const tabClef = el('clef', n(2), [
    el('sign', {}, 'TAB'),
    el('line', {}, Math.max(1, Math.ceil(setup.open.length / 2))),
  ]);
  return [
    both ? el('staves', {}, 2) : '',
    staves === 'tab' ? '' : staffClef,
    staves === 'staff' ? '' : tabClef,
    tuningDetails(setup, both ? 2 : null, staves === 'staff'),
    el('transpose', {}, [el('chromatic', {}, 0), el('octave-change', {}, -1)]),
  ];
}

/** Strings and capo. A capo on some strings alone is told as their tuning: the format knows none. */
function tuningDetails(setup: Setup, staff: number | null, onStaff: boolean): string {
  const partial = isPartial(setup);
  const count = setup.open.length;
  const capo = partial ? 0 : nutOf(setup, 1);
  return el('staff-details', staff === null ? {} : { number: staff }, [
    onStaff ? '' : el('staff-lines', {}, count),
    ...setup.open.map((midi, i) => {
      const sounds = partial ? openPitch(setup, count - i) : midi;
      const name = spell(((sounds % 12) + 12) % 12, null);
      const octave = Math.floor((sounds - name.alteration) / 12) - 1;
      return el('staff-tuning', { line: i + 1 }, [
        el('tuning-step', {}, name.letter),
        name.alteration === 0 ? '' : el('tuning-alter', {}, name.alteration),
        el('tuning-octave', {}, octave),
      ]);
    }),
    capo > 0 ? el('capo', {}, capo) : '',
  ]);
}

/** Marks, tempo, feel and chords of a bar, each with how far into the bar it stands. */
function directions(music: Music, bar: number, from: Quarter, to: Quarter, divided: Divided): string[] {
  const within = <Step extends { readonly at: Quarter }>(steps: readonly Step[]): Step[] =>
    steps.filter((step) => cmp(step.at, from) >= 0 && cmp(step.at, to) < 0);
  const offset = (at: Quarter): string => (at === from ? '' : el('offset', {}, divided(from, at)));
  const said = (at: Quarter, types: readonly string[], sound = ''): string =>
    el('direction', { placement: 'above' }, [
      ...types.map((type) => el('direction-type', {}, [type])),
      offset(at),
      sound,
    ]);
  const marks = music.marks
    .filter((mark) => mark.bar === bar)
    .flatMap((mark) => [
      said(from, [el('rehearsal', {}, mark.name)]),
      ...(mark.cue === undefined ? [] : [said(from, [el('words', {}, `Cue: ${mark.cue}`)])]),
    ]);
  const tempo = within(music.tempo).map((step) => {
    const next = music.tempo[music.tempo.indexOf(step) + 1];
    const metronome = el('metronome', {}, [el('beat-unit', {}, 'quarter'), el('per-minute', {}, step.bpm)]);
    const change = step.ramp && next ? [el('words', {}, next.bpm < step.bpm ? 'rit.' : 'accel.')] : [];
    return said(step.at, [metronome, ...change], el('sound', { tempo: step.bpm }));
  });
  const feel = within(music.feel).map((step) =>
    said(step.at, [
      el('words', {}, step.swing === 50 ? 'Straight' : `Swing ${step.swing} %${step.unit === '1/4' ? ', 16ths' : ''}`),
    ]),
  );
  const chords = within(music.chords).map((chord) => harmony(chord.chord, offset(chord.at)));
  // Where a chord ends and no other follows, a sign without a name ends it.
  const ends = music.chords.filter((one, i) => music.chords[i + 1]?.at !== one.to);
  const silent = within(ends.map((one) => ({ at: one.to }))).map(({ at }) => harmony('', offset(at)));
  return [...marks, ...tempo, ...feel, ...chords, ...silent];
}

function harmony(chord: string, offset: string): string {
  const spelled = spellingOf(chord);
  const alter = (what: string, value: number): string => (value === 0 ? '' : el(`${what}-alter`, {}, value));
  if (!spelled)
    return el('harmony', {}, [
      el('root', {}, [el('root-step', { text: '' }, 'C')]),
      el('kind', { text: chord }, chord === 'N.C.' || chord === '' ? 'none' : 'other'),
      offset,
    ]);
  const { root, kind, text, bass } = spelled;
  return el('harmony', {}, [
    el('root', {}, [el('root-step', {}, root.step), alter('root', root.alter)]),
    el('kind', { text }, kind),
    bass ? el('bass', {}, [el('bass-step', {}, bass.step), alter('bass', bass.alter)]) : '',
    offset,
  ]);
}

function barlineLeft(music: Music, bar: number): string {
  const starts = music.repeats.some((one) => one.from === bar);
  const ending = music.repeats.flatMap((one) => one.endings).find((one) => one.from === bar);
  if (!starts && !ending) return '';
  return el('barline', { location: 'left' }, [
    starts ? el('bar-style', {}, 'heavy-light') : '',
    ending ? el('ending', { number: ending.passes.join(', '), type: 'start' }) : '',
    starts ? el('repeat', { direction: 'forward' }) : '',
  ]);
}

function barlineRight(music: Music, bar: number): string {
  const plain = music.repeats.find((one) => one.endings.length === 0 && one.to === bar + 1);
  const owner = music.repeats.find((one) => one.endings.some((ending) => ending.to === bar + 1));
  const ending = owner?.endings.find((one) => one.to === bar + 1);
  const back = plain ?? (ending?.passes.some((pass) => pass < (owner?.times ?? 0)) ? owner : undefined);
  if (!plain && !ending) return '';
  return el('barline', { location: 'right' }, [
    back ? el('bar-style', {}, 'light-heavy') : '',
    ending ? el('ending', { number: ending.passes.join(', '), type: back ? 'stop' : 'discontinue' }) : '',
    back ? el('repeat', { direction: 'backward', ...(plain && plain.times > 2 ? { times: plain.times } : {}) }) : '',
  ]);
}
