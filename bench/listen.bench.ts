import { heardLine, heardSets, onsetsIn } from '../src/core/listen';
import { renderTake, type TakeOptions } from '../src/core/synth';
import { f1, grips, line, scored } from './listen/takes';
import { referenceErrors } from './listen/tuned';

/** How well the ear hears, on takes whose voice shares nothing with the player's. */
const middle = (sorted: readonly number[]): number => sorted[sorted.length >> 1] ?? 0;
const RATE = 44_100;
const COUNT = 24;

const voices: readonly (readonly [string, Partial<TakeOptions>])[] = [
  ['clean', { point: 0.14 }],
  ['clean, near the bridge, stiff, in a room', { point: 0.06, stiffness: 0.0004, room: 0.3 }],
  ['distorted', { drive: 4 }],
  ['heavily distorted', { drive: 12 }],
  ['clean with drums as loud', { drums: 1 }],
  ['distorted with drums as loud', { drive: 4, drums: 1 }],
];
const only = process.env.ONLY;
for (const [name, voice] of voices) {
  if (only && !name.includes(only)) continue;
  const sum = { hit: 0, truth: 0, found: 0 };
  const onset = { hit: 0, truth: 0, found: 0 };
  const joins = { told: 0, heard: 0, wrongly: 0 };
  let seconds = 0;
  let took = 0;
  const worst: string[] = [];
  for (let i = 0; i < COUNT; i++) {
    const take = line(i + 1);
    const samples = renderTake(take.notes, { ...voice, seconds: take.seconds, beats: take.beats, seed: 7 + i });
    const began = performance.now();
    const { notes } = heardLine(samples, RATE, {
      low: Math.min(...take.open),
      high: Math.max(...take.open) + take.frets,
      reference: 0,
    });
    took += (performance.now() - began) / 1000;
    seconds += take.seconds;
    const one = scored(
      take.notes,
      notes.map((note) => ({ at: note.at, midi: note.midi + note.cents / 100 })),
    );
    const struck = take.notes.filter((note) => note.struck).map((note) => ({ at: note.at, midi: 0 }));
    const other = scored(
      struck,
      onsetsIn(samples, RATE).map((at) => ({ at, midi: 0 })),
    );
    for (const note of take.notes) {
      const hearing = notes.find((one) => Math.abs(one.at - note.at) < 0.05 && Math.abs(one.midi - note.midi) <= 0.5);
      if (!hearing) continue;
      if (!note.struck) joins.heard++;
      if (!note.struck && hearing.begins === 'joined') joins.told++;
      if (note.struck && hearing.begins === 'joined') joins.wrongly++;
    }
    onset.hit += other.hit;
    onset.truth += other.truth;
    onset.found += other.found;
    sum.hit += one.hit;
    sum.truth += one.truth;
    sum.found += one.found;
    const say = (one: { at: number; midi: number }): string => `${one.at.toFixed(2)}@${one.midi.toFixed(1)}`;
    worst.push(
      `${f1(one).toFixed(2)} ${take.name} ${one.hit}/${one.truth}/${one.found} missed ${one.missed.slice(0, 8).map(say).join(' ')} wrong ${one.wrong.slice(0, 8).map(say).join(' ')}`,
    );
  }
  console.log(
    `single lines, ${name}: F1 ${f1(sum).toFixed(3)} (${sum.hit} of ${sum.truth} notes, ${sum.found} heard), ${(seconds / took).toFixed(0)} x real time; onsets ${onset.hit} of ${onset.truth}, ${onset.found} heard; hammer-ons and pull-offs known ${joins.told} of ${joins.heard} heard, ${joins.wrongly} struck notes taken for one`,
  );
  if (process.env.WORST) console.log(worst.sort().slice(0, 8).join('\n'));
}

const gripVoices: readonly (readonly [string, Partial<TakeOptions>])[] = [
  ['clean', { point: 0.14 }],
  ['clean, near the bridge, stiff', { point: 0.06, stiffness: 0.0003 }],
  ['moderately distorted', { drive: 1.5 }],
];
for (const [name, voice] of gripVoices) {
  if (only && !`grips ${name}`.includes(only)) continue;
  const sum = { hit: 0, truth: 0, found: 0 };
  let exact = 0;
  let bass = 0;
  let count = 0;
  let seconds = 0;
  let took = 0;
  const wrong: string[] = [];
  for (let i = 0; i < COUNT; i++) {
    const take = grips(i + 1);
    const samples = renderTake(take.notes, { ...voice, seconds: take.seconds, seed: 70 + i });
    const began = performance.now();
    const sets = heardSets(samples, RATE, onsetsIn(samples, RATE), { open: take.open, frets: take.frets, span: 4 }, 0);
    took += (performance.now() - began) / 1000;
    seconds += take.seconds;
    const one = scored(
      take.notes,
      sets.flatMap((set) => (set.readings[0]?.notes ?? []).map((place) => ({ at: set.at + 0.02, midi: place.midi }))),
    );
    sum.hit += one.hit;
    sum.truth += one.truth;
    sum.found += one.found;
    for (const at of new Set(take.notes.map((note) => note.event))) {
      const truth = take.notes
        .filter((note) => note.event === at)
        .map((note) => note.midi)
        .sort((a, b) => a - b);
      const start = Math.min(...take.notes.filter((note) => note.event === at).map((note) => note.at));
      const listening =
        sets
          .find((set) => Math.abs(set.at - start) < 0.06)
          ?.readings[0]?.notes.map((place) => place.midi)
          .sort((a, b) => a - b) ?? [];
      count++;
      if (listening.join() === truth.join()) exact++;
      else wrong.push(`${truth.join(' ')} heard ${listening.join(' ')}`);
      if (listening[0] === truth[0]) bass++;
    }
  }
  console.log(
    `grips, ${name}: note F1 ${f1(sum).toFixed(3)}, ${((100 * exact) / count).toFixed(0)} % of ${count} chords exact, bass right in ${((100 * bass) / count).toFixed(0)} %, ${(seconds / took).toFixed(0)} x real time`,
  );
  if (process.env.WORST) console.log(wrong.slice(0, 14).join('\n'));
}

for (const [kind, name, voice] of [
  ['lines', 'clean', {}],
  ['lines', 'with drums as loud', { drums: 1 }],
  ['grips', 'clean', {}],
  ['grips', 'stiff, near the bridge', { point: 0.06, stiffness: 0.0004 }],
  ['grips', 'distorted with drums as loud', { drive: 4, drums: 1 }],
] as const) {
  if (only && !`reference ${name}`.includes(only)) continue;
  const errors = referenceErrors(kind, voice, COUNT, RATE);
  console.log(
    `reference of ${kind}, ${name}: median ${middle(errors).toFixed(1)} cents off, worst ${(errors.at(-1) ?? 0).toFixed(1)}, ${errors.filter((e) => e <= 2).length} of ${errors.length} within 2 cents`,
  );
}

if (!only) {
  const empty = renderTake([], { seconds: 20, hiss: 0.02, hum: 0.03 });
  const reachable = { open: [40, 45, 50, 55, 59, 64], frets: 22, span: 4 };
  for (const [name, one] of [
    ['silence', new Float32Array(20 * RATE)],
    ['hiss and hum', empty],
  ] as const) {
    console.log(
      `twenty seconds of ${name}: ${heardLine(one, RATE, { low: 28, high: 86, reference: 0 }).notes.length} notes, ${heardSets(one, RATE, onsetsIn(one, RATE), reachable, 0).length} chords heard (wanted: none)`,
    );
  }
}
