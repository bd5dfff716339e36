import { useRouter } from 'next/navigation';
import { addVariant, freeVariantName, writeOut } from '@/core/command';
import { simpleOf } from '@/core/edit';
import type { RiffContext } from '@/core/form';
import type { Piece, Riff } from '@/core/score';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';

const pick = 'min-h-8 max-w-56 rounded-sm border border-rule bg-sheet px-1.5 text-[15px] text-ink max-[899px]:max-w-36';

/** Which variant of the riff is open, and in which place of the form it is looked at. */
export function RiffPlace({
  piece,
  riff,
  variant,
  context,
  contexts,
}: {
  readonly piece: Piece;
  readonly riff: Riff;
  readonly variant: string | null;
  readonly context: RiffContext | null;
  readonly contexts: readonly RiffContext[];
}) {
  const router = useRouter();
  const dispatch = usePiece((state) => state.dispatch);
  const toast = useToast();
  const variants = riff.variants ?? [];
  const go = (to: { readonly variant: string | null; readonly use: string | null }): void => {
    const query = new URLSearchParams();
    if (to.use) query.set('use', to.use);
    if (to.variant) query.set('variant', to.variant);
    const text = query.toString();
    router.push(`/pieces/${piece.id}/riffs/${riff.id}${text ? `?${text}` : ''}`);
  };
  const choose = (value: string): void => {
    if (value !== 'new') return go({ variant: value || null, use: context?.id ?? null });
    const name = freeVariantName(
      variants.map((one) => one.name),
      `Variant ${variants.length + 1}`,
    );
    const made = addVariant(piece, riff.id, name);
    if (!made.ok) return toast(made.error.words);
    const done = dispatch(made.value.edit);
    if (done.ok) go({ variant: made.value.id, use: context?.id ?? null });
    else toast(done.error.words);
  };
  const { use } = context ?? {};
  const otherwise = variant === null && (use?.move ?? use?.variant ?? use?.bars) !== undefined;
  const out = (): void => {
    const part = piece.parts.find((one) => one.riffs.some((each) => each.id === riff.id));
    if (!context || !part) return;
    const made = writeOut(piece, context.section, part.id, context.use.id);
    const done = made.ok ? dispatch(made.value) : made;
    if (!done.ok || !made.ok) return toast(done.ok ? '' : done.error.words);
    const added = simpleOf(made.value).find((one) => one.type === 'addRiff');
    if (added?.type === 'addRiff') router.push(`/pieces/${piece.id}/riffs/${added.riff.id}`);
  };
  return (
    <>
      <select
        aria-label="Variant"
        className={pick}
        value={variant ?? ''}
        onChange={(event) => choose(event.target.value)}
        title="As the riff is written, or a variant of it"
      >
        <option value="">as written</option>
        {variants.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
        <option value="new">New variant…</option>
      </select>

      {contexts.length > 0 ? (
        <select
          aria-label="Where in the form"
          className={pick}
          value={context?.id ?? ''}
          onChange={(event) => {
            const next = contexts.find((one) => one.id === event.target.value);
            go({ variant: next?.use.variant ?? variant, use: event.target.value });
          }}
          title="Where in the form: its chords, key and tempo"
        >
          {contexts.map((one) => (
            <option key={one.id} value={one.id}>
              {one.words}
            </option>
          ))}
        </select>
      ) : null}
      {otherwise ? (
        <Button
          size="small"
          onClick={out}
          title="What is played at this place becomes a riff of its own, to be changed note by note"
        >
          Write out
        </Button>
      ) : null}
    </>
  );
}
