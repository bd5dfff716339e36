import { createStore, type StoreApi } from 'zustand/vanilla';
import { editAsVariant, pieceAsVariant, proposalsForVariant } from '@/core/command';
import { describeEdit } from '@/core/edit';
import type { PieceState } from './store';

/** The state of a piece as one of its variants: its document shows the variant, its edits go into the variant. */
function shownAs(base: StoreApi<PieceState>, riff: string, variant: string): PieceState {
  const state = base.getState();
  return {
    ...state,
    document: pieceAsVariant(state.document, riff, variant) ?? state.document,
    dispatch: (edit, what) => {
      const { document, dispatch } = base.getState();
      const made = editAsVariant(document, riff, variant, edit);
      if (!made.ok) return made;
      const shown = pieceAsVariant(document, riff, variant);
      const name = shown?.parts
        .flatMap((part) => part.riffs)
        .find((one) => one.id === riff)
        ?.variants?.find((one) => one.id === variant)?.name;
      return dispatch(
        made.value,
        what ?? (shown ? `${describeEdit(shown, edit)} in "${name ?? 'the variant'}"` : undefined),
      );
    },
    follow: (edit) => {
      const { document, follow } = base.getState();
      const own = proposalsForVariant(document, riff, variant, edit);
      const made = own && editAsVariant(document, riff, variant, own);
      if (made?.ok) follow(made.value);
    },
  };
}

const sources = new WeakMap<StoreApi<PieceState>, () => PieceState>();

/** A store beside a piece's own, which shows the piece as a variant. */
export function createVariantStore(base: StoreApi<PieceState>, riff: string, variant: string): StoreApi<PieceState> {
  const show = (): PieceState => shownAs(base, riff, variant);
  const store = createStore<PieceState>(show);
  sources.set(store, show);
  return store;
}

/** Keeps such a store in step with the piece's own; gives what ends it. */
export function followBase(store: StoreApi<PieceState>, base: StoreApi<PieceState>): () => void {
  const look = (): void => {
    const show = sources.get(store);
    if (show) store.setState(show(), true);
  };
  look();
  return base.subscribe(look);
}
