import { ImportDesk } from '@/features/intake/import-desk';

export default function BringInPage() {
  return <ImportDesk />;
}
