import { describe, expect, it } from 'vitest';
import { pieceOf, riffOf } from '../core/check/test-support/made';
import { commandLine } from './test-support/command';

const run = commandLine();
const BAR = '5.0 5.3 4.0 4.2 5.3 5.0 6.3 5.0';

interface Found {
  readonly rule: string;
  readonly where: Record<string, unknown>;
  readonly words: string;
  readonly mends: readonly { readonly words: string }[];
  readonly state: string;
}
const findings = (out: Record<string, unknown>): readonly Found[] => out.findings as readonly Found[];

describe('check', () => {
  it('asks where a copy is off, with its place and a mend; with --all what is probably meant too', async () => {
    const piece = pieceOf([riffOf(`${BAR} ${BAR.replace('4.2', '4.3')} ${BAR}`, 3)]);
    const { out, code } = await run(['check'], JSON.stringify(piece));
    expect(code).toBe(0);
    expect(findings(out)[0]).toMatchObject({
      rule: 'copy',
      severity: 'question',
      where: { part: 'g', riff: 'r1', bar: 2, event: 'e11', note: 'e11n0' },
      mends: [{ words: 'Make it fret 2' }],
      state: 'open',
    });
    const all = await run(['check', '--all'], JSON.stringify(piece));
    expect(findings(all.out).length).toBeGreaterThanOrEqual(findings(out).length);
  });

  it('asks about names and places that don’t agree instead of refusing the piece', async () => {
    const piece = pieceOf([riffOf(BAR, 1)]);
    const text = JSON.stringify(piece).replace('"midi":45', '"midi":46');
    const { out, code } = await run(['check'], text);
    expect(code).toBe(0);
    expect(findings(out)[0]).toMatchObject({ rule: 'name-place', severity: 'error', where: { event: 'e0', bar: 1 } });
  });

  it('refuses what is no piece, with one fault', async () => {
    const { code, err } = await run(['check'], '{"title":"Moth"}');
    expect(code).toBe(2);
    expect(err.message).toContain('schemaVersion');
  });
});

describe('name', () => {
  it('names grips with capo and bass, and their degrees', async () => {
    const capo = { setup: { instrument: 'guitar-6', capo: 2 }, key: 'D' };
    const notes = [
      { string: 5, fret: 3 },
      { string: 4, fret: 2 },
      { string: 3, fret: 0 },
    ];
    const { out } = await run(['name'], JSON.stringify({ ...capo, notes }));
    expect(out.names).toMatchObject([{ sounding: 'D', shape: 'C' }, {}]);
    expect(out.degrees).toMatchObject([{ degree: '1' }, { degree: '3' }, { degree: '5' }]);
    const fourth = await run(['name'], JSON.stringify({ pitches: [47, 52], bass: 'C' }));
    expect(fourth.out.names).toMatchObject([{ sounding: 'Cmaj7' }]);
  });

  it('says what is missing or wrong', async () => {
    expect((await run(['name'], '{}')).err.message).toContain('Give notes');
    expect((await run(['name'], '{"pitches":[40],"bass":"H"}')).err.message).toContain('no note name');
    expect((await run(['name'], '{"notes":[{"string":1,"fret":0}]}')).err.code).toBe('no-setup');
  });
});

describe('scale', () => {
  it('finds a scale, and checks a claim', async () => {
    const pitches = [57, 60, 62, 64, 67];
    expect((await run(['scale'], JSON.stringify({ pitches }))).out).toMatchObject({
      fit: { scale: 'A minor pentatonic', share: 1 },
      outliers: [],
    });
    const claimed = await run(['scale'], JSON.stringify({ pitches: [...pitches, 61], claim: 'A minor pentatonic' }));
    expect(claimed.out.outliers).toMatchObject([{ index: 5, pitch: 61 }]);
    const mode = await run(['scale'], JSON.stringify({ pitches: [50, 52, 53, 58], claim: 'Dorian', tonic: 'D' }));
    expect(mode.out).toMatchObject({ fit: { scale: 'D Dorian' }, outliers: [{ pitch: 58 }] });
    expect((await run(['scale'], '{"pitches":[],"claim":"sideways"}')).code).toBe(2);
  });
});
