import { unzipSync, zipSync } from 'fflate';
import { fail, ok, type Result } from '../../base';
import { MUSICXML_LIMITS } from './limits';
import { child, childrenOf, decodeXml, parseXml } from './xml';

export const isZip = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 0x03 || bytes[2] === 0x05);

const CONTAINER = 'META-INF/container.xml';

/** The score in a compressed file: the one its container names, else the only one there is. */
export function unpackScore(bytes: Uint8Array): Result<Uint8Array> {
  let total = 0;
  let over = false;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!/\.(xml|musicxml)$/i.test(name)) return false;
        total += originalSize;
        over ||= total > MUSICXML_LIMITS.bytes;
        return !over;
      },
    });
  } catch {
    return fail(
      'broken-zip',
      'The compressed file is damaged or cut short. Export it again, or as plain MusicXML.',
      'file',
    );
  }
  if (over) return fail('too-large', `Unpacked the score has over ${MUSICXML_LIMITS.bytes / 1048576} MB.`, 'file');
  const named = rootFile(files[CONTAINER]);
  const names = Object.keys(files).filter((name) => name !== CONTAINER && !name.startsWith('META-INF/'));
  const name = named !== null && files[named] ? named : names[0];
  const file = name === undefined ? undefined : files[name];
  return file
    ? ok(file)
    : fail('no-score', 'The compressed file holds no score. Export it again, or as plain MusicXML.', 'file');
}

function rootFile(container: Uint8Array | undefined): string | null {
  const text = container ? decodeXml(container) : null;
  const tree = text?.ok ? parseXml(text.value) : null;
  if (!tree?.ok) return null;
  const files = childrenOf(child(tree.value, 'rootfiles'), 'rootfile');
  return (
    (files.find((one) => /musicxml|^$/.test(one.attrs['media-type'] ?? '')) ?? files[0])?.attrs['full-path'] ?? null
  );
}

/** A score packed as a compressed file. The same bytes for the same score: no time is written into it. */
export function packScore(xml: Uint8Array): Uint8Array {
  const container =
    '<?xml version="1.0" encoding="UTF-8"?>\n<container><rootfiles><rootfile full-path="score.xml" media-type="application/vnd.recordare.musicxml+xml"/></rootfiles></container>\n';
  return zipSync(
    { [CONTAINER]: new TextEncoder().encode(container), 'score.xml': xml },
    { mtime: '1980-01-02T00:00:00', level: 6 },
  );
}
