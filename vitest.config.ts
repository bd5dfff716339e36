import path from 'node:path';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: {
    alias: {
      '@': path.resolve(import.meta.dirname, 'src'),
      'server-only': path.resolve(import.meta.dirname, 'e2e/support/empty.ts'),
    },
  },
  test: {
    include: ['src/**/*.test.{ts,tsx}', 'demo/**/*.test.ts'],
    // Tests ask routes for http://x/.
    env: { INTONAZIONE_HOSTS: 'x' },
    testTimeout: 60_000,
    hookTimeout: 60_000,
    pool: 'forks',
  },
});
