import type { NextConfig } from 'next';

/** What holds for every answer; the content policy of pages carries a nonce and comes from `src/proxy.ts`. */
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
  // A long imported part travels in one save.
  experimental: { serverActions: { bodySizeLimit: '24mb' } },
  headers: () => Promise.resolve([{ source: '/:path*', headers }]),
};

export default config;
