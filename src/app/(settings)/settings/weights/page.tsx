import type { Metadata } from 'next';
import { WeightsPage } from '@/features/account/weights-page';
import { currentActor, db } from '@/server/context';
import { choiceCounts, latestFit } from '@/server/repositories/learning';

export const metadata: Metadata = { title: 'Weights' };

export default async function Page() {
  const [counts, fit] = await Promise.all([
    choiceCounts(db(), await currentActor()),
    latestFit(db(), await currentActor()),
  ]);
  return <WeightsPage counts={counts} fit={fit} />;
}
