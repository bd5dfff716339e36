'use client';

import type { Day } from '@/core/desk';
import { Frame } from '@/features/piece/frame';
import type { Background } from '@/server/desk';
import type { HistoryLine } from '@/server/repositories/history';
import { AskedFor } from './asked-for';
import { Handouts } from './handouts';
import { HistoryList } from './history-list';
import { Links } from './links';
import { SourceFields } from './source-fields';

/** What stands behind a piece: who asked, what it was worked out from, what belongs to it, and how it came about. */
export function AboutPage({
  background,
  history,
  today,
}: {
  readonly background: Background;
  readonly history: readonly HistoryLine[];
  readonly today: Day;
}) {
  return (
    <Frame>
      <main className="grid min-h-0 flex-1 grid-cols-2 gap-10 overflow-y-auto py-4 max-[899px]:grid-cols-1">
        <div className="flex flex-col gap-7">
          <AskedFor requests={background.requests} today={today} />
          <SourceFields />
          <Links initial={background.links} />
          <Handouts initial={background.handouts} today={today} />
        </div>
        <HistoryList initial={history} />
      </main>
    </Frame>
  );
}
