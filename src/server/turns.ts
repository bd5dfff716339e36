/**
 * One at a time for each key, in this process: whoever wants the same locked row waits here, not on a connection of
 * the pool that everybody else needs. Who has waited too long is told, as the database would tell it.
 */
export class Turns {
  private readonly last = new Map<string, Promise<unknown>>();

  constructor(private readonly patienceMs: number) {}

  async take<T>(key: string, does: () => Promise<T>): Promise<T> {
    const before = this.last.get(key) ?? Promise.resolve();
    let gaveUp = false;
    const mine = before.then(() => {
      if (gaveUp) throw busy(key);
      return does();
    });
    const settled = mine.catch(() => undefined);
    this.last.set(key, settled);
    void settled.then(() => {
      if (this.last.get(key) === settled) this.last.delete(key);
    });
    let timer: ReturnType<typeof setTimeout> | undefined;
    const tooLong = new Promise<never>((_, reject) => {
      timer = setTimeout(() => {
        gaveUp = true;
        reject(busy(key));
      }, this.patienceMs);
    });
    // The wait is bounded, not the work: that has the database's own bounds.
    void before.then(() => clearTimeout(timer));
    return Promise.race([mine, tooLong]);
  }
}

const busy = (key: string): Error => new Error(`${key} is busy`);
