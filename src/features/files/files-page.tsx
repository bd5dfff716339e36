'use client';

import { Download } from 'lucide-react';
import { Link } from '@/ui/link';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import type { OriginalEntry } from '@/server/repositories/originals';
import { buttonClass } from '@/ui/button';
import { SaveAs } from './save-as';

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });

const sizeWords = (bytes: number): string =>
  bytes < 1024 * 1024 ? `${Math.max(1, Math.round(bytes / 1024))} KB` : `${(bytes / 1048576).toFixed(1)} MB`;

/** Files out and in: the piece in open formats, and what it was made from as it came. */
export function FilesPage({ originals }: { readonly originals: readonly OriginalEntry[] }) {
  const root = usePiece((state) => `/pieces/${state.document.id}`);
  return (
    <Frame>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-10 overflow-y-auto py-4 max-[899px]:grid-cols-1">
        <SaveAs />
        <section aria-label="Files it came from" className="flex flex-col gap-2">
          <h2 className="text-xl">Files it came from</h2>
          {originals.length === 0 ? (
            <p className="text-soft">None yet. What you bring in is kept here as it came.</p>
          ) : (
            <ul>
              {originals.map((file) => (
                <li key={file.id} className="flex items-center gap-3 border-t border-rule py-1.5">
                  <span className="min-w-0 flex-1 truncate font-semibold">{file.name}</span>
                  <span className="text-sm text-soft">
                    {sizeWords(file.size)}, {day.format(new Date(file.madeAt))}
                  </span>
                  <a
                    href={`/api/originals/${file.id}`}
                    download={file.name}
                    className={buttonClass({ size: 'icon', tone: 'quiet' })}
                    aria-label={`Download ${file.name}`}
                  >
                    <Download size={18} aria-hidden />
                  </a>
                </li>
              ))}
            </ul>
          )}
          <Link href={`${root}/bring-in`} className={buttonClass({ className: 'mt-1 self-start' })}>
            Bring in files
          </Link>
          <h2 className="mt-5 text-xl">On paper</h2>
          <p className="text-soft">
            PDF, SVG and PNG are saved from the{' '}
            <Link href={`${root}/sheet`} className="text-ink underline decoration-line underline-offset-4">
              sheet
            </Link>
            , as it stands there.
          </p>
          <h2 className="mt-5 text-xl">Its history</h2>
          <a
            href={`/api/logs/history?piece=${root.slice('/pieces/'.length)}`}
            className={buttonClass({ className: 'self-start' })}
            download
          >
            Save as CSV
          </a>
        </section>
      </main>
    </Frame>
  );
}
