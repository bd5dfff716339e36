import { z } from 'zod';
import type { DeepReadonly } from '../base';

/**
 * What stands on paper, as lines, shapes and letters with their places: captured from a page that is laid out, and
 * written as SVG or PDF. Lengths are CSS pixels (96 an inch).
 */

const finite = z.number().min(-1e6).max(1e6);
const matrix = z.tuple([finite, finite, finite, finite, finite, finite]);
/** "#20242b", or none. */
const colour = z
  .string()
  .regex(/^#[0-9a-f]{6}$/)
  .nullable();

export const shapeSchema = z.object({
  kind: z.literal('shape'),
  /** SVG path data. */
  d: z
    .string()
    .max(20_000)
    .regex(/^[MmLlHhVvCcSsQqTtAaZz\d\s,.eE+-]*$/, 'path data'),
  matrix,
  fill: colour,
  stroke: colour,
  width: z.number().min(0).max(1000),
  dash: z.array(z.number().min(0).max(1000)).max(8),
  round: z.boolean(),
  opacity: z.number().min(0).max(1),
});

export const letteringSchema = z.object({
  kind: z.literal('text'),
  text: z.string().max(2000),
  /** Where the first letter begins, on its base line. */
  x: finite,
  y: finite,
  matrix,
  family: z.enum(['text', 'figures', 'display', 'music']),
  size: z.number().min(0.5).max(400),
  weight: z.number().min(100).max(900),
  italic: z.boolean(),
  fill: colour,
  opacity: z.number().min(0).max(1),
});

export const paperSchema = z.object({
  title: z.string().max(200),
  author: z.string().max(300),
  /** Stands under every page, at the left. */
  footer: z.string().max(400),
  /** Of the sheet of paper and its margin. */
  page: z.object({
    width: z.number().min(100).max(4000),
    height: z.number().min(100).max(4000),
    margin: z.number().min(0).max(400),
  }),
  /** Of what is laid out, as one long sheet without margins. */
  width: z.number().min(1).max(8000),
  height: z.number().min(1).max(400_000),
  items: z.array(z.discriminatedUnion('kind', [shapeSchema, letteringSchema])).max(200_000),
  /** Stretches, from and to, that stay together. */
  whole: z.array(z.tuple([finite, finite])).max(50_000),
  /** Where a new page begins. */
  breaks: z.array(finite).max(2000),
  /** Headings, for the list of contents: where each stands. */
  headings: z
    .array(z.object({ text: z.string().max(200), y: finite, level: z.number().int().min(1).max(6) }))
    .max(2000),
});

export type Shape = DeepReadonly<z.infer<typeof shapeSchema>>;
export type Lettering = DeepReadonly<z.infer<typeof letteringSchema>>;
export type PaperItem = Shape | Lettering;
export type PaperLayout = DeepReadonly<z.infer<typeof paperSchema>>;

/** Where an item stands, top to bottom: letters by their size, shapes by their matrix and path. */
export function spanOf(item: PaperItem): readonly [number, number] {
  const [, b, , d, , f] = item.matrix;
  if (item.kind === 'text') {
    const y = b * item.x + d * item.y + f;
    const size = item.size * Math.hypot(b, d);
    return [y - size * 0.8, y + size * 0.25];
  }
  const ys = pointsOf(item.d).map(([x, y]) => b * x + d * y + f);
  if (ys.length === 0) return [f, f];
  const half = (item.width / 2) * Math.hypot(b, d);
  return [Math.min(...ys) - half, Math.max(...ys) + half];
}

/**
 * The points a path names, as a box of it: enough to know where it lies. Arcs and curves count by their control
 * points, which lie round them.
 */
export function pointsOf(d: string): [number, number][] {
  const out: [number, number][] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  for (const match of d.matchAll(/([MmLlHhVvCcSsQqTtAaZz])([^MmLlHhVvCcSsQqTtAaZz]*)/g)) {
    const letter = match[1] ?? 'M';
    const numbers = [...(match[2] ?? '').matchAll(/[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/g)].map((one) =>
      Number(one[0]),
    );
    const relative = letter === letter.toLowerCase();
    const upper = letter.toUpperCase();
    if (upper === 'Z') [x, y] = [startX, startY];
    const size = SIZES[upper] ?? 2;
    for (let i = 0; size > 0 && i + size <= numbers.length; i += size) {
      const at = numbers.slice(i, i + size);
      const [baseX, baseY] = relative ? [x, y] : [0, 0];
      if (upper === 'H') x = baseX + (at[0] ?? 0);
      else if (upper === 'V') y = baseY + (at[0] ?? 0);
      else if (upper === 'A') {
        const [radius = 0] = at;
        const [endX, endY] = [baseX + (at[5] ?? 0), baseY + (at[6] ?? 0)];
        out.push([Math.min(x, endX) - radius, Math.min(y, endY)], [Math.max(x, endX) + radius, Math.max(y, endY)]);
        [x, y] = [endX, endY];
      } else {
        for (let k = 0; k + 2 < at.length; k += 2) out.push([baseX + (at[k] ?? 0), baseY + (at[k + 1] ?? 0)]);
        [x, y] = [baseX + (at.at(-2) ?? 0), baseY + (at.at(-1) ?? 0)];
      }
      if (upper === 'M' && i === 0) [startX, startY] = [x, y];
      out.push([x, y]);
    }
  }
  return out;
}

const SIZES: Readonly<Record<string, number>> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 };
