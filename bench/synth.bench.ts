import { must } from '../src/core/base';
import { frequency } from '../src/core/pitch';
import { renderRiff, seeded, Stream, StringVoice } from '../src/core/synth';
import { ZERO } from '../src/core/time';
import { riffEnd } from '../src/core/score';
import { buildDemoPiece } from '../src/server/demo';
import { DEMO_PIECES } from '../demo/pieces';

/** Pitch of the plucked string by an estimator that is no part of it, and speed against real time. */
const RATE = 44_100;

function centsOff(samples: Float32Array, f0: number): number {
  const periods = Math.max(1, Math.floor(0.4 * f0));
  const start = Math.round(0.2 * RATE);
  const width = Math.round(0.4 * RATE);
  const match = (lag: number): number => {
    let sum = 0;
    for (let i = 0; i < width; i++) sum += (samples[start + i] ?? 0) * (samples[start + i + lag] ?? 0);
    return sum;
  };
  const near = Math.round((periods * RATE) / f0);
  let best = near;
  for (let lag = near - 20, top = -Infinity; lag <= near + 20; lag++)
    if (match(lag) > top) [top, best] = [match(lag), lag];
  const [a, b, c] = [match(best - 1), match(best), match(best + 1)];
  return 1200 * Math.log2((periods * RATE) / (best + (a - c) / (2 * (a - 2 * b + c))) / f0);
}

const errors: number[] = [];
for (let midi = 23; midi <= 88; midi++) {
  const voice = new StringVoice(RATE, 21);
  const out = new Float32Array(RATE * 1.2);
  voice.pluck(midi, 0.85, seeded(midi));
  voice.render(out, 0, out.length, 1);
  errors.push(Math.abs(centsOff(out, frequency(midi))));
}
errors.sort((a, b) => a - b);
console.log(
  `pitch error B0 to E6: median ${errors[33]?.toFixed(3)} cents, worst ${errors.at(-1)?.toFixed(3)} cents (goal < 1)`,
);

for (const demo of DEMO_PIECES.slice(-2)) {
  const piece = must(buildDemoPiece(demo));
  const part = piece.parts[0];
  const riff = part?.riffs[0];
  if (!part || !riff) continue;
  const began = performance.now();
  const rendered = renderRiff(riff, part.setup, piece.context.tempo, {
    rate: RATE,
    speed: 0.25,
    from: ZERO,
    to: riffEnd(riff),
    click: true,
    countIn: 4,
    seed: 1,
  });
  const took = (performance.now() - began) / 1000;
  console.log(
    `${piece.title} at quarter speed: ${(rendered.samples.length / RATE).toFixed(1)} s of sound in ${took.toFixed(2)} s, ${(rendered.samples.length / RATE / took).toFixed(0)} x real time`,
  );
}

// Three parts and a click, drawn in blocks as the player draws them; what a change of tempo costs until its first
// block is there.
const pieces = DEMO_PIECES.map((demo) => must(buildDemoPiece(demo)));
const tracks = pieces
  .flatMap((piece) =>
    piece.parts.flatMap((part) => part.riffs.slice(0, 1).map((riff) => ({ setup: part.setup, versions: [riff] }))),
  )
  .slice(0, 3);
const lead = tracks[0]?.versions[0];
if (lead && pieces[0]) {
  const plan = {
    rate: RATE,
    tempo: pieces[0].context.tempo,
    tracks,
    from: ZERO,
    to: riffEnd(lead),
    begin: ZERO,
    countIn: 0,
    double: true,
    seed: 1,
    rungs: [{ speed: 0.5, times: 2 }],
  };
  let frames = 0;
  const began = performance.now();
  const stream = new Stream(plan);
  for (let block = stream.next(RATE); block; block = stream.next(RATE)) frames += block.click.length;
  const took = (performance.now() - began) / 1000;
  const firsts = [0.25, 0.5, 0.75, 1, 1.25]
    .map((speed) => {
      const asked = performance.now();
      new Stream({ ...plan, rungs: [{ speed, times: 1 }] }).next(Math.round(0.3 * RATE));
      return performance.now() - asked;
    })
    .sort((a, b) => a - b);
  console.log(
    `${tracks.length} parts and a click: ${(frames / RATE / took).toFixed(0)} x real time (goal 20); after a change of tempo the first 0.3 s are there in ${firsts[2]?.toFixed(0)} ms (worst ${firsts.at(-1)?.toFixed(0)})`,
  );
}
