/** A file dropped on a page of the piece, on its way to the page that takes its kind. */

export type DropKind = 'midi' | 'sound';

let waiting: { readonly kind: DropKind; readonly file: File } | null = null;

const KINDS: readonly (readonly [DropKind, RegExp])[] = [
  ['midi', /\.midi?$/i],
  ['sound', /\.(?:wav|flac|mp3|ogg|m4a)$/i],
];

/** What a file is, by its name; null where no page takes it. */
export const kindOfFile = (name: string): DropKind | null => KINDS.find(([, test]) => test.test(name))?.[0] ?? null;

export function putDropped(kind: DropKind, file: File): void {
  waiting = { kind, file };
}

/** The file that waits for a page of this kind, once. */
export function takeDropped(kind: DropKind): File | null {
  if (waiting?.kind !== kind) return null;
  const { file } = waiting;
  waiting = null;
  return file;
}
