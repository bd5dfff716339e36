import { cache } from 'react';
import { currentActor, db } from '@/server/context';
import { studioView } from '@/server/repositories/studios';

/** What the layouts of one page need of the studio, read once a page. */
export const studio = cache(async () => studioView(db(), await currentActor()));
