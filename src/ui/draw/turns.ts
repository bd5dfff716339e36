import { startTransition, useEffect, useState } from 'react';

/** Drawings that wait for their turn: one step of one drawing in a frame, so that no frame carries a whole row. */
const waiting: (() => void)[] = [];
let asked = false;

function next(): void {
  const step = waiting.shift();
  asked = waiting.length > 0;
  if (asked) requestAnimationFrame(next);
  if (step) startTransition(step);
}

function takeTurn(step: () => void): () => void {
  waiting.push(step);
  if (!asked) {
    asked = true;
    requestAnimationFrame(next);
  }
  return () => {
    const at = waiting.indexOf(step);
    if (at >= 0) waiting.splice(at, 1);
  };
}

/**
 * How far a drawing of `count` layers may be drawn by now: from 1 to `count`, one more with each turn; whole where no
 * frames pass.
 */
export function useTurns(count: number): number {
  const [done, setDone] = useState(typeof window === 'undefined' ? count : 1);
  useEffect(() => (done < count ? takeTurn(() => setDone((n) => n + 1)) : undefined), [done, count]);
  return done;
}
