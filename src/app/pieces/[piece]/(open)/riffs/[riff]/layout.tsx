import type { ReactNode } from 'react';
import { ANY } from '@/server/shell';

export const dynamicParams = false;
export const generateStaticParams = (): { riff: string }[] => [{ riff: ANY }];

export default function Layout({ children }: { readonly children: ReactNode }) {
  return children;
}
