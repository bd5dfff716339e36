import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { setTempo, setTitle } from '@/core/command';
import { applyEdit } from '@/core/edit';
import { makeSetup } from '@/core/instrument';
import { makePart, makePiece, makeRiff, type Piece } from '@/core/score';
import { ZERO } from '@/core/time';
import { CheckMemory, CheckSender, type SentPiece } from './check-memory';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const piece = makePiece('p', 'Moth', {
  parts: [
    makePart('a', 'Guitar 1', setup, { riffs: [makeRiff('r1', 'Lamp'), makeRiff('r2', 'Wing')] }),
    makePart('b', 'Guitar 2', setup, { riffs: [makeRiff('r3', 'Chop')] }),
  ],
});
/** As it comes out of a message: other objects that say the same. */
const posted = (sent: SentPiece): SentPiece => structuredClone(sent);

describe('a piece on its way to the check', () => {
  it('comes out as it went in, and again with the same objects for what did not change', () => {
    const [sender, memory] = [new CheckSender(), new CheckMemory()];
    const first = memory.receive(posted(sender.send(piece)));
    expect(first).toEqual(piece);
    const [part, ...others] = piece.parts;
    const [riff, ...rest] = part?.riffs ?? [];
    if (!part || !riff) throw new Error('no riff');
    const changed: Piece = {
      ...piece,
      parts: [{ ...part, riffs: [{ ...riff, name: 'Lantern' }, ...rest] }, ...others],
    };
    const sent = sender.send(changed);
    // Only the riff that changed goes over.
    expect(sent.parts.flatMap(({ riffs }) => riffs.map((one) => typeof one))).toEqual(['object', 'number', 'number']);
    const second = memory.receive(posted(sent));
    expect(second).toEqual(changed);
    expect(second.parts[1]).toBe(first.parts[1]);
    expect(second.parts[0]?.riffs[1]).toBe(first.parts[0]?.riffs[1]);
    expect(second.parts[0]?.setup).toBe(first.parts[0]?.setup);
    expect(second.context).toBe(first.context);
  });

  it('keeps all parts where only the frame changed, and drops what was taken out', () => {
    const [sender, memory] = [new CheckSender(), new CheckMemory()];
    const first = memory.receive(posted(sender.send(piece)));
    const titled = must(applyEdit(must(applyEdit(piece, setTitle('Lamp'))), setTempo([{ at: ZERO, bpm: 77 }])));
    const second = memory.receive(posted(sender.send(titled)));
    expect(second).toEqual(titled);
    expect(second.parts).toBe(first.parts);
    const fewer = { ...titled, parts: titled.parts.slice(0, 1) };
    expect(memory.receive(posted(sender.send(fewer)))).toEqual(fewer);
  });

  it('says so where a riff was never sent, and goes on with a sender that begins anew', () => {
    const memory = new CheckMemory();
    const sender = new CheckSender();
    sender.send(piece);
    expect(() => memory.receive(posted(sender.send(piece)))).toThrow('never sent');
    expect(memory.receive(posted(new CheckSender().send(piece)))).toEqual(piece);
  });
});
