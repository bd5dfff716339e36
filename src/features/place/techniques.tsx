import { setArticulation, setTechnique, type NoteRef } from '@/core/command';
import {
  EVENT_SPECS,
  NOTE_SPECS,
  type EventSpec,
  type EventTechnique,
  type Flag,
  type NoteSpec,
  type NoteTechnique,
} from '@/core/score';
import { SelectField } from '@/ui/field';
import { BendFields } from './bend-fields';
import { FrettingFields, PickingFields } from './hand-fields';
import { SoundFields } from './sound-fields';
import { Group, type Fields, type TechniqueProps } from './technique-fields';

/**
 * What is done to a note and its event beyond striking it. Every field refuses what no hand can do, with the reason.
 */
export function Techniques(props: TechniqueProps) {
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

const flagged = <Name extends string>(specs: Readonly<Record<Name, { readonly flag?: Flag }>>) =>
  (Object.entries(specs) as [Name, { readonly flag?: Flag }][]).flatMap(([name, { flag }]) =>
    flag?.field ? [{ name, ...flag.field }] : [],
  );
const NOTE_FIELDS = flagged<NoteTechnique>(NOTE_SPECS as Record<NoteTechnique, NoteSpec>);
const EVENT_FIELDS = flagged<EventTechnique>(EVENT_SPECS as Record<EventTechnique, EventSpec>);

/** Techniques that are done or not, as the tables of techniques have them. */
function FlagFields({ event, noteTechniques, set, manner }: Fields) {
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
