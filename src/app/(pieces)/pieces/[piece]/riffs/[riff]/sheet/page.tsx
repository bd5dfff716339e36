import { SheetPage } from '@/features/teach/sheet-page';

export default async function RiffSheetPage({ params }: { readonly params: Promise<{ riff: string }> }) {
  return <SheetPage riffId={(await params).riff} />;
}
