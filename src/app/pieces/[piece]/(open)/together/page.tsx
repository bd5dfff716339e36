import { TogetherPage } from '@/features/together/together-page';

export default function PieceTogetherPage() {
  return <TogetherPage />;
}
