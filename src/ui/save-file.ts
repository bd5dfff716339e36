/** Hands a file to the browser to be saved under a name. */
export function saveFile(name: string, contents: Blob): void {
  const url = URL.createObjectURL(contents);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser reads it after the click.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A title as a file's name: no signs a disk refuses. */
export const fileNameOf = (title: string): string =>
  title
    .replace(/[\\/:*?"<>|\u0000-\u001f]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 120) || 'piece';
