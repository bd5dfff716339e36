/** What a text may hold at most. */
export const TEXT_TAB_LIMITS = { characters: 400_000, lines: 12_000, line: 2000, notes: 20_000, bars: 2000 } as const;
