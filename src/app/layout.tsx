import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import { StudioProvider } from '@/features/studio/studio';
import { ToastProvider } from '@/ui/toast';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Intonazione', template: '%s · Intonazione' },
  description:
    'From a riff that was heard to places on the neck that can be played and taught, with the reasons shown.',
};

export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

/** Sets the stage theme before the first paint, so that nothing flashes. */
const THEME = `try{const t=localStorage.getItem('theme');if(t==='dark'||(!t&&matchMedia('(prefers-color-scheme: dark)').matches))document.documentElement.dataset.theme='dark'}catch{}`;

/** The same for everyone: pages are built once, and what they show they ask for (`features/studio`). */
export default function RootLayout({ children }: { readonly children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME }} />
      </head>
      <body className="min-h-screen bg-paper text-ink antialiased">
        <StudioProvider>
          <ToastProvider>{children}</ToastProvider>
        </StudioProvider>
      </body>
    </html>
  );
}
