import PDFDocument from 'pdfkit';
import { itemsOn, pageCuts, type Lettering, type PaperItem, type PaperLayout, type Shape } from '@/core/paper';
import { runsOf } from './faces';

/** Points of a CSS pixel. */
const POINT = 0.75;
const FOOTER = { size: 9, above: 16 } as const;

type Pdf = InstanceType<typeof PDFDocument>;

/**
 * A layout as a PDF: page by page, letters as letters in faces it carries with it, tagged, with its title, and a list
 * of contents by its headings. The same bytes for the same layout but for the time it was made.
 */
export function pdfOf(layout: PaperLayout, madeAt: Date): Promise<Uint8Array> {
  const { page } = layout;
  const doc = new PDFDocument({
    ...{
      autoFirstPage: false,
      margin: 0,
      pdfVersion: '1.7',
      tagged: true,
      lang: 'en',
      displayTitle: true,
      compress: true,
    },
    size: [page.width * POINT, page.height * POINT],
    info: { Title: layout.title, Author: layout.author, Creator: 'Intonazione', CreationDate: madeAt },
  });
  const chunks: Uint8Array[] = [];
  doc.on('data', (chunk: Uint8Array) => chunks.push(chunk));
  const done = new Promise<Uint8Array>((resolve, reject) => {
    doc.on('end', () => resolve(Buffer.concat(chunks)));
    doc.on('error', reject);
  });
  const root = doc.struct('Document', { title: layout.title });
  doc.addStructure(root);
  const cuts = pageCuts(layout);
  const scale = Math.min(1, (page.width - 2 * page.margin) / layout.width);
  cuts.forEach((cut, i) => {
    doc.addPage();
    const items = itemsOn(layout.items, cut);
    const headings = layout.headings.filter((one) => one.y >= cut.from - 1 && one.y < cut.to);
    for (const heading of headings) doc.outline.addItem(heading.text || layout.title);
    const placed = (draw: () => void): void => {
      doc.save();
      doc.scale(POINT);
      doc.translate(page.margin, page.margin);
      doc.scale(scale);
      doc.translate(0, -cut.from);
      draw();
      doc.restore();
    };
    doc.markContent('Artifact', { type: 'Layout' });
    placed(() => items.forEach((item) => (item.kind === 'shape' ? drawShape(doc, item) : undefined)));
    doc.endMarkedContent();
    const isHeading = (item: Lettering): boolean =>
      headings.some((one) => one.text.startsWith(item.text) && Math.abs(item.y - one.y) < item.size * 2);
    const letters = items.filter((item): item is Lettering => item.kind === 'text');
    for (const level of ['H', 'P'] as const) {
      const own = letters.filter((item) => isHeading(item) === (level === 'H'));
      if (own.length > 0)
        root.add(doc.struct(level, {}, () => placed(() => own.forEach((item) => drawText(doc, item)))));
    }
    doc.markContent('Artifact', { type: 'Pagination' });
    footer(doc, layout, i + 1, cuts.length);
    doc.endMarkedContent();
  });
  root.end();
  doc.end();
  return done;
}

function inPlace(doc: Pdf, item: PaperItem, draw: () => void): void {
  doc.save();
  doc.transform(...(item.matrix as [number, number, number, number, number, number]));
  if (item.opacity < 1) doc.opacity(item.opacity);
  draw();
  doc.restore();
}

function drawShape(doc: Pdf, shape: Shape): void {
  inPlace(doc, shape, () => {
    if (shape.stroke) {
      doc.lineWidth(shape.width).lineCap(shape.round ? 'round' : 'butt');
      const [on, off] = shape.dash;
      if (on) doc.dash(on, { space: off ?? on });
    }
    doc.path(shape.d);
    if (shape.fill && shape.stroke) doc.fillAndStroke(shape.fill, shape.stroke);
    else if (shape.fill) doc.fill(shape.fill);
    else if (shape.stroke) doc.stroke(shape.stroke);
  });
}

function drawText(doc: Pdf, item: Lettering): void {
  inPlace(doc, item, () => {
    let x = item.x;
    for (const { file, text } of runsOf(item)) {
      doc
        .font(file)
        .fontSize(item.size)
        .fillColor(item.fill ?? '#000000');
      doc.text(text, x, item.y, { lineBreak: false, baseline: 'alphabetic' });
      x += doc.widthOfString(text);
    }
  });
}

function footer(doc: Pdf, { page, footer: words }: PaperLayout, number: number, count: number): void {
  const y = (page.height - page.margin + FOOTER.above) * POINT;
  const left = page.margin * POINT;
  const right = (page.width - page.margin) * POINT;
  const line = (text: string): Lettering => ({
    ...{ kind: 'text', text, x: 0, y, matrix: [1, 0, 0, 1, 0, 0], family: 'text', size: FOOTER.size, weight: 400 },
    ...{ italic: false, fill: '#3a3a3a', opacity: 1 },
  });
  const pages = `${number} of ${count}`;
  const [run] = runsOf(line(pages));
  if (run) doc.font(run.file).fontSize(FOOTER.size);
  const wide = doc.widthOfString(pages);
  drawText(doc, { ...line(words), x: left });
  drawText(doc, { ...line(pages), x: right - wide });
}
