import { ImportDesk } from '@/features/files/import-desk';

export default function BringInPage() {
  return <ImportDesk />;
}
