import type { LeftOut } from '../music';

/** What is left out, counted by what it is, with where it stands first. */
export class LeftOutList {
  private readonly found = new Map<string, { count: number; where: string }>();

  add(what: string, where: string, count = 1): void {
    const known = this.found.get(what);
    if (known) known.count += count;
    else if (this.found.size < 200) this.found.set(what, { count, where });
  }

  list(): LeftOut[] {
    return [...this.found].map(([what, one]) => ({ what, ...one }));
  }
}
