import { PieceSheetPage } from '@/features/teach/piece-sheet-page';

export default function WholeSheetPage() {
  return <PieceSheetPage />;
}
