const ALPHABET = '0123456789abcdefghjkmnpqrstvwxyz';

/**
 * A short id that does not clash with those taken: the prefix and the lowest free number in a
 * readable base-32. Deterministic, so the same edits give the same document everywhere.
 */
export function stableId(prefix: string, taken: ReadonlySet<string>, from = taken.size): string {
  for (let n = from; ; n++) {
    let digits = '';
    for (let rest = n; digits === '' || rest > 0; rest = Math.floor(rest / 32)) digits = ALPHABET[rest % 32] + digits;
    const id = prefix + digits;
    if (!taken.has(id)) return id;
  }
}
