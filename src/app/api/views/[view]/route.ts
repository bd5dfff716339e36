import { finding } from '@/core/base';
import { currentActor, db } from '@/server/context';
import { refusal } from '@/server/http';
import { answerView } from '@/server/views';
import { guarded } from '@/server/guarded';

interface Props {
  readonly params: Promise<{ view: string }>;
}

/** What a page shows, by the name of its view (`server/views.ts`). */
export const GET = guarded(async (request: Request, { params }: Props): Promise<Response> => {
  const asked = new URL(request.url).searchParams;
  const answer = await answerView(db(), await currentActor(), (await params).view, asked);
  if (!answer) return refusal(finding('no-view', 'error', 'There is no such page, or what it shows is gone.'), 404);
  return Response.json(answer, { headers: { 'cache-control': 'private, no-store' } });
});
