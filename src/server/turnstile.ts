/** How long one who forgot to leave holds a place, in milliseconds. */
const FORGOTTEN_MS = 15_000;

/**
 * Lets a few in at a time, in the order they came. A process that draws a hundred pages at once finishes them all at
 * the end; one that draws a few at a time has the first ready at once and the last no later. And whoever was answered
 * together comes back together: without it, crowds stay crowds.
 */
export class Turnstile {
  private inside = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(private readonly most: number) {}

  /** Waits for a place; what it gives makes it free again, once. */
  async enter(): Promise<() => void> {
    if (this.inside >= this.most) await new Promise<void>((go) => this.waiting.push(go));
    else this.inside++;
    let here = true;
    const leave = (): void => {
      if (!here) return;
      here = false;
      clearTimeout(forgotten);
      // The place goes from hand to hand, so that nobody slips in between.
      const next = this.waiting.shift();
      if (next) next();
      else this.inside--;
    };
    const forgotten = setTimeout(leave, FORGOTTEN_MS);
    forgotten.unref();
    return leave;
  }
}
