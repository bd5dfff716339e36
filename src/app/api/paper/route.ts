import { finding, pathOf, wellFormed } from '@/core/base';
import { paperSchema } from '@/core/paper';
import { attachment, readBody, refusal } from '@/server/http';
import { pdfOf } from '@/server/paper/pdf';
import { guarded } from '@/server/guarded';

const MOST = 24 * 1024 * 1024;

/** What is laid out on a page, as a PDF. Reads nothing of the studio: it draws what it is given. */
export const POST = guarded(async (request: Request): Promise<Response> => {
  const bytes = await readBody(request, MOST);
  if (!bytes)
    return refusal(finding('too-large', 'error', 'This is too much for one PDF: choose fewer parts or sections.'), 413);
  let value: unknown;
  try {
    value = wellFormed(JSON.parse(new TextDecoder().decode(bytes)) as unknown);
  } catch {
    return refusal(finding('bad-json', 'error', 'A layout as JSON is wanted.'), 400);
  }
  const layout = paperSchema.safeParse(value);
  if (!layout.success) {
    const issue = layout.error.issues[0];
    return refusal(finding('malformed', 'error', issue?.message ?? 'malformed', { path: pathOf(issue?.path) }), 422);
  }
  const pdf = await pdfOf(layout.data, new Date());
  return attachment(`${layout.data.title || 'sheet'}.pdf`, 'application/pdf', pdf);
});
