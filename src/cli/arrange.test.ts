import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { buildDemoPiece } from '@/server/demo';
import { DEMO_PIECES } from '../../demo/pieces';
import { commandLine } from './test-support/command';

const cli = commandLine();
const demoOf = (title: string) =>
  must(buildDemoPiece(DEMO_PIECES.find((one) => one.title === title) as (typeof DEMO_PIECES)[number]));
const moth = demoOf('Moth at the Lamp');
const run = (command: string, input: unknown) => cli([command, '-'], JSON.stringify(input));

describe('arranging on the command line', () => {
  it('makes a second voice in the key, with its table; compares a part with another; refuses in words', async () => {
    const made = await run('second-voice', { piece: moth, part: 'p0', riff: 'p0r0', interval: { steps: 2 } });
    expect(made.code).toBe(0);
    const [riff] = made.out.riffs as { events: { notes: { place: unknown }[] }[]; table: { words: string } }[];
    expect(riff?.table.words).toBe('A third above, in the key, throughout.');
    expect(riff?.events.every((event) => event.notes.every((note) => note.place))).toBe(true);
    const table = await run('second-voice', { piece: moth, part: 'p0', interval: { steps: 0 }, against: 'p2' });
    expect((table.out.intervals as unknown[]).length).toBeGreaterThan(10);
    const far = await run('second-voice', { piece: moth, part: 'p0', interval: { semitones: 36 } });
    expect(far).toMatchObject({ code: 2, err: { code: 'off-neck' } });
    const none = await run('second-voice', { piece: moth, part: 'p9', interval: { steps: 2 } });
    expect(none.err).toMatchObject({ code: 'no-part', at: 'part' });
    const keyless = { ...moth, context: { ...moth.context, key: [] } };
    const asked = await run('second-voice', { piece: keyless, part: 'p0', interval: { steps: 2 } });
    expect(asked.err.code).toBe('no-key');
  });
  it('tells what two could play of three, and what is lost, what is heard most first', async () => {
    const { out } = await run('reduce', { piece: moth, players: 2 });
    expect(out.keep).toHaveLength(2);
    const lost = out.lost as { weight: number; bar: number }[];
    expect(lost.every((one, i) => i === 0 || (lost[i - 1]?.weight ?? 0) >= one.weight)).toBe(true);
    expect(out.share).toBeGreaterThan(0.4);
    expect((await run('reduce', { piece: moth, players: 3 })).out).toMatchObject({ share: 1, lost: [], taken: [] });
    expect((await run('reduce', { piece: moth, players: 0 })).code).toBe(2);
  });
  it('searches pieces by words and by music', async () => {
    const pieces = [moth, demoOf('Twelve Lanterns')].map((piece, i) => ({ ...piece, id: `piece-${i}` }));
    const { out } = await run('search', { pieces, words: 'lamp', calls: 'on 5 0 on 4 2 on 3 2' });
    expect((out.said as { kind: string }[]).map((one) => one.kind)).toContain('title');
    expect((out.music as { piece: string; words: string }[])[0]).toMatchObject({
      piece: 'piece-0',
      bar: 1,
      sound: true,
    });
    expect((await run('search', { pieces })).err.code).toBe('nothing-sought');
    expect((await run('search', { pieces, calls: 'on 5 99 1 2' })).code).toBe(2);
  });
});
