import { execFile } from 'node:child_process';
import { rmSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { afterAll, beforeAll } from 'vitest';

export const root = path.resolve(import.meta.dirname, '../../..');

export interface Ran {
  readonly code: number;
  readonly out: Record<string, unknown>;
  readonly err: Record<string, unknown>;
}

/** The real command in a real process, for the tests of a file. */
export function commandLine(): (args: readonly string[], input?: string | Uint8Array) => Promise<Ran> {
  // As one file: a process of it begins in a fraction of the time that reading each source takes.
  const program = path.join(root, '.data', 'cli-test', `${process.pid}-${Math.random().toString(36).slice(2)}.mjs`);
  beforeAll(() =>
    build({
      entryPoints: [path.join(root, 'src/cli/main.ts')],
      outfile: program,
      bundle: true,
      platform: 'node',
      format: 'esm',
      packages: 'external',
      logLevel: 'error',
    }),
  );
  afterAll(() => rmSync(program, { force: true }));
  return (args, input = '') =>
    new Promise((resolve) => {
      const child = execFile(
        process.execPath,
        [program, ...args],
        { cwd: root, maxBuffer: 1e8 },
        (error, stdout, stderr) => {
          const parse = (text: string): Record<string, unknown> =>
            text.trim() ? (JSON.parse(text) as Record<string, unknown>) : {};
          resolve({ code: error ? Number(error.code) : 0, out: parse(stdout), err: parse(stderr) });
        },
      );
      child.stdin?.end(input);
    });
}
