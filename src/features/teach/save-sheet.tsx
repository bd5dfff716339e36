'use client';

import { useState } from 'react';
import { Button } from '@/ui/button';
import { capture } from '@/ui/paper/capture';
import { paperFile, type PaperKind } from '@/ui/paper/save-paper';
import { fileNameOf, saveFile } from '@/ui/save-file';
import { useToast } from '@/ui/toast';
import { PAPER, type Paper } from './sheet-common';

/** CSS pixels of a millimetre. */
const MM = 96 / 25.4;
const MARGIN = 14 * MM;

const KINDS: readonly (readonly [PaperKind, string])[] = [
  ['pdf', 'PDF'],
  ['svg', 'SVG'],
  ['png', 'PNG'],
];

/** The sheet as it stands on the page, saved as a file: no print dialog, its faces carried in it. */
export function SaveSheet({
  title,
  author,
  paper,
}: {
  readonly title: string;
  readonly author: string;
  readonly paper: Paper;
}) {
  const toast = useToast();
  const [busy, setBusy] = useState(false);
  const save = async (kind: PaperKind): Promise<void> => {
    const sheet = document.querySelector<HTMLElement>('article[aria-label="Sheet"]');
    if (!sheet) return;
    setBusy(true);
    const { width, height } = PAPER[paper];
    const layout = capture(sheet, {
      title: title.slice(0, 200),
      author: author.slice(0, 300),
      footer: [title, author].filter(Boolean).join(' · ').slice(0, 400),
      page: { width: parseFloat(width) * MM, height: parseFloat(height) * MM, margin: MARGIN },
    });
    const file = await paperFile(layout, kind);
    setBusy(false);
    if (typeof file === 'string') toast(file);
    else saveFile(`${fileNameOf(title)}.${kind}`, file);
  };
  return (
    <span role="group" aria-label="Save the sheet" className="ml-auto flex items-center gap-1">
      {KINDS.map(([kind, name]) => (
        <Button key={kind} disabled={busy} onClick={() => void save(kind)} aria-label={`Save as ${name}`}>
          {name}
        </Button>
      ))}
    </span>
  );
}
