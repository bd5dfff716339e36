import { gripWords, namesOf } from '@/core/harmony';
import type { Setup } from '@/core/instrument';
import type { Key } from '@/core/pitch';
import type { RiffEvent } from '@/core/score';
import { useSchools } from '@/ui/schools';

interface Props {
  readonly events: readonly RiffEvent[];
  readonly setup: Setup;
  readonly keyShown: Key | null;
  /** Pitch class of the bass under it, where the section says one. */
  readonly bass: number | null;
}

const SHOWN = 3;

/** What the chosen notes are together: their name as they sound and as a shape, what speaks for it, other names. */
export function GripNames({ events, setup, keyShown, bass }: Props) {
  const { notes: naming } = useSchools();
  const pitches = events.flatMap((event) =>
    event.notes.filter((note) => !note.technique?.dead).map((note) => note.pitch.midi),
  );
  const names = namesOf({ pitches, key: keyShown, naming, setup, bass });
  const [first, ...others] = names;
  if (!first) return null;
  const what = gripWords(first);
  const shape = first.shape !== null && first.shape !== first.sounding ? first.shape : null;
  return (
    <section aria-label="Name" className="flex flex-col gap-0.5 border-t border-rule pt-2 text-[15px]">
      <p>
        <b className="font-display text-xl">{first.sounding}</b>
        {shape ? <span className="text-soft"> (shape {shape})</span> : null}
        {what ? <span className="text-soft">, {what}</span> : null}
      </p>
      <p className="text-soft">{first.why}.</p>
      {others.length > 0 ? (
        <p className="text-soft">
          Or{' '}
          {others
            .slice(0, SHOWN)
            .map((one) => one.sounding)
            .join(', ')}
          .
        </p>
      ) : null}
    </section>
  );
}
