import { notFound } from 'next/navigation';
import { InstrumentPage } from '@/features/rack/instrument-page';
import { currentStudio, db } from '@/server/context';
import { instrumentChanges, listInstruments } from '@/server/repositories/rack';

export default async function RackInstrumentPage({ params }: { readonly params: Promise<{ instrument: string }> }) {
  const { instrument } = await params;
  const studio = currentStudio();
  const entry = (await listInstruments(db(), studio)).find((i) => i.instrument.id === instrument);
  if (!entry) notFound();
  return <InstrumentPage key={instrument} entry={entry} changes={await instrumentChanges(db(), studio, instrument)} />;
}
