import { addPart, patchPart, removePart, setSetup } from './specs/parts';
import { patchContext, patchPiece, setForm } from './specs/piece';
import { placeNote, proposePlaces, putEvents } from './specs/events';
import { addRiff, patchRiff, removeRiff } from './specs/riffs';
import { addSection, patchSection, removeSection } from './specs/sections';

/** Every kind of edit there is, by the `type` its schema has. */
export const EDITS = {
  patchPiece,
  patchContext,
  setForm,
  addPart,
  removePart,
  patchPart,
  setSetup,
  addRiff,
  removeRiff,
  patchRiff,
  putEvents,
  placeNote,
  proposePlaces,
  addSection,
  removeSection,
  patchSection,
} as const;
