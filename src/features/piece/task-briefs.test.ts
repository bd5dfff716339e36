import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeSetup } from '@/core/instrument';
import { optionsFor } from '@/core/place';
import { makeEvent, makeNote, makePiece, makeRiff, tempoOf, type Riff } from '@/core/score';
import { quarter } from '@/core/time';
import { TaskMemory, type Task } from '@/workers/place-tasks';
import { TaskBriefs } from './task-briefs';

const made = makeSetup({ instrument: 'guitar-6' });
if (!made.ok) throw new Error(made.error.words);
const { setup } = made.value;
const document = makePiece('p', 'Piece');
const riffOf = (id: string, midis: readonly number[]): Riff => ({
  ...makeRiff(id, 'Riff'),
  events: midis.map((midi, i) =>
    makeEvent(`${id}e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`${id}n${i}`, midi, 'import')]),
  ),
});
const taskOf = (riff: Riff, version: number): Task => ({
  riff,
  setup,
  tempo: tempoOf(document, riff),
  options: optionsFor(document, {}),
  version,
});

/** Page and worker, with all that goes between them copied as it is on its way. */
function both() {
  const [briefs, memory] = [new TaskBriefs(), new TaskMemory()];
  return {
    say: (task: Task) => briefs.brief(task),
    arrives: (task: Task) => memory.task(structuredClone(briefs.brief(task))),
  };
}
const LONG = Array.from({ length: 40 }, (_, i) => 40 + (i % 12));

describe('what is handed to the place worker', () => {
  it('arrives as it was meant, whatever was changed in which riff', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            riff: fc.nat(2),
            event: fc.nat(39),
            midi: fc.integer({ min: 40, max: 70 }),
            bpm: fc.option(fc.integer({ min: 60, max: 90 }), { freq: 6 }),
            again: fc.boolean(),
            drop: fc.boolean(),
          }),
          { maxLength: 60 },
        ),
        (edits) => {
          const { arrives } = both();
          const riffs = ['a', 'b', 'c'].map((id) => riffOf(id, LONG));
          const versions = new Map<Riff, number>();
          let last = 0;
          for (const { riff, event, midi, bpm, again, drop } of edits) {
            const before = riffs[riff] as Riff;
            const events =
              drop && event === 0
                ? before.events.slice(0, -1)
                : before.events.map((other, i) =>
                    i === event ? { ...other, notes: [makeNote(`${before.id}n${i}`, midi, 'import')] } : other,
                  );
            const after =
              bpm === null
                ? { ...before, events }
                : { ...before, events, tempo: [{ at: quarter(0), bpm }] as Riff['tempo'] };
            riffs[riff] = after;
            versions.set(after, ++last);
            expect(arrives(taskOf(after, last))).toEqual(taskOf(after, last));
            if (again) expect(arrives(taskOf(after, last))).toEqual(taskOf(after, last));
            // An undo goes back to a riff that was handed over before.
            if (again) expect(arrives(taskOf(before, versions.get(before) ?? ++last)).riff).toEqual(before);
            if (!versions.has(before)) versions.set(before, last);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is the whole riff once, then its version, then what changed', () => {
    const { say } = both();
    const riff = riffOf('a', LONG);
    expect(say(taskOf(riff, 1))).toHaveProperty('riff');
    expect(say(taskOf(riff, 1))).toEqual({ version: 1 });
    const changed = {
      ...riff,
      events: riff.events.map((event, i) => (i === 3 ? { ...event, dur: quarter(1, 4) } : event)),
    };
    const asked = say(taskOf(changed, 2));
    expect(asked).toMatchObject({ version: 2, since: 1 });
    expect(JSON.stringify(asked).length).toBeLessThan(JSON.stringify(riff).length / 10);
  });

  it('is whole again where the riff’s own tempo changed, since the worker goes by the task’s', () => {
    const { arrives } = both();
    const riff = riffOf('a', LONG);
    arrives(taskOf(riff, 1));
    const faster = { ...riff, tempo: [{ at: quarter(0), bpm: 171 }] as Riff['tempo'] };
    const got = arrives(taskOf(faster, 2));
    expect(got.tempo).toEqual(tempoOf(document, faster));
    expect(got.tempo).not.toEqual(tempoOf(document, riff));
  });

  it('is whole again where anything else of it changed, told by value', () => {
    const { say, arrives } = both();
    const riff = riffOf('a', LONG);
    const task = taskOf(riff, 1);
    say(task);
    const other = { ...taskOf({ ...riff, name: 'b' }, 2), options: { ...task.options, openLiking: -1 } };
    expect(say(other)).toHaveProperty('riff');
    const same = { ...taskOf({ ...riff, name: 'c' }, 3), options: { ...other.options } };
    expect(say(same)).toMatchObject({ version: 3, since: 2 });
    expect(arrives({ ...task, version: 4, setup: { ...task.setup, absent: [1] } }).setup.absent).toEqual([1]);
  });

  it('that the worker does not know is an error, no answer about something else', () => {
    expect(() => new TaskMemory().task({ version: 4 })).toThrow(/never handed over/);
    const { say } = both();
    say(taskOf(riffOf('a', LONG), 1));
    expect(() => new TaskMemory().task(say(taskOf(riffOf('a', LONG), 1)))).toThrow(/version 1/);
  });
});
