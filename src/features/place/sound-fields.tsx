import { PINCHED } from '@/core/score';
import { SelectField } from '@/ui/field';
import { Group, type Fields } from './technique-fields';

/** What kind of sound a note is, how loud and how long. */
export function SoundFields({ event, noteTechniques, set, manner }: Fields) {
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
