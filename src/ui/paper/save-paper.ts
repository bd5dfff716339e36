import { paperSvg, type PaperLayout } from '@/core/paper';
import { facesOf } from './faces';

/** What is on paper as a file: SVG and PNG are made here, a PDF by the server. */
export type PaperKind = 'pdf' | 'svg' | 'png';

/** Pixels of a picture for one of the page: sharp on a telephone. */
const SHARP = 2;
/** The longest side a picture may have, in pixels. */
const MOST = 12_000;

export async function paperFile(layout: PaperLayout, kind: PaperKind): Promise<Blob | string> {
  if (kind === 'pdf') {
    const answer = await fetch('/api/paper', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(layout),
    }).catch(() => null);
    if (answer?.ok) return answer.blob();
    const said = (await answer?.json().catch(() => null)) as { error?: { message?: string } } | null;
    return said?.error?.message ?? 'The server did not answer: the PDF is made there. SVG and PNG are made here.';
  }
  const svg = paperSvg(layout, await facesOf(layout), kind === 'svg');
  if (kind === 'svg') return new Blob([svg], { type: 'image/svg+xml' });
  return pngOf(svg);
}

async function pngOf(svg: string): Promise<Blob | string> {
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const scale = Math.min(SHARP, MOST / Math.max(image.width, image.height));
    const canvas = document.createElement('canvas');
    canvas.width = Math.round(image.width * scale);
    canvas.height = Math.round(image.height * scale);
    const context = canvas.getContext('2d');
    if (!context) return 'This browser can draw no picture. Save it as SVG.';
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    return blob ?? 'The picture is too large. Save it as SVG.';
  } catch {
    return 'The picture could not be drawn. Save it as SVG.';
  } finally {
    URL.revokeObjectURL(url);
  }
}
