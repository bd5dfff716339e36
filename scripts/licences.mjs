// Lists the licence of every package that ships, and fails where one is none of those the project may use.
// What is there by way of another package under a licence of its own is named below, with the reason.
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const FREE = new Set([
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  '0BSD',
  'Apache-2.0',
  'OFL-1.1',
  'CC0-1.0',
  'CC-BY-4.0',
  'Unlicense',
  'BlueOak-1.0.0',
  'Python-2.0',
]);
/** Kept on purpose; docs/decisions/011-nothing-lost.md says why. */
const NAMED = {
  'codec-parser': 'of the optional decoders of the command line; a package of its own that can be left out',
};
/** MIT by the licence file they ship; their package.json names none. */
const UNNAMED = new Set(['png-js']);
/** Next's image scaler, optional and not used here: no image of ours is scaled. */
const OPTIONAL = /^@img\//;

const lock = JSON.parse(readFileSync(path.join(ROOT, 'package-lock.json'), 'utf8'));
const wrong = [];
const counted = new Map();
for (const [place, entry] of Object.entries(lock.packages)) {
  if (place === '' || entry.dev || entry.devOptional) continue;
  const name = place.slice(place.lastIndexOf('node_modules/') + 'node_modules/'.length);
  const file = path.join(ROOT, place, 'package.json');
  // Of the optional ones only what this machine took is there.
  if (!existsSync(file)) continue;
  const read = JSON.parse(readFileSync(file, 'utf8'));
  const licence = typeof read.license === 'string' ? read.license : (read.license?.type ?? entry.license ?? 'none');
  const choices = licence.replace(/[()]/g, '').split(/ OR /);
  const free = choices.some((choice) => choice.split(/ AND /).every((one) => FREE.has(one.trim())));
  counted.set(licence, (counted.get(licence) ?? 0) + 1);
  if (!free && !NAMED[name] && !UNNAMED.has(name) && !OPTIONAL.test(name))
    wrong.push(`${name} ${read.version}: ${licence}`);
}
console.log(
  [...counted]
    .sort((a, b) => b[1] - a[1])
    .map(([licence, count]) => `${licence} ${count}`)
    .join(', '),
);
if (wrong.length > 0) {
  console.error(`Licences that may not ship:\n${wrong.join('\n')}`);
  process.exit(1);
}
