import { z } from 'zod';
import { BACKINGS } from '@/core/synth';
import type { SoundSettings } from './sound-settings';

/** What sounds beside a piece and how, kept on this device: it is how one listens, no part of the piece. */
const percent = z.number().min(0).max(100);
const speed = z.number().min(25).max(150);
const kept = z.object({
  beside: z.record(z.string().max(60), z.string().max(60)),
  backing: z.array(z.enum(BACKINGS)).max(BACKINGS.length),
  strips: z.record(z.string().max(60), z.object({ level: percent, muted: z.boolean(), solo: z.boolean() })),
  click: z.boolean(),
  double: z.boolean(),
  countIn: z.union([z.literal(0), z.literal(1), z.literal(2)]),
  ladder: z.object({
    on: z.boolean(),
    from: speed,
    to: speed,
    step: z.number().min(1).max(50),
    times: z.number().int().min(1).max(20),
  }),
});

const placeOf = (piece: string): string => `sounds:${piece}`;
type Store = Pick<Storage, 'getItem' | 'setItem'>;

/**
 * The settings kept for a piece; null where none are, or they can't be read. Nothing sounds in turn: readings come
 * and go.
 */
export function keptSounds(piece: string, store: Store): Omit<SoundSettings, 'turn'> | null {
  try {
    const read = kept.safeParse(JSON.parse(store.getItem(placeOf(piece)) ?? 'null'));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
}

export function keepSounds(piece: string, settings: SoundSettings, store: Store): void {
  try {
    store.setItem(placeOf(piece), JSON.stringify(kept.parse(settings)));
  } catch {
    // A full or closed store only costs the settings.
  }
}
