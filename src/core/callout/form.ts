import { counted } from '../base';
import { chartOf, mapOf, playsWords, stopWords, type ChartBlock, type ChartRow, type Slip } from '../form';
import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import type { Piece } from '../score';

/** A piece's form as spoken: the order it is played in, then each section with its chords and what each part plays. */
export function formWords(piece: Piece, schools: Schools = DEFAULT_SCHOOLS): string[] {
  const map = mapOf(piece);
  if (map.passes.length === 0) return ['There is no section yet.'];
  const places = map.passes.filter((pass) => pass.pass === 1);
  const order = places.map(
    ({ section, passes, entry, firstBar }) =>
      `${section.name} from bar ${firstBar + 1}${passes > 1 ? `, ${playsWords(passes)}` : ''}${entry?.stop ? `, ${stopWords(entry.stop)}` : ''}`,
  );
  return [
    `${counted(map.bars, 'bar')} in all. ${order.join('; ')}.`,
    ...chartOf(piece, { unfolded: false, schools }).map((block) => blockWords(block)),
  ];
}

function blockWords(block: ChartBlock): string {
  const bars = block.bars === 1 ? '1 bar' : `${block.bars} bars`;
  const head = [`${block.section.name}, ${bars}`, block.plays, ...block.remarks].filter(Boolean).join(', ');
  const chords = chordWords(block);
  const rows = block.rows.filter((row) => row.slips.length > 0).map(rowWords);
  const silent = block.rows.filter((row) => row.row === null).map((row) => row.part.name);
  const endings = block.endings.map(
    (one) => `${one.part.name}, ${one.words}${one.detail.length > 0 ? `: ${one.detail.join('; ')}` : ''}`,
  );
  return [
    head,
    ...chords,
    ...rows,
    ...(silent.length > 0 && rows.length > 0 ? [`${silent.join(' and ')} silent`] : []),
    ...endings,
  ]
    .map((words) => `${words}.`)
    .join(' ');
}

/** Chords by bar: "Chords: bar 1 Am, bar 3 F and at its end E". */
function chordWords(block: ChartBlock): string[] {
  if (block.chords.length === 0) return [];
  const first = block.firstBar ?? 1;
  const named = block.chords.map((chord) => {
    const name = [chord.name, ...(chord.bass ? [`over ${chord.bass}`] : [])].filter(Boolean).join(' ');
    return Number.isInteger(chord.at) ? `bar ${first + chord.at} ${name}` : `then ${name}`;
  });
  return [`Chords: ${named.join(', ')}`];
}

function rowWords(row: ChartRow): string {
  const runs: { readonly slip: Slip; times: number }[] = [];
  for (const slip of row.slips) {
    const last = runs.at(-1);
    if (last && last.slip.use.id === slip.use.id && last.slip.how === slip.how) last.times++;
    else runs.push({ slip, times: 1 });
  }
  const words = runs.map(({ slip, times }) =>
    [
      slip.name,
      ...(slip.how ? [slip.how] : []),
      ...(times > 1 ? [playsWords(times)] : []),
      ...(slip.use.remark ? [slip.use.remark] : []),
    ].join(', '),
  );
  return `${row.part.name}: ${words.join('; then ')}`;
}
