import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { addVariant, insertPart, removeEvents, setTitle } from '@/core/command';
import { makeSetup } from '@/core/instrument';
import { findRiff, makeEvent, makeNote, makePart, makePlace, makeRiff } from '@/core/score';
import { quarter } from '@/core/time';
import { FakeDevice, FakeServer, openWindow } from './test-support/world';
import { createVariantStore, followBase } from './variant-store';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A piece with one riff of three notes and an empty variant of it, open in a window. */
function opened() {
  const { store } = openWindow(new FakeServer(), new FakeDevice());
  const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
  const events = [0, 1, 2].map((at) =>
    makeEvent(`e${at}`, quarter(at), quarter(1), [
      makeNote(`n${at}`, 45 + at, 'instructor', { place: makePlace(5, at, 'solver') }),
    ]),
  );
  const made = insertPart(
    store.getState().document,
    makePart('p', 'Guitar', setup, { riffs: [makeRiff('r', 'Riff', { events })] }),
  );
  must(store.getState().dispatch(made.edit));
  const riff = made.part.riffs[0]?.id ?? '';
  const variant = must(addVariant(store.getState().document, riff, 'last time'));
  must(store.getState().dispatch(variant.edit));
  const shown = createVariantStore(store, riff, variant.id);
  const stop = followBase(shown, store);
  const count = (of: typeof store): number => findRiff(of.getState().document, riff)?.riff.events.length ?? -1;
  const idAt = (of: typeof store, at: number): string =>
    findRiff(of.getState().document, riff)?.riff.events[at]?.id ?? '';
  return { store, shown, stop, riff, part: made.part.id, count, idAt };
}

describe('a piece worked on as a variant', () => {
  it('keeps what is changed in the variant, and what is done elsewhere in the piece; undo goes one way', () => {
    const { store, shown, stop, riff, count, idAt } = opened();
    const { title } = store.getState().document;
    must(shown.getState().dispatch(must(removeEvents(shown.getState().document, riff, [idAt(shown, 2)]))));
    expect([count(shown), count(store)]).toEqual([2, 3]);
    expect(store.getState().lines.at(-1)).toContain('"last time"');
    must(shown.getState().dispatch(setTitle('Elsewhere')));
    expect(store.getState().document.title).toBe('Elsewhere');
    shown.getState().undo();
    shown.getState().undo();
    expect([count(shown), store.getState().document.title]).toEqual([3, title]);
    // A correction of the riff is seen in the variant.
    must(store.getState().dispatch(must(removeEvents(store.getState().document, riff, [idAt(store, 0)]))));
    expect(count(shown)).toBe(2);
    stop();
    must(store.getState().dispatch(setTitle('Unseen')));
    expect(shown.getState().document.title).not.toBe('Unseen');
  });

  it('takes the program’s proposals for what the variant has changed, and none for what it takes from its riff', () => {
    const { store, shown, riff, part } = opened();
    const places = (findRiff(shown.getState().document, riff)?.riff.events ?? []).map((event) => ({
      note: event.notes[0]?.id ?? '',
      place: makePlace(6, (event.notes[0]?.pitch.midi ?? 40) - 40, 'solver', { finger: 1 }),
    }));
    const before = store.getState().document;
    shown.getState().follow({ type: 'proposePlaces', part, riff, places });
    expect(store.getState().document).toBe(before);
    expect(shown.getState().dispatch({ type: 'removeRiff', part, riff }).ok).toBe(false);
  });
});
