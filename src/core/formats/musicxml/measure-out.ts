import { endOf, type Join, type RiffEvent } from '../../score';
import type { Sign, StaffBar } from '../../staff';
import { cmp, type Quarter } from '../../time';
import { kindElement, noteElement, restElement, type WrittenTime } from './note-out';
import { el } from './xml-out';

/** How many divisions lie between two times. */
export type Divided = ((from: Quarter, to: Quarter) => number) & { readonly divisions: number };

export interface VoiceBar {
  readonly number: number;
  readonly bar: StaffBar;
  readonly events: readonly RiffEvent[];
}

/**
 * The notes of one measure, voice by voice. `staff`: its number where a part has two; `placed`: with strings and frets,
 * which on a part of two staves stand in the tab alone.
 */
export function measureNotes(
  voices: readonly VoiceBar[],
  span: { readonly from: Quarter; readonly to: Quarter },
  divided: Divided,
  joins: ReadonlyMap<string, Join>,
  staff: number | null,
  placed: boolean,
): string[] {
  const out: string[] = [];
  let written = false;
  for (const voice of voices) {
    if (voice.number > 1 && voice.bar.signs.every((sign) => sign.event === null)) continue;
    if (written) out.push(el('backup', {}, [el('duration', {}, divided(span.from, span.to))]));
    written = true;
    out.push(...voiceNotes(voice, span, divided, joins, staff, placed));
  }
  if (!written && cmp(span.from, span.to) < 0)
    out.push(
      withStaff(
        el('note', {}, [el('rest'), el('duration', {}, divided(span.from, span.to)), el('voice', {}, 1)]),
        staff,
      ),
    );
  return out;
}

const withStaff = (note: string, staff: number | null): string => (staff === null ? note : insertStaff(note, staff));

/** The staff's number stands behind voice, sign, dots, tuplet and head, before beams and notations. */
function insertStaff(note: string, staff: number): string {
  const at = /<(beam|notations|play)\b|<\/note>/.exec(note)?.index ?? note.length;
  return `${note.slice(0, at)}<staff>${staff}</staff>${note.slice(at)}`;
}

function voiceNotes(
  { number, bar, events }: VoiceBar,
  span: { readonly from: Quarter; readonly to: Quarter },
  divided: Divided,
  joins: ReadonlyMap<string, Join>,
  staff: number | null,
  placed: boolean,
): string[] {
  // Voices 1 to 4 stand on the first staff, 5 to 8 on the second, as programs expect.
  const voice = staff === 2 ? number + 8 : number;
  const out: string[] = [];
  bar.signs.forEach((sign, i) => {
    const next = bar.signs[i + 1];
    const end = next?.at ?? span.to;
    const event = events.find((one) => one.id === sign.event && !one.grace) ?? null;
    const tied = event !== null && (next ? next.event === sign.event : cmp(end, endOf(event)) < 0);
    const tuplet = bar.tuplets.find((one) => one.from <= i && i <= one.to);
    const beam = bar.beams.find((group) => group.includes(i));
    const time: WrittenTime = {
      sign: { base: sign.base, dots: sign.dots, tied },
      ...{ duration: divided(sign.at, end), voice },
      tuplet: tuplet
        ? { notes: tuplet.notes, time: tuplet.time, starts: tuplet.from === i, stops: tuplet.to === i }
        : null,
      beam: beam ? (beam[0] === i ? 'begin' : beam.at(-1) === i ? 'end' : 'continue') : null,
    };
    if (!event) {
      if (number > 1) out.push(el('forward', {}, [el('duration', {}, divided(sign.at, end))]));
      else out.push(withStaff(restElement(time), staff));
      return;
    }
    const begins = sign.at === event.at;
    if (begins) out.push(...graceNotes(sign, events, joins, voice, staff, placed));
    if (begins && event.dynamic && staff !== 2)
      out.push(
        el('direction', { placement: 'below' }, [el('direction-type', {}, [el('dynamics', {}, [el(event.dynamic)])])]),
      );
    if (event.kind) {
      out.push(withStaff(kindElement(event, time, begins), staff));
      return;
    }
    sign.heads.forEach((head, k) => {
      const note = event.notes.find((one) => one.id === head.note);
      if (!note) return;
      const shown = placed ? note : { ...note, place: null };
      const joined = { into: begins ? (joins.get(note.id) ?? null) : null, on: tied ? null : (note.join ?? null) };
      const written = { note: shown, event, head, joined, first: k === 0, begins, ends: !tied };
      out.push(withStaff(noteElement(written, time), staff));
    });
  });
  return out;
}

function graceNotes(
  sign: Sign,
  events: readonly RiffEvent[],
  joins: ReadonlyMap<string, Join>,
  voice: number,
  staff: number | null,
  placed: boolean,
): string[] {
  return sign.graces.flatMap((grace) => {
    const event = events.find((one) => one.id === grace.event);
    if (!event) return [];
    const time: WrittenTime = {
      ...{ sign: { base: 8, dots: 0, tied: false }, duration: null, voice, tuplet: null, beam: null },
    };
    return grace.heads.flatMap((head, k) => {
      const note = event.notes.find((one) => one.id === head.note);
      if (!note) return [];
      const shown = placed ? note : { ...note, place: null };
      const joined = { into: joins.get(note.id) ?? null, on: note.join ?? null };
      return [
        withStaff(
          noteElement({ note: shown, event, head, joined, first: k === 0, begins: true, ends: true }, time),
          staff,
        ),
      ];
    });
  });
}
