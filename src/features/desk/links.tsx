import { Link } from '@/ui/link';
import { useRouter } from 'next/navigation';
import { X } from 'lucide-react';
import { useState, useTransition } from 'react';
import { LINK_WORDS, LINKS, VERSION_WORDS, VERSIONS, type LinkKind } from '@/core/desk';
import { usePiece } from '@/features/piece/provider';
import type { LinkId, PieceId } from '@/server/ids';
import type { KeptLink } from '@/server/repositories/desk';
import { Button } from '@/ui/button';
import { linkAction, makeVersionAction, unlinkAction } from './actions';
import { CompareDialog } from './compare-dialog';
import { PieceChoice } from './piece-choice';
import { linkWords } from './words';

/** How the piece belongs to others of the shelf, and the two compared. */
export function Links({ initial }: { readonly initial: readonly KeptLink[] }) {
  const id = usePiece((state) => state.document.id);
  const router = useRouter();
  const [links, setLinks] = useState(initial);
  const [kind, setKind] = useState<LinkKind>('other version');
  const [other, setOther] = useState<{ readonly id: string; readonly title: string } | null>(null);
  const [compared, setCompared] = useState<{ readonly id: string; readonly title: string } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, begin] = useTransition();
  const link = (): void => {
    if (!other) {
      setFault('Choose a piece of the shelf by its title.');
      return;
    }
    begin(async () => {
      const made = await linkAction({ piece: id as PieceId, other: other.id as PieceId, kind });
      setFault(made.ok ? null : made.error.words);
      if (made.ok) setLinks(made.value);
    });
  };
  const unlink = (one: LinkId): void =>
    begin(async () => {
      await unlinkAction(one);
      setLinks((now) => now.filter((each) => each.id !== one));
    });
  return (
    <section aria-label="Belongs with" className="flex flex-col gap-2">
      <h2 className="border-b border-rule pb-1 text-xl">Belongs with</h2>
      <ul className="flex flex-col">
        {links.map((one) => (
          <li key={one.id} className="flex items-center gap-2">
            <span className="min-w-0 flex-1">
              {linkWords(one.kind, one.back)}{' '}
              <Link href={`/pieces/${one.piece}`} className="font-semibold underline underline-offset-4">
                {one.title}
              </Link>
            </span>
            <Button size="small" onClick={() => setCompared({ id: one.piece, title: one.title })}>
              Compare
            </Button>
            <Button
              tone="quiet"
              size="icon"
              aria-label={`Delete the link to ${one.title}`}
              onClick={() => unlink(one.id)}
            >
              <X size={16} aria-hidden />
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-end gap-2">
        <label className="flex flex-col gap-0.5">
          <span className="text-sm font-semibold text-soft">This piece is</span>
          <select
            className="min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]"
            value={kind}
            onChange={(event) => setKind(LINKS.find((one) => one === event.target.value) ?? 'other version')}
          >
            {LINKS.map((one) => (
              <option key={one} value={one}>
                {LINK_WORDS[one].there}
              </option>
            ))}
          </select>
        </label>
        <PieceChoice label="Piece" without={id} onChoose={setOther} />
        <Button disabled={busy} onClick={link}>
          Link
        </Button>
      </div>
      <label className="flex flex-wrap items-center gap-2 text-[15px]">
        Make another version
        <select
          className="min-h-9 rounded-sm border border-line/70 bg-sheet px-2"
          value=""
          disabled={busy}
          onChange={(event) => {
            const version = VERSIONS.find((one) => one === event.target.value);
            if (!version) return;
            begin(async () => {
              const made = await makeVersionAction(id as PieceId, version);
              if (made.ok) router.push(`${made.value}/about`);
              else setFault(made.error.words);
            });
          }}
        >
          <option value="">worked out from…</option>
          {VERSIONS.map((one) => (
            <option key={one} value={one}>
              {VERSION_WORDS[one]}
            </option>
          ))}
        </select>
      </label>
      {fault ? (
        <p role="alert" className="text-sm font-semibold text-trouble">
          {fault}
        </p>
      ) : null}
      {compared ? <CompareDialog other={compared} onClose={() => setCompared(null)} /> : null}
    </section>
  );
}
