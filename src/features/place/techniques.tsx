import { useState, type ReactNode } from 'react';
import type { Finger, Result } from '@/core/base';
import {
  setSlideBar,
  setCents,
  setFingerOption,
  setArticulation,
  setTechnique,
  setTilt,
  type ArticulationChange,
  type NoteRef,
} from '@/core/command';
import {
  type TechniqueChange,
  BEND_SHAPES,
  bendShapes,
  EVENT_SPECS,
  NOTE_SPECS,
  type EventSpec,
  type EventTechnique,
  type Flag,
  type NoteSpec,
  type NoteTechnique,
  bendShapeOf,
  chordBend,
  PINCHED,
  type Note,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
} from '@/core/score';
import type { Edit } from '@/core/edit';
import { bendEffort, nutOf, shownFret } from '@/core/instrument';
import { frequency, microtone, microtoneWords, parseMicrotone, type Key } from '@/core/pitch';
import { lengthLabel } from '@/core/rhythm';
import { quarter, type Quarter } from '@/core/time';
import { useSchools } from '@/ui/schools';
import { SelectField, TextField } from '@/ui/field';

interface Props {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
  readonly keyShown: Key | null;
  readonly edit: (made: Result<Edit>) => boolean;
}

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

/** What the groups of fields work on and with. */
interface Fields extends Props {
  readonly target: NoteRef;
  readonly noteTechniques: Note['technique'];
  readonly set: (change: TechniqueChange) => boolean;
  readonly manner: (change: ArticulationChange) => boolean;
}

/**
 * What is done to a note and its event beyond striking it. Every field refuses what no hand can do, with the reason.
 */
export function Techniques(props: Props) {
  const { piece, riff, event, note, edit } = props;
  const ref: NoteRef = { riff: riff.id, event: event.id, note: note.id };
  const fields: Fields = {
    ...props,
    target: ref,
    noteTechniques: note.technique,
    set: (change) => edit(setTechnique(piece, ref, change)),
    manner: (change) => edit(setArticulation(piece, riff.id, [event.id], change)),
  };
  return (
    <div className="flex flex-col gap-3">
      <BendFields {...fields} />
      <SoundFields {...fields} />
      <PickingFields {...fields} />
      <FrettingFields {...fields} />
      <FlagFields {...fields} />
    </div>
  );
}

