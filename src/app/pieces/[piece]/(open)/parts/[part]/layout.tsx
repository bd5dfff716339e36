import type { ReactNode } from 'react';
import { ANY } from '@/server/shell';

export const dynamicParams = false;
export const generateStaticParams = (): { part: string }[] => [{ part: ANY }];

export default function Layout({ children }: { readonly children: ReactNode }) {
  return children;
}
