import type { Metadata, Viewport } from 'next';
import { headers } from 'next/headers';
import { after } from 'next/server';
import type { ReactNode } from 'react';
import { pageTurn } from '@/server/context';
import { SchoolsProvider } from '@/ui/schools';
import { ToastProvider } from '@/ui/toast';
import { studio } from './studio';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Intonazione', template: '%s · Intonazione' },
  description:
    'From a riff that was heard to places on the neck that can be played and taught, with the reasons shown.',
};

export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

/** Sets the stage theme before the first paint, so that nothing flashes. */
const THEME = `try{const t=localStorage.getItem('theme');if(t==='dark'||(!t&&matchMedia('(prefers-color-scheme: dark)').matches))document.documentElement.dataset.theme='dark'}catch{}`;

/** Schools belong to the studio: read anew for every page. */
export const dynamic = 'force-dynamic';

export default async function RootLayout({ children }: { readonly children: ReactNode }) {
  after(await pageTurn());
  const { schools } = await studio();
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME }} />
      </head>
      <body className="min-h-screen bg-paper text-ink antialiased">
        <SchoolsProvider initial={schools}>
          <ToastProvider>{children}</ToastProvider>
        </SchoolsProvider>
      </body>
    </html>
  );
}
