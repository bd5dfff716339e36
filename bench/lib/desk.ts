import { performance } from 'node:perf_hooks';
import { sql } from 'kysely';
import { must } from '../../src/core/base';
import { newRequest } from '../../src/core/desk';
import { makeSetup } from '../../src/core/instrument';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff } from '../../src/core/score';
import { quarter } from '../../src/core/time';
import { programIn } from '../../src/server/actor';
import { connect } from '../../src/server/db/connection';
import { migrate } from '../../src/server/db/migrate';
import { keepRequest, openDesk } from '../../src/server/desk';
import type { PieceId } from '../../src/server/ids';
import { createPiece } from '../../src/server/pieces';
import { listPieces } from '../../src/server/repositories/pieces';
import { ensureStudio } from '../../src/server/repositories/studios';
import { indexPiece, searchMusic, searchWords } from '../../src/server/search';

/**
 * A studio of 5,000 pieces with 20,000 riffs and 1,000 requests: searching words and music, and opening the desk, with
 * the shelf's first page as the baseline of the same run. The words and the music sought are none of those the pieces
 * were made of on purpose: some are found often, some seldom, some not at all.
 */

const PIECES = 5000;
const WORDS = [
  'lamp',
  'moth',
  'trapdoor',
  'lantern',
  'copper',
  'gallery',
  'hinge',
  'curtain',
  'cellar',
  'snow',
  'crank',
  'wire',
];

let seed = 7;
const random = (n: number): number => {
  seed = (seed * 1103515245 + 12345) % 2147483648;
  return Math.floor((seed / 2147483648) * n);
};
const word = (): string => WORDS[random(WORDS.length)] ?? '';

const url = process.env.DATABASE_URL ?? '';
const db = connect(url, 4, true);
try {
  await migrate(db, url);
  const actor = programIn('big');
  await ensureStudio(db, 'big', 'Big');
  const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
  const riff = (id: string) => {
    let fret = random(8);
    return makeRiff(id, `${word()} ${word()} ${random(900)}`, {
      bars: 2,
      events: Array.from({ length: 12 + random(8) }, (_, i) => {
        fret = Math.max(0, Math.min(14, fret + random(7) - 3));
        const string = 1 + random(6);
        const midi = (setup.open[6 - string] ?? 40) + fret;
        return makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [
          makeNote(`n${i}`, midi, 'instructor', {
            place: { ...makePlace(string, fret, 'instructor'), reason: `${word()} ${word()}` },
          }),
        ]);
      }),
    });
  };
  const began = performance.now();
  for (let i = 0; i < PIECES; i++) {
    const part = makePart('g', 'Guitar', setup, {
      tone: `${word()} pickup`,
      riffs: [0, 1, 2, 3].map((n) => riff(`r${n}`)),
    });
    const piece = must(await createPiece(db, actor, makePiece('new', `${word()} ${word()} ${i}`, { parts: [part] })));
    await indexPiece(db, actor, piece.id as PieceId);
    if (i % 5 === 0)
      must(
        await keepRequest(db, actor, null, 0, {
          request: { ...newRequest('2031-04-01'), title: `${word()} ${word()}`, asker: word(), due: '2031-05-01' },
          ...{ series: null, piece: null },
        }),
      );
  }
  await sql`analyze`.execute(db);
  console.log(
    `${PIECES} pieces, ${4 * PIECES} riffs and ${PIECES / 5} requests put in ${((performance.now() - began) / 1000).toFixed(0)} s`,
  );

  const time = async (run: () => Promise<unknown>, rounds = 15): Promise<number> => {
    const taken: number[] = [];
    for (let i = 0; i < rounds; i++) {
      const from = performance.now();
      await run();
      taken.push(performance.now() - from);
    }
    return taken.sort((a, b) => a - b)[Math.floor(rounds / 2)] ?? 0;
  };
  const baseline = await time(() => listPieces(db, actor));
  const line = (what: string, ms: number, goal?: number): void =>
    console.log(
      `${what.padEnd(52)} ${ms.toFixed(1).padStart(7)} ms  ${(ms / baseline).toFixed(2).padStart(6)} x the shelf${goal ? `  (goal < ${goal})` : ''}`,
    );
  line('the first page of the shelf (the baseline)', baseline);
  for (const words of ['lamp', 'copper gal', 'moth 12', 'trapdor marsh', 'nothing of the kind']) {
    const found = await searchWords(db, actor, words);
    line(`words "${words}", ${found.length} found`, await time(() => searchWords(db, actor, words)), 200);
  }
  for (const calls of ['on 5 3 5 3', 'on 4 2 4 on 3 2 4', 'quarters on 6 0 eighths 3 5 quarters 0 3']) {
    const found = must(await searchMusic(db, actor, calls, setup));
    line(`music "${calls}", ${found.length} found`, await time(() => searchMusic(db, actor, calls, setup)), 200);
  }
  line('the desk', await time(() => openDesk(db, actor)), 150);
} finally {
  await db.destroy();
}
