import { PlacesPage } from '@/features/setup/places-page';

interface Props {
  readonly params: Promise<{ part: string }>;
}

export default async function PartPlacesPage({ params }: Props) {
  return <PlacesPage partId={(await params).part} />;
}
