import type { FileKind } from '@/core/formats/registry';

/** Files dropped on a page, on their way to the page that takes their kind. */

export type DropKind = 'music' | 'sound';

let waiting: { readonly kind: DropKind; readonly files: readonly File[] } | null = null;

/** How much of a file tells what it is. */
const HEAD = 64 * 1024;

/** What a file is by what it holds, whatever it is called; null where no page takes it. */
export async function kindOfFile(file: File): Promise<FileKind | null> {
  // The readers come only with the first file.
  const [{ sniff }, head] = await Promise.all([import('@/core/formats/registry'), file.slice(0, HEAD).arrayBuffer()]);
  return sniff(new Uint8Array(head));
}

/** Which page takes a kind; null for those that are not brought into a piece. */
export const pageOf = (kind: FileKind | null): DropKind | null =>
  kind === 'sound' ? 'sound' : kind === null || kind === 'rack' || kind === 'archive' ? null : 'music';

export function putDropped(kind: DropKind, files: readonly File[]): void {
  waiting = { kind, files };
}

/** The files that wait for a page of this kind, once. */
export function takeDropped(kind: DropKind): readonly File[] {
  if (waiting?.kind !== kind) return [];
  const { files } = waiting;
  waiting = null;
  return files;
}

/** Sorts dropped files by the page that takes them; `other` are those none does, with what they are. */
export async function sortFiles(files: readonly File[]): Promise<{
  readonly music: readonly File[];
  readonly sound: readonly File[];
  readonly other: readonly { readonly file: File; readonly kind: FileKind | null }[];
}> {
  const kinds = await Promise.all(files.map(async (file) => ({ file, kind: await kindOfFile(file) })));
  return {
    music: kinds.flatMap(({ file, kind }) => (pageOf(kind) === 'music' ? [file] : [])),
    sound: kinds.flatMap(({ file, kind }) => (pageOf(kind) === 'sound' ? [file] : [])),
    other: kinds.filter(({ kind }) => pageOf(kind) === null),
  };
}

/** What to do with a file that is brought into no piece. */
export const otherWords = (file: File, kind: FileKind | null): string =>
  kind === 'rack'
    ? `“${file.name}” is a rack: drop it on the rack page.`
    : kind === 'archive'
      ? `“${file.name}” is a studio archive: put it back from the settings.`
      : `“${file.name}” is nothing the program reads: MusicXML, MIDI, text tab, a piece (JSON), or a recording.`;
