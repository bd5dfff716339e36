import { zipSync } from 'fflate';
import { FORMATS, readMusic, type MusicFormat } from '@/core/formats/registry';

/** What hostile files cost: time and memory until they are refused, or read as far as they can be. */

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const megabytes = (bytes: number): string => `${Math.round(bytes / 1048576)} MB`;
const note = '<note><pitch><step>E</step><octave>3</octave></pitch><duration>1</duration></note>';
const score = (inside: string): string =>
  `<score-partwise><part-list/><part id="P1"><measure number="1">${inside}</measure></part></score-partwise>`;

const FILES: readonly (readonly [MusicFormat, string, () => Uint8Array])[] = [
  [
    'musicxml',
    'entities within entities',
    () =>
      encode(
        `<!DOCTYPE a [<!ENTITY a "owl">${'bcdefgh'
          .split('')
          .map((name, i) => `<!ENTITY ${name} "${`&${'abcdefg'[i]};`.repeat(10)}">`)
          .join('')}]><score-partwise><work><work-title>&h;</work-title></work></score-partwise>`,
      ),
  ],
  [
    'musicxml',
    'an outside entity',
    () =>
      encode(
        '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/hostname">]><score-partwise><work><work-title>&x;</work-title></work></score-partwise>',
      ),
  ],
  ['musicxml', 'a million elements deep', () => encode('<a>'.repeat(1_000_000))],
  ['musicxml', 'a million and more elements', () => encode(score('<a/>'.repeat(1_300_000)))],
  [
    'musicxml',
    'two hundred thousand notes',
    () =>
      encode(
        score(note.repeat(200))
          .replace('</part>', `${`<measure number="2">${note.repeat(200)}</measure>`.repeat(1000)}</part>`)
          .slice(0, 15_900_000),
      ),
  ],
  [
    'musicxml',
    'sixteen megabytes of text',
    () =>
      encode(
        score(
          `<direction><direction-type><words>${'owl '.repeat(4_000_000)}</words></direction-type></direction>${note}`,
        ).slice(0, 16_700_000),
      ),
  ],
  [
    'musicxml',
    'a zip of nothing, unpacked 200 MB',
    () => zipSync({ 'score.xml': new Uint8Array(200 * 1048576) }, { level: 6 }),
  ],
  ['musicxml', 'a duration of a billion', () => encode(score(note.replace('<duration>1<', '<duration>1000000000<')))],
  [
    'midi',
    'a track length that lies',
    () =>
      Uint8Array.from([
        0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, 1, 1, 0xe0, 0x4d, 0x54, 0x72, 0x6b, 0x7f, 0xff, 0xff, 0xff, 0,
        0x90, 60, 90,
      ]),
  ],
  [
    'midi',
    'four megabytes of note-ons',
    () => {
      const bytes = new Uint8Array(4 * 1024 * 1024 - 64);
      bytes.set([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, 1, 1, 0xe0, 0x4d, 0x54, 0x72, 0x6b, 0, 0x3f, 0xff, 0xa0]);
      for (let i = 22; i + 4 < bytes.length; i += 4) bytes.set([1, 0x90, 40 + (i % 40), 90], i);
      return bytes;
    },
  ],
  ['texttab', 'four hundred thousand dashes', () => encode('-'.repeat(399_000))],
  ['texttab', 'bars everywhere', () => encode(`${'-|'.repeat(990)}\n`.repeat(190))],
  ['texttab', 'frets everywhere', () => encode(`e|${'0-'.repeat(900)}|\n`.repeat(200))],
];

let [slowest, largest] = [0, 0];
for (const [format, what, make] of FILES) {
  const bytes = make();
  global.gc?.();
  const before = process.memoryUsage().heapUsed;
  const began = performance.now();
  const read = readMusic(format, bytes);
  const took = performance.now() - began;
  const held = Math.max(0, process.memoryUsage().heapUsed - before);
  [slowest, largest] = [Math.max(slowest, took), Math.max(largest, held)];
  console.log(
    `${FORMATS[format].name}, ${what} (${megabytes(bytes.length)}): ${Math.round(took)} ms, ${megabytes(held)}: ${read.ok ? 'read' : read.error.words.slice(0, 110)}`,
  );
}
console.log(`slowest ${Math.round(slowest)} ms (goal 2000), most memory ${megabytes(largest)} (goal 512)`);
