import { readFileSync } from 'node:fs';
import path from 'node:path';
import { openSync, type Font } from 'fontkit';
import type { EmbeddedFace, Lettering, PaperLayout } from '@/core/paper';

/**
 * The faces of the house as files a PDF can carry. What a face has no sign for is taken from the next in its list: the
 * signs of music stand in Bravura, letters of other languages in the wider cut of the text face.
 */

const packages = path.join(process.cwd(), 'node_modules');
const source = (name: string, file: string): string =>
  path.join(packages, '@fontsource', name, 'files', `${file}.woff`);
const BRAVURA = path.join(packages, '@vexflow-fonts', 'bravura', 'bravura.otf');

/** Weights there are files of. */
const WEIGHTS = [400, 600, 700] as const;

function filesOf({ family, weight, italic }: Pick<Lettering, 'family' | 'weight' | 'italic'>): string[] {
  const near = WEIGHTS.reduce((best, one) => (Math.abs(one - weight) < Math.abs(best - weight) ? one : best));
  const cut = (name: string, subset: string): string =>
    source(name, `${name}-${subset}-${near}-${italic && name !== 'fraunces' ? 'italic' : 'normal'}`);
  const text = [cut('atkinson-hyperlegible-next', 'latin'), cut('atkinson-hyperlegible-next', 'latin-ext')];
  if (family === 'music') return [BRAVURA, ...text];
  const own =
    family === 'figures'
      ? [cut('atkinson-hyperlegible-mono', 'latin'), cut('atkinson-hyperlegible-mono', 'latin-ext')]
      : family === 'display'
        ? [cut('fraunces', 'latin'), cut('fraunces', 'latin-ext')]
        : [];
  return [...own, ...text, BRAVURA];
}

const opened = new Map<string, Font>();

function fontOf(file: string): Font {
  const known = opened.get(file);
  if (known) return known;
  const font = openSync(file) as Font;
  opened.set(file, font);
  return font;
}

export interface Run {
  readonly file: string;
  readonly text: string;
}

/** Signs no face of ours has, by what is read the same. */
const INSTEAD: Readonly<Record<string, string>> = {
  '♯': '#',
  '♭': 'b',
  '♮': 'n',
  '→': '>',
  '←': '<',
  '↑': '^',
  '×': 'x',
  '\u00a0': ' ',
};

/** A text cut into runs, each in the first face that has its letters. */
export function runsOf(item: Lettering): Run[] {
  const files = filesOf(item);
  const runs: Run[] = [];
  for (const letter of item.text) {
    const found = files.find((file) => fontOf(file).hasGlyphForCodePoint(letter.codePointAt(0) ?? 0));
    const instead = found ? letter : (INSTEAD[letter] ?? '?');
    const file = found ?? files[0] ?? BRAVURA;
    const last = runs.at(-1);
    if (last?.file === file) runs[runs.length - 1] = { file, text: last.text + instead };
    else runs.push({ file, text: instead });
  }
  return runs;
}

/** The faces a layout's letters are set in, as data a drawing carries with it. */
export function facesIn({ items }: Pick<PaperLayout, 'items'>): EmbeddedFace[] {
  const faces = new Map<string, EmbeddedFace>();
  for (const item of items) {
    const [file] = item.kind === 'text' ? filesOf(item) : [];
    if (item.kind !== 'text' || file === undefined || faces.has(`${file} ${item.weight}`)) continue;
    const type = file.endsWith('.otf') ? 'otf' : 'woff';
    faces.set(`${file} ${item.weight}`, {
      ...{ family: item.family, italic: item.italic, weight: String(item.weight) },
      source: `data:font/${type};base64,${readFileSync(file).toString('base64')}`,
    });
  }
  return [...faces.values()];
}
