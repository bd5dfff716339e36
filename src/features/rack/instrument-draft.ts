import { fail, ok, type Result, pathOf } from '@/core/base';
import {
  checkInstrument,
  rackInstrumentSchema,
  type Instrument,
  type InstrumentKind,
  type InstrumentString,
  type Question,
  type RackInstrument,
  type StringKind,
  type Tone,
} from '@/core/instrument';
import { asciiPitch, parsePitch } from '@/core/pitch';

/** A string as it is being typed; all texts, so that nothing typed is lost while it is not yet right. */
export interface StringDraft {
  readonly pitch: string;
  readonly gauge: string;
  readonly kind: StringKind;
  readonly weight: string;
  readonly scale: string;
  readonly course: 'none' | 'unison' | 'octave';
  readonly courseGauge: string;
  readonly courseKind: StringKind;
}

/** An instrument as it is being typed. */
export interface InstrumentDraft {
  readonly id: string;
  readonly name: string;
  readonly kind: InstrumentKind;
  readonly scaleMm: string;
  readonly frets: string;
  readonly easyFrets: string;
  readonly nutSpacingMm: string;
  readonly bridgeSpacingMm: string;
  readonly handed: 'right' | 'left';
  readonly description: string;
  /** Thick to thin. */
  readonly strings: readonly StringDraft[];
  readonly tones: readonly Tone[];
}

export function draftOfInstrument({ instrument: one, description, tones }: RackInstrument): InstrumentDraft {
  return {
    id: one.id,
    name: one.name,
    kind: one.kind,
    handed: one.handed,
    description,
    tones,
    scaleMm: String(one.scaleMm),
    frets: String(one.frets),
    easyFrets: String(one.easyFrets),
    nutSpacingMm: String(one.nutSpacingMm),
    bridgeSpacingMm: String(one.bridgeSpacingMm),
    strings: one.strings.map((string) => ({
      pitch: asciiPitch(string.pitch),
      gauge: String(string.gaugeMm),
      kind: string.kind,
      weight: string.unitWeight === undefined ? '' : String(string.unitWeight),
      scale: string.scaleMm === undefined ? '' : String(string.scaleMm),
      course: string.course === undefined ? 'none' : string.course.semitones === 0 ? 'unison' : 'octave',
      courseGauge: string.course ? String(string.course.gaugeMm) : '',
      courseKind: string.course?.kind ?? 'plain',
    })),
  };
}

/** A number as typed: comma or point; NaN where it is none. */
export const numberOf = (text: string): number => (text.trim() === '' ? NaN : Number(text.trim().replace(',', '.')));

export interface ReadDraft {
  readonly rack: RackInstrument;
  readonly questions: readonly Question[];
}

/**
 * The instrument a draft stands for with what looks like slips; the fault names the field as `checkInstrument` does.
 */
export function readInstrumentDraft(draft: InstrumentDraft): Result<ReadDraft> {
  if (draft.name.trim() === '') return fail('no-name', 'Give the instrument a name.', 'name');
  const strings: InstrumentString[] = [];
  for (const [i, one] of draft.strings.entries()) {
    const at = `strings.${draft.strings.length - i}`;
    const pitch = parsePitch(one.pitch);
    if (pitch === null)
      return fail(
        'bad-pitch',
        `String ${draft.strings.length - i}: "${one.pitch}" is no pitch. Write it with its octave, such as E2.`,
        at,
      );
    const gaugeMm = numberOf(one.gauge);
    if (Number.isNaN(gaugeMm))
      return fail('bad-gauge', `String ${draft.strings.length - i}: give a gauge in millimetres, such as 0.254.`, at);
    const courseGauge = numberOf(one.courseGauge);
    if (one.course !== 'none' && Number.isNaN(courseGauge))
      return fail('bad-gauge', `String ${draft.strings.length - i}: give the second string of the course a gauge.`, at);
    const weight = numberOf(one.weight);
    if (one.weight.trim() !== '' && Number.isNaN(weight))
      return fail('bad-weight', `String ${draft.strings.length - i}: "${one.weight}" is no unit weight in kg/m.`, at);
    const scale = numberOf(one.scale);
    if (one.scale.trim() !== '' && Number.isNaN(scale))
      return fail('bad-scale', `String ${draft.strings.length - i}: "${one.scale}" is no length in mm.`, at);
    strings.push({
      pitch,
      gaugeMm,
      kind: one.kind,
      ...(one.weight.trim() === '' ? {} : { unitWeight: weight }),
      ...(one.scale.trim() === '' ? {} : { scaleMm: scale }),
      ...(one.course === 'none'
        ? {}
        : { course: { semitones: one.course === 'unison' ? 0 : 12, gaugeMm: courseGauge, kind: one.courseKind } }),
    });
  }
  const instrument: Instrument = {
    id: draft.id,
    name: draft.name.trim(),
    kind: draft.kind,
    strings,
    handed: draft.handed,
    scaleMm: numberOf(draft.scaleMm),
    frets: numberOf(draft.frets),
    easyFrets: numberOf(draft.easyFrets),
    nutSpacingMm: numberOf(draft.nutSpacingMm),
    bridgeSpacingMm: numberOf(draft.bridgeSpacingMm),
  };
  const checked = checkInstrument(instrument);
  if (!checked.ok) return checked;
  // Suspicious values are asked about first; a length in inches can't be kept, whatever is answered.
  const parsed = rackInstrumentSchema.safeParse({ instrument, description: draft.description, tones: draft.tones });
  if (!parsed.success && checked.value.length === 0) {
    const issue = parsed.error.issues[0];
    return fail('schema', `${issue?.path.join('.')}: ${issue?.message}`, { path: pathOf(issue?.path.slice(1)) });
  }
  return ok({
    rack: { instrument, description: draft.description.trim(), tones: draft.tones },
    questions: checked.value,
  });
}

/** Puts what was probably meant into the draft, for a question that knows it. */
export function mended(draft: InstrumentDraft, question: Question): InstrumentDraft {
  if (question.instead === null) return draft;
  if (question.at === 'scaleMm') return { ...draft, scaleMm: String(question.instead) };
  const string = Number(question.at.split('.')[1]);
  return {
    ...draft,
    strings: draft.strings.map((one, i) =>
      draft.strings.length - i === string ? { ...one, gauge: String(question.instead) } : one,
    ),
  };
}

/** One more string on the thick (a fourth lower) or the thin side (a fourth higher), with a gauge to match. */
export function withString(draft: InstrumentDraft, side: 'thick' | 'thin'): InstrumentDraft {
  const edge = side === 'thick' ? draft.strings[0] : draft.strings.at(-1);
  if (!edge) return draft;
  const pitch = (parsePitch(edge.pitch) ?? 40) + (side === 'thick' ? -5 : 5);
  const gauge = numberOf(edge.gauge) * (side === 'thick' ? 1.3 : 0.77);
  const added: StringDraft = {
    ...edge,
    pitch: asciiPitch(pitch),
    gauge: Number.isNaN(gauge) ? '' : gauge.toFixed(3),
    weight: '',
    course: 'none',
    courseGauge: '',
    scale: '',
  };
  return { ...draft, strings: side === 'thick' ? [added, ...draft.strings] : [...draft.strings, added] };
}

/** A blank tone note. */
export const newTone = (): Tone => ({
  name: 'New sound',
  goal: '',
  knobs: [{ device: 'amp', knob: 'gain', value: 5 }],
});

export const sameDraft = (a: InstrumentDraft, b: RackInstrument): boolean =>
  JSON.stringify(a) === JSON.stringify(draftOfInstrument(b));
