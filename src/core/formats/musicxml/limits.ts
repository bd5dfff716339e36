/** What a file may hold at most: a hostile one meets a wall, not a hang. */
export const MUSICXML_LIMITS = {
  /** Of the file as it comes, and of the score in it once unpacked. */
  bytes: 16 * 1024 * 1024,
  elements: 1_200_000,
  depth: 40,
  notes: 60_000,
  measures: 2000,
  parts: 64,
  /** Quarters of one measure. */
  measure: 256,
} as const;
