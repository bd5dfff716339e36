import type { Metadata } from 'next';
import { DeskPage } from '@/features/desk/desk-page';
import { currentActor, db } from '@/server/context';
import { openDesk } from '@/server/desk';
import { today } from '@/server/today';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Desk' };

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function Desk({ searchParams }: Props) {
  const { request } = await searchParams;
  return (
    <DeskPage
      initial={await openDesk(db(), await currentActor())}
      today={today()}
      open={typeof request === 'string' ? request : null}
    />
  );
}
