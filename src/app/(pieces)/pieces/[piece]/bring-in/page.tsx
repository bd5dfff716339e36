import { BringIn } from '@/features/intake/bring-in';

export default function BringInPage() {
  return <BringIn />;
}
