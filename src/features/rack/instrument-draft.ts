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

export function draftOfInstrument({ instrument: i, description, tones }: RackInstrument): InstrumentDraft {
  return {
    id: i.id,
    name: i.name,
    kind: i.kind,
    handed: i.handed,
    description,
    tones,
    scaleMm: String(i.scaleMm),
    frets: String(i.frets),
    easyFrets: String(i.easyFrets),
    nutSpacingMm: String(i.nutSpacingMm),
    bridgeSpacingMm: String(i.bridgeSpacingMm),
    strings: i.strings.map((s) => ({
      pitch: asciiPitch(s.pitch),
      gauge: String(s.gaugeMm),
      kind: s.kind,
      weight: s.unitWeight === undefined ? '' : String(s.unitWeight),
      scale: s.scaleMm === undefined ? '' : String(s.scaleMm),
      course: s.course === undefined ? 'none' : s.course.semitones === 0 ? 'unison' : 'octave',
      courseGauge: s.course ? String(s.course.gaugeMm) : '',
      courseKind: s.course?.kind ?? 'plain',
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
  for (const [i, s] of draft.strings.entries()) {
    const at = `strings.${draft.strings.length - i}`;
    const pitch = parsePitch(s.pitch);
    if (pitch === null)
      return fail(
        'bad-pitch',
        `String ${draft.strings.length - i}: "${s.pitch}" is no pitch. Write it with its octave, such as E2.`,
        at,
      );
    const gaugeMm = numberOf(s.gauge);
    if (Number.isNaN(gaugeMm))
      return fail('bad-gauge', `String ${draft.strings.length - i}: give a gauge in millimetres, such as 0.254.`, at);
    const courseGauge = numberOf(s.courseGauge);
    if (s.course !== 'none' && Number.isNaN(courseGauge))
      return fail('bad-gauge', `String ${draft.strings.length - i}: give the second string of the course a gauge.`, at);
    const weight = numberOf(s.weight);
    if (s.weight.trim() !== '' && Number.isNaN(weight))
      return fail('bad-weight', `String ${draft.strings.length - i}: "${s.weight}" is no unit weight in kg/m.`, at);
    const scale = numberOf(s.scale);
    if (s.scale.trim() !== '' && Number.isNaN(scale))
      return fail('bad-scale', `String ${draft.strings.length - i}: "${s.scale}" is no length in mm.`, at);
    strings.push({
      pitch,
      gaugeMm,
      kind: s.kind,
      ...(s.weight.trim() === '' ? {} : { unitWeight: weight }),
      ...(s.scale.trim() === '' ? {} : { scaleMm: scale }),
      ...(s.course === 'none'
        ? {}
        : { course: { semitones: s.course === 'unison' ? 0 : 12, gaugeMm: courseGauge, kind: s.courseKind } }),
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
    strings: draft.strings.map((s, i) =>
      draft.strings.length - i === string ? { ...s, gauge: String(question.instead) } : s,
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
