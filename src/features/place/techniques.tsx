import type { Result } from '@/core/base';
import { setBar, setCents, setTech, type Edit, type NoteRef } from '@/core/edit';
import { bendEffort, nutOf } from '@/core/instrument';
import { frequency } from '@/core/pitch';
import type { Note, Part, Piece, Riff, RiffEvent } from '@/core/score';
import { quarter, type Quarter } from '@/core/time';
import { SelectField } from '@/ui/field';

interface Props {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
  readonly edit: (made: Result<Edit>) => boolean;
}

const BENDS: readonly (readonly [number, string])[] = [[50, 'a quarter tone'], [100, 'a half tone'], [150, 'a tone less a quarter'], [200, 'a whole tone'], [300, 'a tone and a half'], [400, 'two tones']];
const KEEPS: readonly Quarter[] = [quarter(1, 2), quarter(1), quarter(3, 2), quarter(2), quarter(3), quarter(4), quarter(8)];

/** What is done to a note beyond striking it: bent, trilled, damped, touched, kept down, with the bar. */
export function Techniques({ piece, part, riff, event, note, edit }: Props) {
  const ref: NoteRef = { riff: riff.id, event: event.id, note: note.id };
  const { tech } = note;
  const kind = tech?.dead ? 'dead' : tech?.harmonic ? 'harmonic' : '';
  const bends = tech?.bend && !BENDS.some(([c]) => c === tech.bend) ? [[tech.bend, `${tech.bend} cents`] as const, ...BENDS] : BENDS;
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      <SelectField label="Sounds as" value={kind} onChange={(e) => edit(setTech(piece, ref, { dead: e.target.value === 'dead' ? true : null, harmonic: e.target.value === 'harmonic' ? true : null }))}>
        <option value="">a note</option>
        <option value="dead">dead, a click</option>
        <option value="harmonic">natural harmonic</option>
      </SelectField>
      <SelectField label="Bent up" value={tech?.bend ? String(tech.bend) : ''} disabled={kind !== ''} onChange={(e) => edit(setTech(piece, ref, { bend: e.target.value === '' ? null : Number(e.target.value) }))}>
        <option value="">not</option>
        {bends.map(([c, words]) => <option key={c} value={c}>{words}</option>)}
      </SelectField>
      <SelectField label="Trilled" value={tech?.trill ? String(tech.trill) : ''} disabled={kind !== ''} onChange={(e) => edit(setTech(piece, ref, { trill: e.target.value === '' ? null : Number(e.target.value) }))}>
        <option value="">not</option>
        {Array.from({ length: 5 }, (_, i) => i + 1).map((n) => <option key={n} value={n}>{n} fret{n === 1 ? '' : 's'} up</option>)}
      </SelectField>
      <SelectField label="Finger stays" value={tech?.keep ?? ''} disabled={kind !== ''} onChange={(e) => edit(setTech(piece, ref, { keep: KEEPS.find((k) => k === e.target.value) ?? null }))}>
        <option value="">while it sounds</option>
        {(tech?.keep && !KEEPS.includes(tech.keep) ? [tech.keep, ...KEEPS] : KEEPS).map((k) => <option key={k} value={k}>{k} quarters</option>)}
      </SelectField>
      <SelectField label="Stopped by" value={event.bar ? 'bar' : ''} onChange={(e) => edit(setBar(piece, riff.id, [event.id], e.target.value === 'bar'))}>
        <option value="">fingers</option>
        <option value="bar">slide bar</option>
      </SelectField>
      {event.bar ? (
        <SelectField label="Between frets" value={String(note.pitch.cents)} onChange={(e) => edit(setCents(piece, ref, Number(e.target.value)))}>
          {[...new Set([-50, -25, 0, 25, 50, note.pitch.cents])].sort((a, b) => a - b).map((c) => <option key={c} value={c}>{c === 0 ? 'on the fret' : `${Math.abs(c)} cents ${c < 0 ? 'flat' : 'sharp'}`}</option>)}
        </SelectField>
      ) : null}
      {tech?.bend ? <BendNote part={part} note={note} cents={tech.bend} /> : null}
    </div>
  );
}

/** What a bend asks of the finger here, with the usual caution where it is much. */
function BendNote({ part, note, cents }: { readonly part: Part; readonly note: Note; readonly cents: number }) {
  const { setup } = part;
  const { place } = note;
  const make = place ? setup.instrument.strings[setup.instrument.strings.length - place.string] : undefined;
  if (!place || !make || place.fret === 0) return null;
  const nut = nutOf(setup, place.string);
  const effort = bendEffort({ make, scaleMm: make.scaleMm ?? setup.instrument.scaleMm, openHz: frequency(setup.open[setup.open.length - place.string] ?? 0), fret: place.fret + nut, nut, cents });
  if (!effort.ok) return null;
  const hard = effort.value.ease === 'hard' || effort.value.ease === 'very hard';
  return (
    <p className="col-span-2 text-sm text-soft">
      This bend asks about {Math.round(effort.value.newtons)} N: {effort.value.ease}.{hard ? ' Stop at pain; lighter strings, a place further from the nut or a helping finger ease it.' : ''}
    </p>
  );
}
