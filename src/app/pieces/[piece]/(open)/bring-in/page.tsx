import { ImportDesk } from '@/features/files/import-desk';

export default function Page() {
  return <ImportDesk />;
}
