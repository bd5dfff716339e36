import { BEND_SHAPES, bendShapes, bendShapeOf, chordBend, type Note, type Part } from '@/core/score';
import { bendEffort, nutOf, shownFret } from '@/core/instrument';
import { frequency } from '@/core/pitch';
import { SelectField } from '@/ui/field';
import { Group, Micro, type Fields } from './technique-fields';

/** How a note is bent and shaken. */
export function BendFields({ event, part, note, noteTechniques, set, keyShown }: Fields) {
  const together = chordBend(event);
  return (
    <Group name="Bend">
      <Micro
        key={`${note.id}${noteTechniques?.bend ?? ''}`}
        label="Bent up to"
        base={note.pitch.midi}
        fret={note.place ? shownFret(part.setup, note.place.string, note.place.fret, 'capo') : null}
        cents={noteTechniques?.bend ?? null}
        unsaid={noteTechniques?.unspecified?.includes('bend') ?? false}
        keyShown={keyShown}
        onSet={(bend) => set({ bend, unspecified: null })}
        onUnsaid={() =>
          set({
            bend: null,
            unspecified: [
              ...(noteTechniques?.trill === undefined && noteTechniques?.unspecified?.includes('trill')
                ? ['trill' as const]
                : []),
              'bend',
            ],
          })
        }
      />
      <SelectField
        label="Shape"
        value={
          noteTechniques?.bend
            ? (bendShapeOf(noteTechniques) ?? 'own')
            : noteTechniques?.unspecified?.includes('bend')
              ? (noteTechniques.bendShape ?? 'up')
              : ''
        }
        disabled={!noteTechniques?.bend && !noteTechniques?.unspecified?.includes('bend')}
        onChange={(event) => {
          const value = event.target.value;
          if (!noteTechniques?.bend) set({ bendShape: BEND_SHAPES.find((shape) => shape === value) ?? null });
          else
            set({
              bendCurve:
                value === 'up'
                  ? null
                  : [...(bendShapes(noteTechniques.bend)[value as keyof ReturnType<typeof bendShapes>] ?? [])],
            });
        }}
      >
        <option value="up">up</option>
        <option value="released">up and released</option>
        <option value="again">released, bent again</option>
        <option value="prebend">bent before</option>
        <option value="prebend-released">bent before, released</option>
        {noteTechniques && bendShapeOf(noteTechniques) === null ? (
          <option value="own">a curve of its own</option>
        ) : null}
      </SelectField>
      <SelectField
        label="The finger"
        value={noteTechniques?.bendDirection ?? ''}
        disabled={!noteTechniques?.bend && !noteTechniques?.unspecified}
        onChange={(event) =>
          set({ bendDirection: event.target.value === '' ? null : (event.target.value as 'thick' | 'thin') })
        }
      >
        <option value="">either way</option>
        <option value="thick">pushes, to the thick strings</option>
        <option value="thin">pulls, to the thin strings</option>
      </SelectField>
      <SelectField
        label="Vibrato"
        value={String(noteTechniques?.vibrato ?? '')}
        onChange={(event) => set({ vibrato: event.target.value === '' ? null : Number(event.target.value) })}
      >
        <option value="">none</option>
        {[...new Set([20, 40, 80, 120, ...(noteTechniques?.vibrato ? [noteTechniques.vibrato] : [])])]
          .sort((a, b) => a - b)
          .map((c) => (
            <option
              key={c}
              value={c}
            >{`${({ 20: 'narrow, ', 40: 'usual, ', 80: 'wide, ', 120: 'very wide, ' } as Record<number, string>)[c] ?? ''}${c} cents`}</option>
          ))}
      </SelectField>
      {together ? (
        <p className="col-span-2 text-sm text-soft">
          {
            {
              unison: 'A unison bend: it reaches the other note.',
              octave: 'Bent to the octave of the other note.',
              together: 'Two strings bent together.',
            }[together]
          }
        </p>
      ) : null}
      {noteTechniques?.bend ? <BendNote part={part} note={note} cents={noteTechniques.bend} /> : null}
    </Group>
  );
}

/** What a bend asks of the finger here, with the usual caution where it is much. */
function BendNote({ part, note, cents }: { readonly part: Part; readonly note: Note; readonly cents: number }) {
  const { setup } = part;
  const { place } = note;
  const make = place ? setup.instrument.strings[setup.instrument.strings.length - place.string] : undefined;
  if (!place || !make || place.fret === 0) return null;
  const nut = nutOf(setup, place.string);
  const effort = bendEffort({
    make,
    scaleMm: make.scaleMm ?? setup.instrument.scaleMm,
    openHz: frequency(setup.open[setup.open.length - place.string] ?? 0),
    fret: place.fret + nut,
    nut,
    cents,
  });
  if (!effort.ok) return null;
  const hard = effort.value.ease === 'hard' || effort.value.ease === 'very hard';
  return (
    <p className="col-span-2 text-sm text-soft">
      This bend asks about {Math.round(effort.value.newtons)} N: {effort.value.ease}.
      {hard ? ' Stop at pain; lighter strings, a place further from the nut or a helping finger ease it.' : ''}
    </p>
  );
}
