'use client';

import { usePageAddress } from '@/features/studio/address';
import { FromServer } from '@/features/studio/from-server';
import { FilesPage } from './files-page';

/** Files of the piece of the address. */
export function RoutedFiles() {
  const { piece } = usePageAddress();
  return (
    <FromServer view="files" of={{ piece }}>
      {(files) => <FilesPage {...files} />}
    </FromServer>
  );
}
