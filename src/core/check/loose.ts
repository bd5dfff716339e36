import { ok, type Finding, type Result } from '../base';
import { placeInBars } from '../rhythm';
import { checkEvent, readPiece, readUnchecked, type Note, type Piece, type RiffEvent } from '../score';
import { pitchOf, placeWords } from './places';
import { asked, type CheckFinding } from './types';

/** A piece read in spite of notes whose name and place don't agree, with a question about each of them. */
export interface LooselyRead {
  readonly piece: Piece;
  readonly findings: readonly CheckFinding[];
}

/**
 * Reads a document for proof-reading. What no document of the program holds (a pitch that its place doesn't sound, two
 * notes on one string, a finger on an open string) is no reason to refuse it here: the place is left open and asked
 * about. Everything else that `readPiece` refuses is refused.
 */
export function readLoosely(json: unknown): Result<LooselyRead> {
  const strict = readPiece(json);
  if (strict.ok) return ok({ piece: strict.value, findings: [] });
  const raw = readUnchecked(json);
  if (!raw.ok) return raw;
  const findings: CheckFinding[] = [];
  const parts = raw.value.parts.map((part) => ({
    ...part,
    riffs: part.riffs.map((riff) => ({
      ...riff,
      events: riff.events.map((event) =>
        settled(
          event,
          (fault, note) => {
            const where = placeInBars(riff.meters, event.at);
            findings.push(
              asked('name-place', {
                locus: { part: part.id, riff: riff.id, event: event.id, ...(note ? { note: note.id } : {}) },
                about: [note?.id ?? event.id, fault.rule],
                ground: [note?.pitch.midi, note?.place?.string, note?.place?.fret, fault.rule],
                severity: 'error',
                words: note
                  ? `At ${where} of "${riff.name}" ${pitchOf(note.pitch.midi, riff.key ?? null)} is named and ${placeWords(note)} said, which don’t agree in this tuning: which is right?`
                  : `At ${where} of "${riff.name}": ${fault.words}`,
                evidence: fault.words,
                likely: 0.95,
              }),
            );
          },
          (one) => checkEvent(one, part.setup),
        ),
      ),
    })),
  }));
  const read = readPiece({ ...raw.value, parts });
  return read.ok ? ok({ piece: read.value, findings }) : read;
}

/** The event with the places that can't be left out of it, each told. */
function settled(
  event: RiffEvent,
  tell: (fault: Finding, note: Note | null) => void,
  check: (event: RiffEvent) => Result<RiffEvent>,
): RiffEvent {
  let current = event;
  for (let tries = 0; tries <= event.notes.length; tries++) {
    const checked = check(current);
    if (checked.ok) return current;
    const note = current.notes.find((one) => one.id === checked.error.locus.note) ?? null;
    if (!note?.place) return current;
    tell(checked.error, note);
    current = { ...current, notes: current.notes.map((one) => (one === note ? { ...note, place: null } : one)) };
  }
  return current;
}
