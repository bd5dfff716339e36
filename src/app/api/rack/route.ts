import { writeRack } from '@/core/instrument';
import { currentActor, db } from '@/server/context';
import { openRack } from '@/server/rack';
import { guarded } from '@/server/guarded';

export const dynamic = 'force-dynamic';

/** The rack as a JSON file. */
export const GET = guarded(async (): Promise<Response> => {
  const { instruments, tunings } = await openRack(db(), await currentActor());
  const text = writeRack({
    instruments: instruments.map(({ instrument, description, tones }) => ({ instrument, description, tones })),
    tunings,
  });
  return new Response(text, {
    headers: {
      'content-type': 'application/json; charset=utf-8',
      'content-disposition': 'attachment; filename="rack.json"',
    },
  });
});
