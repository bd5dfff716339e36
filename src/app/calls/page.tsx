import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Metadata } from 'next';
import { Link } from '@/ui/link';
import { parseGuide } from '@/features/place/guide';

export const metadata: Metadata = { title: 'How to call notes' };

/** The one page on the call line: docs/call-line.md as the program shows it. */
export default async function CallsPage() {
  const blocks = parseGuide(await readFile(path.join(process.cwd(), 'docs', 'call-line.md'), 'utf8'));
  return (
    <main className="mx-auto max-w-4xl px-8 py-8">
      <Link href="/" className="font-display text-xl font-semibold">
        Intonazione
      </Link>
      {blocks.map((b, i) => {
        if (b.kind === 'title')
          return (
            <h1 key={i} className="mt-6 text-3xl">
              {b.text}
            </h1>
          );
        if (b.kind === 'heading')
          return (
            <h2 key={i} className="mt-6 text-xl">
              {b.text}
            </h2>
          );
        if (b.kind === 'text')
          return (
            <p key={i} className="mt-3 max-w-2xl text-lg">
              {b.text.replaceAll('`', '')}
            </p>
          );
        return (
          <table key={i} className="mt-2 w-full">
            <thead className="sr-only">
              <tr>
                <th>say</th>
                <th>means</th>
              </tr>
            </thead>
            <tbody>
              {b.rows.map(([say, means]) => (
                <tr key={say} className="border-t border-rule align-baseline">
                  <td className="w-[44%] py-1.5 pr-6 font-figures text-[17px]">{say?.replaceAll('`', '')}</td>
                  <td className="py-1.5">{means?.replaceAll('`', '')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        );
      })}
    </main>
  );
}
