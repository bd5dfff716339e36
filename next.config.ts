import type { NextConfig } from 'next';
import { SHELLS } from './src/server/shell';

/** What holds for every answer; the content policy of pages comes from `src/proxy.ts`. */
const headers = [
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
  {
    key: 'Permissions-Policy',
    value: 'microphone=(self), midi=(self), camera=(), geolocation=(), payment=(), usb=(), display-capture=()',
  },
];

const config: NextConfig = {
  poweredByHeader: false,
  // They read their own files at run time.
  serverExternalPackages: ['pdfkit', 'fontkit'],
  // A long version that gave way is settled in one call. The proxy would cut it at ten megabytes without a word.
  experimental: { serverActions: { bodySizeLimit: '24mb' }, proxyClientMaxBodySize: '24mb' },
  // What was the list of the unsaid is part of the check: links that were kept lead there.
  redirects: () =>
    Promise.resolve([{ source: '/pieces/:piece/unsaid', destination: '/pieces/:piece/check', permanent: true }]),
  rewrites: () => Promise.resolve({ beforeFiles: SHELLS, afterFiles: [], fallback: [] }),
  headers: () =>
    Promise.resolve([
      { source: '/:path*', headers },
      // A built page is asked for anew each time, answered "as it was" where it is: a release is seen at once.
      { source: '/((?!_next/|api/).*)', headers: [{ key: 'Cache-Control', value: 'private, no-cache' }] },
    ]),
};

export default config;
