import { instrumentId, readId } from '@/server/ids';
import { notFound } from 'next/navigation';
import { InstrumentPage } from '@/features/rack/instrument-page';
import { currentActor, db } from '@/server/context';
import { instrumentChanges, listInstruments } from '@/server/repositories/rack';

export default async function RackInstrumentPage({ params }: { readonly params: Promise<{ instrument: string }> }) {
  const instrument = readId(instrumentId, (await params).instrument);
  if (!instrument) notFound();
  const actor = await currentActor();
  const entry = (await listInstruments(db(), actor)).find((entry) => entry.instrument.id === instrument);
  if (!entry) notFound();
  return <InstrumentPage key={instrument} entry={entry} changes={await instrumentChanges(db(), actor, instrument)} />;
}