/** How a note is bent and shaken. */
function BendFields({ event, part, note, noteTechniques: noteTechniques, set, keyShown }: Fields) {
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

/** What kind of sound a note is, how loud and how long. */
function SoundFields({ event, noteTechniques: noteTechniques, set, manner }: Fields) {
  const kind = noteTechniques?.dead
    ? 'dead'
    : noteTechniques?.harmonic
      ? 'harmonic'
      : noteTechniques?.pinched
        ? `pinched${noteTechniques.pinched}`
        : '';
  return (
    <Group name="Sound">
      <SelectField
        label="Sounds as"
        value={kind}
        onChange={(event) => {
          const value = event.target.value;
          set({
            dead: value === 'dead' ? true : null,
            harmonic: value === 'harmonic' ? true : null,
            pinched: value.startsWith('pinched') ? Number(value.slice(7)) : null,
          });
        }}
      >
        <option value="">a note</option>
        <option value="dead">dead, a click</option>
        <option value="harmonic">natural harmonic</option>
        {PINCHED.map((p) => (
          <option key={p} value={`pinched${p}`}>
            pinched, {p} above
          </option>
        ))}
      </SelectField>
      <SelectField
        label="Trilled"
        value={
          noteTechniques?.unspecified?.includes('trill')
            ? '?'
            : noteTechniques?.trill
              ? String(noteTechniques.trill)
              : ''
        }
        onChange={(event) => {
          const value = event.target.value;
          set({
            trill: value === '' || value === '?' ? null : Number(value),
            unspecified: value === '?' ? ['trill'] : null,
          });
        }}
      >
        <option value="">not</option>
        {Array.from({ length: 5 }, (_, i) => i + 1).map((n) => (
          <option key={n} value={n}>
            {n} fret{n === 1 ? '' : 's'} up
          </option>
        ))}
        <option value="?">with which is unsaid</option>
      </SelectField>
      <SelectField
        label="Muted"
        value={event.mute ?? ''}
        onChange={(event) =>
          manner({ mute: event.target.value === '' ? null : (event.target.value as 'palm' | 'choked') })
        }
      >
        <option value="">not</option>
        <option value="palm">palm muted</option>
        <option value="choked">choked, fretting hand</option>
      </SelectField>
      <SelectField
        label="Accent"
        value={event.accent ?? ''}
        onChange={(event) => manner({ accent: event.target.value === '' ? null : (event.target.value as 'accent') })}
      >
        <option value="">none</option>
        <option value="accent">accent</option>
        <option value="heavy">heavy</option>
        <option value="ghost">ghost note</option>
      </SelectField>
      <SelectField
        label="Volume from here"
        value={event.dynamic ?? ''}
        onChange={(event) => manner({ dynamic: event.target.value === '' ? null : (event.target.value as 'mf') })}
      >
        <option value="">as before</option>
        {['pp', 'p', 'mp', 'mf', 'f', 'ff'].map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </SelectField>
      <SelectField
        label="Cut short"
        value={String(event.gate ?? '')}
        onChange={(event) => manner({ gate: event.target.value === '' ? null : Number(event.target.value) })}
      >
        <option value="">not</option>
        {[...new Set([75, 50, 33, 25, ...(event.gate ? [event.gate] : [])])].map((c) => (
          <option key={c} value={c}>
            {c === 50 ? 'staccato, half' : `to ${c} %`}
          </option>
        ))}
      </SelectField>
    </Group>
  );
}

/** How it is reached, left and struck. */
function PickingFields({ event, noteTechniques: noteTechniques, set, manner }: Fields) {
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
function FrettingFields({
  piece,
  part,
  riff,
  event,
  note,
  target: ref,
  noteTechniques: noteTechniques,
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

const flagged = <Name extends string>(specs: Readonly<Record<Name, { readonly flag?: Flag }>>) =>
  (Object.entries(specs) as [Name, { readonly flag?: Flag }][]).flatMap(([name, { flag }]) =>
    flag?.field ? [{ name, ...flag.field }] : [],
  );
const NOTE_FIELDS = flagged<NoteTechnique>(NOTE_SPECS as Record<NoteTechnique, NoteSpec>);
const EVENT_FIELDS = flagged<EventTechnique>(EVENT_SPECS as Record<EventTechnique, EventSpec>);

/** Techniques that are done or not, as the tables of techniques have them. */
function FlagFields({ event, noteTechniques: noteTechniques, set, manner }: Fields) {
  const field = (label: string, on: string, now: boolean, change: (to: true | null) => void) => (
    <SelectField
      key={label}
      label={label}
      value={now ? 'y' : ''}
      onChange={(event) => change(event.target.value === 'y' ? true : null)}
    >
      <option value="">no</option>
      <option value="y">{on}</option>
    </SelectField>
  );
  return (
    <Group name="Also">
      {NOTE_FIELDS.map(({ name, label, on }) =>
        field(label, on, noteTechniques?.[name] !== undefined, (to) => set({ [name]: to })),
      )}
      {EVENT_FIELDS.map(({ name, label, on }) =>
        field(label, on, event[name] !== undefined, (to) => manner({ [name]: to })),
      )}
    </Group>
  );
}

function Group({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <fieldset className="grid grid-cols-2 gap-x-3 gap-y-2">
      <legend className="col-span-2 mb-1 text-[15px] font-semibold">{name}</legend>
      {children}
    </fieldset>
  );
}

/** A distance above a pitch, typed and read in any of its four ways. */
function Micro({
  label,
  base,
  fret,
  cents,
  unsaid,
  keyShown,
  onSet,
  onUnsaid,
}: {
  readonly label: string;
  readonly base: number;
  readonly fret: number | null;
  readonly cents: number | null;
  readonly unsaid: boolean;
  readonly keyShown: Key | null;
  readonly onSet: (cents: number | null) => boolean;
  readonly onUnsaid: (() => void) | null;
}) {
  const { notes } = useSchools();
  const [text, setText] = useState(cents === null ? (unsaid ? '?' : '') : String(cents));
  const [error, setError] = useState<string | null>(null);
  const read = cents === null ? null : microtoneWords(microtone(base, cents, fret), { key: keyShown, naming: notes });
  const save = (): void => {
    const wording = text.trim();
    if (wording === '?' && onUnsaid) return onUnsaid();
    if (wording === '') return void onSet(null);
    const made = parseMicrotone(wording, base, fret);
    if (!made.ok) return setError(made.error.words);
    setError(null);
    if (made.value !== cents) onSet(made.value === 0 ? null : made.value);
  };
  return (
    <TextField
      label={label}
      value={text}
      error={error}
      placeholder={onUnsaid ? 'not' : 'on the fret'}
      hint={
        read
          ? `${read.cents} · ${read.frets}${read.at ? ` · ${read.at}` : ''} · ${read.target}`
          : `whole, 150, 1.5 frets, fret 8.5, E4${onUnsaid ? ', ?' : ''}`
      }
      onChange={(event) => setText(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') save();
      }}
    />
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
