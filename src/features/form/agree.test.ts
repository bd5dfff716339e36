import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { callRiff } from '@/core/callout';
import { differencesOf, momentAt, readTogether, resolve, sheetOf, type Line } from '@/core/form';
import { formArbitrary } from '@/core/form/test-support/arbitrary';
import { barFindings } from '@/core/rhythm';
import type { Piece } from '@/core/score';
import { playedNotes, Stream } from '@/core/synth';
import { barOf, cmp, secondsAt, sub, ZERO, type Quarter } from '@/core/time';

/** Lines of generated forms that have something to play. */
const linesOf = (piece: Piece): Line[] =>
  piece.parts.flatMap((part) => {
    const line = resolve(piece, part.id);
    return line && line.riff.events.length > 0 ? [line] : [];
  });

describe('one form: played, printed, spoken and checked', () => {
  it('the player sounds every note of the line at its time, and what is spoken and summed has the same bars', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        for (const { riff, part, map } of linesOf(piece)) {
          const from = riff.pickup === ZERO ? ZERO : (`-${riff.pickup}` as Quarter);
          const played = playedNotes({ ...riff, feel: undefined }, part.setup, map.tempo, {
            from,
            to: map.end,
            speed: 1,
          });
          const wanted = riff.events.filter((event) => event.notes.length > 0 && cmp(event.at, from) >= 0);
          expect(new Set(played.map((note) => note.event))).toEqual(new Set(wanted.map((event) => event.id)));
          const lead = secondsAt(map.tempo, from);
          for (const note of played) {
            const event = riff.events.find((one) => one.id === note.event);
            expect(note.at).toBeCloseTo(secondsAt(map.tempo, event?.at ?? ZERO) - lead, 6);
          }
          const bars = new Set(riff.events.map((event) => barOf(map.meters, event.at).bar));
          const spoken = callRiff(riff, part.setup).filter((words) => !words.startsWith('Throughout'));
          expect(spoken).toHaveLength(bars.size);
          for (const { locus } of barFindings(riff)) expect(bars.has(locus.bar)).toBe(true);
          for (const event of riff.events.slice(0, 5))
            expect(momentAt(map, event.at).bar).toBe(barOf(map.meters, event.at).bar);
        }
      }),
      { numRuns: 80 },
    );
  });

  it('the sheet prints every play once or names where it stands, endings and all; unfolded, bar for bar', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        for (const line of linesOf(piece)) {
          const folded = sheetOf(piece, line.part.id, { unfolded: false });
          const played = line.spans.filter((span) => span.riff !== null);
          expect(folded.covers.map((cover) => cover.span).sort((a, b) => a - b)).toEqual(
            played.map((span) => span.index),
          );
          const printed = folded.sections.flatMap((section) => section.blocks);
          for (const { span: index, block, ending } of folded.covers) {
            const span = line.spans[index];
            if (!span) throw new Error('no such play');
            for (const one of [block, ...(ending ? [ending] : [])]) expect(printed.includes(one)).toBe(true);
            const own = line.riff.events
              .filter((event) => line.origins.get(event.id)?.span === index)
              .map((event) => ({ ...event, at: sub(event.at, span.from) }));
            const read = readTogether(block, ending);
            // A play that is cut short reads as far as it goes.
            const cut = sub(span.to, span.from);
            const short = read.filter((event) => cmp(event.at, cut) < 0);
            expect(differencesOf(own.length < read.length ? short.slice(0, own.length) : read, own)).toEqual([]);
          }
          const whole = sheetOf(piece, line.part.id, { unfolded: true });
          const music = whole.sections.flatMap((section) =>
            section.blocks.flatMap((block) => (block.kind === 'music' ? [block] : [])),
          );
          const bars = music.flatMap((block) => Array.from({ length: block.riff.bars }, (_, i) => block.bar + i));
          expect(bars).toEqual(Array.from({ length: line.map.bars }, (_, i) => i + 1));
          expect(music.reduce((sum, block) => sum + block.riff.events.length, 0)).toBe(line.riff.events.length);
        }
      }),
      { numRuns: 80 },
    );
  });

  it('a stream of all parts runs as long as the form says, whatever its tempi', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        const lines = linesOf(piece);
        const [lead] = lines;
        if (!lead || secondsAt(lead.map.tempo, lead.map.end) > 40) return;
        const rate = 800;
        const stream = new Stream({
          ...{
            rate,
            tempo: lead.map.tempo,
            from: ZERO,
            to: lead.map.end,
            begin: ZERO,
            countIn: 0,
            double: false,
            seed: 1,
          },
          tracks: lines.map(({ part, riff }) => ({ setup: part.setup, versions: [{ ...riff, feel: undefined }] })),
          rungs: [{ speed: 1, times: 1 }],
        });
        let frames = 0;
        for (let block = stream.next(rate); block; block = stream.next(rate)) frames += block.click.length;
        expect(Math.abs(frames / rate - secondsAt(lead.map.tempo, lead.map.end))).toBeLessThan(0.02);
      }),
      { numRuns: 12 },
    );
  });
});
