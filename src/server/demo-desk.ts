import type { Actor } from './actor';
import type { PieceId, SeriesId } from './ids';
import { DEMO_HANDOUTS, DEMO_LINKS, DEMO_REQUESTS, DEMO_SERIES } from '../../demo/desk';
import { must } from '@/core/base';
import { daysAfter, newRequest, type Day } from '@/core/desk';
import type { Db } from './db/connection';
import { handOver, keepRequest, keepSeries, linkPieces } from './desk';

/** Puts the demo's requests, series, links and hand-outs on the desk, as if asked for around today. */
export async function loadDemoDesk(
  db: Db,
  actor: Actor,
  today: Day,
  pieces: ReadonlyMap<string, PieceId>,
): Promise<void> {
  const day = (days: number | undefined): Day | null => (days === undefined ? null : daysAfter(today, days));
  const series = new Map<string, SeriesId>();
  for (const one of DEMO_SERIES) series.set(one.name, must(await keepSeries(db, actor, null, one)));
  for (const { asked, due, release, series: name, items, piece, ...said } of DEMO_REQUESTS)
    must(
      await keepRequest(db, actor, null, 0, {
        request: {
          ...newRequest(daysAfter(today, asked)),
          ...said,
          ...{ due: day(due), release: day(release) },
          items: items.map((item) => ({ ...item, due: day(item.due), done: day(item.done) })),
        },
        series: series.get(name ?? '') ?? null,
        piece: pieces.get(piece ?? '') ?? null,
      }),
    );
  const id = (title: string): PieceId => {
    const found = pieces.get(title);
    if (!found) throw new Error(`demo desk: no piece "${title}"`);
    return found;
  };
  for (const { from, to, kind } of DEMO_LINKS)
    must(await linkPieces(db, actor, { piece: id(from), other: id(to), kind }));
  for (const { piece, on, ...said } of DEMO_HANDOUTS)
    must(await handOver(db, actor, id(piece), { ...said, on: daysAfter(today, on) }));
}
