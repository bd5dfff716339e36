import { execFile } from 'node:child_process';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { pieceToMidi } from '@/core/formats/midi';
import { readPiece } from '@/core/score';
import { buildDemoPiece } from '@/server/demo';
import { DEMO_PIECES } from '../../demo/pieces';

const root = path.resolve(import.meta.dirname, '../..');

/** The real command in a real process. */
function cli(args: readonly string[], input: string | Uint8Array = ''): Promise<{ code: number; out: Record<string, unknown>; err: Record<string, unknown> }> {
  return new Promise((resolve) => {
    const child = execFile(process.execPath, ['--import', 'tsx', 'src/cli/main.ts', ...args], { cwd: root, maxBuffer: 1e8 }, (error, stdout, stderr) => {
      const parse = (text: string): Record<string, unknown> => (text.trim() ? (JSON.parse(text) as Record<string, unknown>) : {});
      resolve({ code: error ? Number(error.code) : 0, out: parse(stdout), err: parse(stderr) });
    });
    child.stdin?.end(input);
  });
}

const setup = { instrument: 'guitar-6', tuning: 'D A D G B E', capo: 2 };

describe('the command line', () => {
  it('lists positions of pitches', async () => {
    const { code, out } = await cli(['positions', '-'], JSON.stringify({ setup, pitches: [62, 20] }));
    expect(code).toBe(0);
    expect(out).toEqual({
      positions: [
        [
          { string: 2, fret: 1, fretFromNut: 3, open: false }, { string: 3, fret: 5, fretFromNut: 7, open: false }, { string: 4, fret: 10, fretFromNut: 12, open: false },
          { string: 5, fret: 15, fretFromNut: 17, open: false },
        ],
        [],
      ],
    });
  });

  it('places events in k ways, locks kept, and says what is blocked', async () => {
    const events = [
      { id: 'a', at: '0', dur: '1/2', notes: [{ string: 5, fret: 5, lock: true }], link: 'hammer' },
      { id: 'b', at: '1/2', dur: '1/2', notes: [{ pitch: 54 }] },
      { id: 'c', at: '1', dur: '1', notes: [{ pitch: 20 }] },
    ];
    const { code, out } = await cli(['place', '-'], JSON.stringify({ setup, tempo: 90, events, k: 3 }));
    expect(code).toBe(0);
    const ways = out.ways as { cost: number; events: { id: string; hand: number; notes: ({ string: number; fret: number; finger: number } | null)[] }[] }[];
    expect(ways).toHaveLength(3);
    for (const way of ways) expect(way.events.slice(0, 2).map((e) => [e.notes[0]?.string, e.notes[0]?.fret])).toEqual([[5, 5], [5, 7]]);
    expect(out.blocked).toMatchObject([{ event: 'c', limit: 'range' }]);
  });

  it('reads calls and prints them again', async () => {
    const { out } = await cli(['calls', 'parse'], JSON.stringify({ setup: { instrument: 'guitar-6' }, calls: 'on 6 open 3 on 5 2 hammer 4' }));
    expect(out.faults).toEqual([]);
    const riff = { id: 'r', name: 'R', bars: 1, pickup: '0', meters: [{ bar: 0, beats: 4, unit: 4 }], events: out.events };
    expect((await cli(['calls', 'print'], JSON.stringify({ riff }))).out).toEqual({ calls: 'on 6 open 3 on 5 2 hammer 4' });
  });

  it('imports a MIDI file and places a part of it', async () => {
    const midi = pieceToMidi(must(buildDemoPiece(DEMO_PIECES[6] as (typeof DEMO_PIECES)[number])));
    const { code, out } = await cli(['import', '-', '--part', '1', '--setup', '{"instrument":"bass-4","tuning":"bass-drop-c"}'], midi);
    expect(code).toBe(0);
    expect((out.parts as unknown[]).length).toBe(2);
    const piece = must(readPiece(out.piece));
    expect(piece.parts[0]?.riffs[0]?.events.every((e) => e.notes.every((n) => n.place?.by === 'solver'))).toBe(true);
    expect(out.blocked).toEqual([]);
  });

  it('publishes its schemas', async () => {
    for (const name of [['positions'], ['place'], ['import'], ['calls', 'parse'], ['calls', 'print']]) {
      const { code, out } = await cli(['schema', ...name]);
      expect([code, out.type]).toEqual([0, 'object']);
    }
  });

  it('ends with 2 and one JSON object on standard error for any bad input', async () => {
    const fault = async (args: string[], input = ''): Promise<unknown[]> => {
      const { code, err } = await cli(args, input);
      return [code, err.code, err.at];
    };
    expect(await fault(['positions', '-'], '{"setup"')).toEqual([2, 'bad-json', '-']);
    expect(await fault(['positions', '-'], '{}')).toEqual([2, 'bad-input', 'setup']);
    expect(await fault(['positions', '-'], JSON.stringify({ setup: { ...setup, tuning: 'E A' }, pitches: [] }))).toEqual([2, 'string-count', 'setup.tuning']);
    expect(await fault(['place', '-'], JSON.stringify({ setup, events: [{ id: 'a', at: 'soon', dur: '1', notes: [{ pitch: 50 }] }] }))).toEqual([2, 'bad-input', 'events.0.at']);
    expect(await fault(['place', 'no-such-file.json'])).toEqual([2, 'unreadable', 'no-such-file.json']);
    expect((await fault(['import', '-'], 'not midi')).slice(0, 2)).toEqual([2, 'not-midi']);
    expect((await fault(['dance']))[1]).toBe('usage');
  }, 120_000);
});
