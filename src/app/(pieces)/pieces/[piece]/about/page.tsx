import { notFound } from 'next/navigation';
import { AboutPage } from '@/features/desk/about-page';
import { currentActor, db } from '@/server/context';
import { backgroundOf } from '@/server/desk';
import { pieceId, readId } from '@/server/ids';
import { historyLines } from '@/server/repositories/history';
import { today } from '@/server/today';

interface Props {
  readonly params: Promise<{ piece: string }>;
}

export default async function PieceAboutPage({ params }: Props) {
  const id = readId(pieceId, (await params).piece);
  if (!id) notFound();
  const actor = await currentActor();
  const [background, history] = await Promise.all([backgroundOf(db(), actor, id), historyLines(db(), actor, id)]);
  return <AboutPage background={background} history={history} today={today()} />;
}
