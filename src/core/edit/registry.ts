import { addPart, patchPart, removePart, setSetup } from './part-edits';
import { patchContext, patchPiece, setForm } from './piece-edits';
import { placeNote, proposePlaces, putEvents } from './event-edits';
import { patchEvents } from './patch-events';
import { addRiff, moveRiff, patchRiff, removeRiff } from './riff-edits';
import { answerFinding, putClaim, putHearing } from './said-edits';
import { addSection, patchSection, removeSection } from './section-edits';

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
  moveRiff,
  patchRiff,
  putEvents,
  patchEvents,
  placeNote,
  proposePlaces,
  addSection,
  removeSection,
  patchSection,
  putClaim,
  answerFinding,
  putHearing,
} as const;
