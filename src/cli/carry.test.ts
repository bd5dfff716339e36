import { describe, expect, it } from 'vitest';
import { commandLine } from './test-support/command';

const run = commandLine();

interface Event {
  readonly id: string;
  readonly at: string;
  readonly dur: string;
  readonly ring?: boolean;
  readonly notes: readonly { readonly pitch?: number; readonly string?: number; readonly fret?: number }[];
}

const eighths = (notes: readonly Event['notes'][], ring = false): Event[] =>
  notes.map((list, i) => ({ id: `e${i}`, at: `${i}/2`, dur: '1/2', ring, notes: list }));
const pitched = (list: readonly number[]): Event[] => eighths(list.map((pitch) => [{ pitch }]));

interface Ranked {
  readonly setup: { readonly spelling: string; readonly capo: number; readonly tuning: string | null };
  readonly score: number;
  readonly why: readonly string[];
  readonly equivalent: readonly Ranked['setup'][];
}

describe('find-setup', () => {
  // Low D under fifths that one finger stops, as dropped tunings are for.
  const events = eighths([
    ...[[38], [38], [41, 48, 53], [38], [43, 50, 55], [38], [45, 52, 57], [38]].map((chord) =>
      chord.map((pitch) => ({ pitch })),
    ),
  ]);

  it('ranks set-ups with reasons, equals and what would decide', async () => {
    const { out, code } = await run(['find-setup'], JSON.stringify({ events }));
    expect(code).toBe(0);
    const ranking = out.ranking as readonly Ranked[];
    const first = ranking[0];
    expect([first?.setup, ...(first?.equivalent ?? [])].map((one) => one?.spelling)).toContain('D2 A2 D3 G3 B3 E4');
    expect(first?.why.some((words) => words.includes('D2'))).toBe(true);
    expect(ranking.reduce((sum, one) => sum + one.score, 0)).toBeLessThanOrEqual(1 + 1e-9);
    expect(typeof out.certain).toBe('boolean');
  });

  it('takes clues and limits, and names an event that isn’t there', async () => {
    const clues = [{ event: 'e0', note: 0, open: true }, { ring: ['e0', 'e1'] }, { hammeredFromOpen: 'e2' }];
    const limited = { events, instruments: ['guitar-6'], families: ['dropped'], capo: false, clues };
    const { out, code } = await run(['find-setup'], JSON.stringify(limited));
    expect(code).toBe(0);
    for (const one of out.ranking as readonly Ranked[]) expect(one.setup.capo).toBe(0);
    const { err } = await run(['find-setup'], JSON.stringify({ events, clues: [{ event: 'nobody', open: true }] }));
    expect(err).toMatchObject({ code: 'no-event', at: 'clues.0' });
  });
});

describe('carry', () => {
  const events = eighths([[{ string: 6, fret: 0 }], [{ string: 5, fret: 2 }], [{ string: 4, fret: 2 }]]);

  it('tells for each target the places, what is lost, the cost and the keys', async () => {
    const input = {
      from: { instrument: 'guitar-6' },
      to: [{ instrument: 'guitar-6', tuning: 'drop-d' }, { instrument: 'bass-4' }],
      key: 'E minor',
      events,
    };
    const { out, code } = await run(['carry'], JSON.stringify(input));
    expect(code).toBe(0);
    const [drop, bass] = out.targets as readonly Record<string, unknown>[];
    expect(drop?.lost).toMatchObject([{ event: 'e0', what: 'open' }]);
    expect(drop?.equalStrings).toEqual([5, 4, 3, 2, 1]);
    expect((drop?.events as readonly Event[])[0]?.notes).toMatchObject([{ pitch: 40, string: 6, fret: 2 }]);
    expect((drop?.keys as { sounding: unknown }).sounding).toEqual({ before: 'E minor', after: 'E minor' });
    expect((bass?.events as readonly Event[]).every((event) => event.notes[0]?.string !== null)).toBe(true);
  });

  it('keeps the shape, and names a target that is none', async () => {
    const shape = {
      from: { instrument: 'guitar-6' },
      to: [{ instrument: 'guitar-6', tuning: 'down-2' }],
      keep: 'shape',
      events,
    };
    const { out } = await run(['carry'], JSON.stringify(shape));
    const [low] = out.targets as readonly { readonly events: readonly Event[] }[];
    expect(low?.events.map((event) => event.notes[0]?.pitch)).toEqual([38, 45, 50]);
    const { err } = await run(['carry'], JSON.stringify({ ...shape, to: [{ instrument: 'harp' }] }));
    expect(err).toMatchObject({ code: 'unknown-instrument', at: 'to.0.setup.instrument' });
  });
});

describe('move', () => {
  it('moves in shape, tells what open strings become, and refuses what leaves the neck', async () => {
    const events = eighths([[{ string: 6, fret: 0 }], [{ string: 5, fret: 2 }]]);
    const setup = { instrument: 'guitar-6' };
    const move = { by: 'frets', steps: 5, opens: 'keep' };
    const { out } = await run(['move'], JSON.stringify({ setup, events, move, root: 'E' }));
    expect((out.events as readonly Event[]).map((event) => event.notes[0]?.fret)).toEqual([0, 7]);
    expect(out.opens).toMatchObject([{ string: 6, was: '1', now: '5' }]);
    const off = await run(['move'], JSON.stringify({ setup, events, move: { by: 'frets', steps: -3 } }));
    expect(off.code).toBe(2);
    expect(off.err).toMatchObject({ code: 'off-neck' });
    const key = { setup, events: pitched([52, 55, 59]), move: { by: 'key', from: 'E minor', to: 'A major' } };
    const moved = await run(['move'], JSON.stringify(key));
    expect((moved.out.events as readonly Event[]).map((event) => (event.notes[0]?.pitch ?? 0) % 12)).toEqual([9, 1, 4]);
  });
});
