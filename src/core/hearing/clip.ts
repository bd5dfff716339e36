import { z } from 'zod';

/**
 * What is known of a clip beside its sound. Kept with the clip, not in the piece: a piece may have several, each with
 * its own alignment.
 */
export const markSchema = z.object({ bar: z.number().int().min(-4).max(100_000), at: z.number().min(-60).max(36_000) });

export const clipDocumentSchema = z.object({
  name: z.string().trim().min(1).max(120),
  /** Whose recording it is and what may be done with it, in the instructor's words. */
  rights: z.string().max(400),
  /** The riff it is aligned to, by id. */
  riff: z.string().max(64).nullable(),
  /** Its bars are those of the whole form, and each riff is found in it by where the form plays it. */
  form: z.literal(true).optional(),
  /**
   * Bar lines laid on the clip: a bar, from 0, and where it begins, in seconds; ascending in both. Between them time
   * runs evenly.
   */
  marks: z
    .array(markSchema)
    .max(2000)
    .refine(
      (list) =>
        list.every((one, i) => {
          const b = list[i - 1];
          return !b || (one.bar > b.bar && one.at > b.at);
        }),
      'bars must go forward in the clip',
    ),
  /** Places worth coming back to. */
  markers: z.array(z.object({ at: z.number().min(0).max(36_000), say: z.string().max(120) })).max(500),
  /** What is used of it, in seconds; the whole where it is null. */
  trim: z
    .object({ from: z.number().min(0), to: z.number().min(0) })
    .refine((one) => one.to > one.from, 'a trim needs some length')
    .nullable(),
  /** The reference it is heard in, in cents from A 440. */
  cents: z.number().min(-100).max(100),
});

export type ClipDocument = Readonly<z.infer<typeof clipDocumentSchema>>;
export type Mark = Readonly<z.infer<typeof markSchema>>;

/** Clips a studio may bring, and in what shares they travel. */
export const CLIP_LIMITS = { bytes: 256 * 1024 * 1024, chunk: 1024 * 1024, seconds: 900 } as const;

export type ClipKind = 'wav' | 'flac' | 'mp3' | 'ogg' | 'm4a';

export const CLIP_TYPES: Readonly<Record<ClipKind, string>> = {
  wav: 'audio/wav',
  flac: 'audio/flac',
  mp3: 'audio/mpeg',
  ogg: 'audio/ogg',
  m4a: 'audio/mp4',
};

/**
 * What a file is by its first bytes (16 are enough); its name may say anything. Null where it is no sound this
 * program reads.
 */
export function clipKind(head: Uint8Array): ClipKind | null {
  const text = (from: number, to: number): string => String.fromCharCode(...head.subarray(from, to));
  if (text(0, 4) === 'RIFF' && text(8, 12) === 'WAVE') return 'wav';
  if (text(0, 4) === 'fLaC') return 'flac';
  if (text(0, 4) === 'OggS') return 'ogg';
  if (text(4, 8) === 'ftyp') return 'm4a';
  if (
    text(0, 3) === 'ID3' ||
    ((head[0] ?? 0) === 0xff && ((head[1] ?? 0) & 0xe0) === 0xe0 && ((head[1] ?? 0) & 0x06) !== 0)
  )
    return 'mp3';
  return null;
}

export const emptyClip = (name: string): ClipDocument => ({
  name: name.trim().slice(0, 120) || 'Clip',
  rights: '',
  riff: null,
  marks: [],
  markers: [],
  trim: null,
  cents: 0,
});
