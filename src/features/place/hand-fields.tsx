import type { Finger } from '@/core/base';
import { setSlideBar, setCents, setFingerOption, setTilt } from '@/core/command';
import { shownFret } from '@/core/instrument';
import { lengthLabel } from '@/core/rhythm';
import { quarter, type Quarter } from '@/core/time';
import { SelectField } from '@/ui/field';
import { Group, Micro, type Fields } from './technique-fields';

const KEEPS: readonly Quarter[] = [
  quarter(1, 2),
  quarter(1),
  quarter(3, 2),
  quarter(2),
  quarter(3),
  quarter(4),
  quarter(8),
];

const TREMOLOS: readonly Quarter[] = [quarter(1, 2), quarter(1, 4), quarter(1, 6), quarter(1, 8), quarter(1, 16)];

/** How it is reached, left and struck. */
export function PickingFields({ event, noteTechniques, set, manner }: Fields) {
  return (
    <Group name="Slides and the picking hand">
      <SelectField
        label="Slid into from"
        value={noteTechniques?.slideIn ?? ''}
        onChange={(event) => set({ slideIn: event.target.value === '' ? null : (event.target.value as 'lower') })}
      >
        <option value="">nowhere</option>
        <option value="lower">lower frets</option>
        <option value="higher">higher frets</option>
      </SelectField>
      <SelectField
        label="Slid off to"
        value={noteTechniques?.slideOut ?? ''}
        onChange={(event) => set({ slideOut: event.target.value === '' ? null : (event.target.value as 'lower') })}
      >
        <option value="">nowhere</option>
        <option value="lower">lower frets</option>
        <option value="higher">higher frets</option>
      </SelectField>
      <SelectField
        label="Stroke"
        value={event.stroke ?? ''}
        onChange={(event) => manner({ stroke: event.target.value === '' ? null : (event.target.value as 'down') })}
      >
        <option value="">by the school</option>
        {(
          [
            ['down', 'down'],
            ['up', 'up'],
            ['same', 'the one before carries on'],
            ['thumb', 'thumb (p)'],
            ['index', 'index (i)'],
            ['middle', 'middle (m)'],
            ['third', 'ring finger (a)'],
            ['slap', 'slap'],
            ['pop', 'pop'],
            ['brush-down', 'brush down'],
            ['brush-up', 'brush up'],
          ] as const
        ).map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </SelectField>
      <SelectField
        label="Chord"
        value={event.roll ?? (event.rake ? 'rake' : '')}
        onChange={(event) =>
          manner({
            roll:
              event.target.value === 'thick-first' || event.target.value === 'thin-first' ? event.target.value : null,
            rake: event.target.value === 'rake' ? true : null,
          })
        }
      >
        <option value="">at once</option>
        <option value="thick-first">rolled from thick</option>
        <option value="thin-first">rolled from thin</option>
        <option value="rake">raked into</option>
      </SelectField>
      <SelectField
        label="Tremolo"
        value={event.tremolo ?? ''}
        onChange={(event) => manner({ tremolo: TREMOLOS.find((at) => at === event.target.value) ?? null })}
      >
        <option value="">not</option>
        {(event.tremolo && !TREMOLOS.includes(event.tremolo) ? [event.tremolo, ...TREMOLOS] : TREMOLOS).map((at) => (
          <option key={at} value={at}>
            every {lengthLabel(at)}
          </option>
        ))}
      </SelectField>
    </Group>
  );
}

/** What the fretting hand does beside pressing. */
export function FrettingFields({
  piece,
  part,
  riff,
  event,
  note,
  target: ref,
  noteTechniques,
  set,
  edit,
  keyShown,
}: Fields) {
  return (
    <Group name="Fretting hand">
      <SelectField
        label="Finger stays"
        value={noteTechniques?.hold ?? ''}
        onChange={(event) => set({ hold: KEEPS.find((at) => at === event.target.value) ?? null })}
      >
        <option value="">while it sounds</option>
        {(noteTechniques?.hold && !KEEPS.includes(noteTechniques.hold) ? [noteTechniques.hold, ...KEEPS] : KEEPS).map(
          (at) => (
            <option key={at} value={at}>
              {at} quarters
            </option>
          ),
        )}
      </SelectField>
      <SelectField
        label="Another finger"
        value={String(note.place?.otherFinger ?? '')}
        disabled={!note.place?.finger}
        onChange={(event) =>
          edit(setFingerOption(piece, ref, event.target.value === '' ? null : (Number(event.target.value) as Finger)))
        }
      >
        <option value="">none</option>
        {[1, 2, 3, 4]
          .filter((f) => f !== note.place?.finger)
          .map((f) => (
            <option key={f} value={f}>
              or {f}
            </option>
          ))}
      </SelectField>
      <SelectField
        label="Stopped by"
        value={event.slideBar ? 'bar' : ''}
        onChange={(change) => edit(setSlideBar(piece, riff.id, [event.id], change.target.value === 'bar'))}
      >
        <option value="">fingers</option>
        <option value="bar">slide bar</option>
      </SelectField>
      {event.slideBar ? (
        <>
          <SelectField
            label="Bar tilted"
            value={String(event.tilt ?? 0)}
            onChange={(change) =>
              edit(
                setTilt(
                  piece,
                  riff.id,
                  event.id,
                  Number(change.target.value) === 0 ? null : Number(change.target.value),
                ),
              )
            }
          >
            {[...new Set([-20, -10, -5, 0, 5, 10, 20, event.tilt ?? 0])]
              .sort((a, b) => a - b)
              .map((d) => (
                <option key={d} value={d}>
                  {d === 0 ? 'straight' : `${Math.abs(d)}°, thin strings ${d > 0 ? 'higher' : 'lower'}`}
                </option>
              ))}
          </SelectField>
          <Micro
            key={`${note.id}${note.pitch.cents}bar`}
            label="Between frets"
            base={note.pitch.midi}
            fret={note.place ? shownFret(part.setup, note.place.string, note.place.fret, 'capo') : null}
            cents={note.pitch.cents === 0 ? null : note.pitch.cents}
            unsaid={false}
            keyShown={keyShown}
            onSet={(c) => edit(setCents(piece, ref, c ?? 0))}
            onUnsaid={null}
          />
        </>
      ) : null}
    </Group>
  );
}
