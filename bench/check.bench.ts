import { ASKED, proofread } from '../src/core/check';
import { must } from '../src/core/base';
import { barCount } from '../src/core/score';
import { DEMO_PIECES } from '../demo/pieces';
import { buildDemoPiece } from '../src/server/demo';
import { bigPiece } from './lib/big-form';
import { compose, type Idioms } from './check/compose';
import { randomOf } from './lib/random';
import { FAULTS } from './check/faults';

/**
 * Slips planted in clean pieces: how many of each kind are asked about, and how many questions are asked of pieces
 * nothing was planted in. First on other idioms and seeds than the thresholds were set on, then on those they were
 * tuned on. A slip counts as found where it is asked (not "probably meant") at its place.
 */

const PIECES = Number(process.argv.find((one) => one.startsWith('--pieces='))?.slice(9) ?? 24);
const TRIES = 2;

function untouched(idioms: Idioms): void {
  let [bars, asked] = [0, 0];
  const rules = new Map<string, number>();
  for (let seed = 0; seed < PIECES; seed++) {
    const made = compose(seed, idioms);
    bars += made.bars;
    for (const { rule, severity, likely } of proofread(made.piece)) {
      if (severity === 'open' || likely < ASKED) continue;
      asked++;
      rules.set(rule, (rules.get(rule) ?? 0) + 1);
    }
  }
  const list = [...rules].map(([rule, n]) => `${rule} ${n}`).join(', ');
  console.log(
    `untouched, ${idioms}: ${asked} questions in ${bars} bars, ${((asked / bars) * 32).toFixed(2)} per 32 bars (${list})`,
  );
}

function planted(idioms: Idioms): void {
  let [all, found] = [0, 0];
  const pieces = Array.from({ length: PIECES }, (_, seed) => {
    const { piece } = compose(seed, idioms);
    return { piece, known: new Set(proofread(piece).map(({ id, ground }) => `${id} ${ground}`)) };
  });
  for (const [name, fault] of Object.entries(FAULTS)) {
    let [tries, hits] = [0, 0];
    for (const [seed, { piece, known }] of pieces.entries()) {
      for (let n = 0; n < TRIES; n++) {
        const made = fault(piece, randomOf(seed * 31 + n + 5));
        if (!made) continue;
        tries++;
        if (
          proofread(made.piece).some(
            (one) => one.likely >= ASKED && made.hit(one) && !known.has(`${one.id} ${one.ground}`),
          )
        )
          hits++;
      }
    }
    all += tries;
    found += hits;
    const share = tries === 0 ? NaN : hits / tries;
    console.log(
      `  ${name.padEnd(40)} ${String(hits).padStart(4)} of ${String(tries).padStart(4)}  ${Number.isNaN(share) ? '   -' : `${(100 * share).toFixed(0).padStart(4)} %`}${share < 0.9 ? '  below 90' : ''}`,
    );
  }
  console.log(`planted, ${idioms}: ${found} of ${all}, ${((100 * found) / all).toFixed(1)} %`);
}

function demo(): void {
  let [bars, asked] = [0, 0];
  for (const one of DEMO_PIECES) {
    // What the band said of it is there to be asked about.
    const { claims: _, ...piece } = must(buildDemoPiece(one));
    bars += piece.parts.reduce((sum, part) => sum + part.riffs.reduce((n, riff) => n + barCount(riff), 0), 0);
    for (const { severity, likely, words } of proofread(piece)) {
      if (severity === 'open' || likely < ASKED) continue;
      asked++;
      console.log(`  ${one.title}: ${words}`);
    }
  }
  console.log(`demo pieces: ${asked} questions in ${bars} bars, ${((asked / bars) * 32).toFixed(2)} per 32 bars`);
}

function speed(): void {
  const text = JSON.stringify(bigPiece());
  const parse = performance.now();
  const piece = JSON.parse(text) as ReturnType<typeof bigPiece>;
  const parsed = performance.now();
  proofread(piece);
  const whole = performance.now();
  const after: number[] = [];
  let current = piece;
  for (let i = 0; i < 9; i++) {
    const [part, ...parts] = current.parts;
    const [riff, ...riffs] = part?.riffs ?? [];
    const [event, ...events] = riff?.events ?? [];
    if (!part || !riff || !event) break;
    current = {
      ...current,
      parts: [{ ...part, riffs: [{ ...riff, events: [{ ...event }, ...events] }, ...riffs] }, ...parts],
    };
    const began = performance.now();
    proofread(current);
    after.push(performance.now() - began);
  }
  const one = after.sort((a, b) => a - b)[4] ?? 0;
  console.log(
    `400 bars, 6 parts: whole ${(whole - parsed).toFixed(0)} ms (goal 2,000), after one note ${one.toFixed(0)} ms (goal 100); reading its JSON took ${(parsed - parse).toFixed(0)} ms`,
  );
}

for (const idioms of ['unseen', 'tuned'] as const) {
  untouched(idioms);
  planted(idioms);
}
demo();
speed();
