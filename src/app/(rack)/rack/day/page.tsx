import type { Metadata } from 'next';
import { DayPage } from '@/features/rack/day-page';
import { currentActor, db } from '@/server/context';
import { listSetups } from '@/server/repositories/pieces';

export const metadata: Metadata = { title: 'The day' };

export default async function RackDayPage() {
  return <DayPage parts={await listSetups(db(), await currentActor())} />;
}
