import { Ear } from '@/core/listen';
import { LEAD_SECONDS, pluckedString, stiffString, withNoise } from '@/core/listen/test-support/strings';
import { frequency } from '@/core/pitch';
import { seeded } from '@/core/synth';

/**
 * The tuner's ear over single strings from B0 to E6 with noise 20 dB below: how far off, how often
 * an octave off, how soon. Strings of the synth, and stiff strings made by their partials, which
 * share nothing with it. Wanted: median under 1 cent above 60 Hz and under 3 below, octave errors
 * under 0.5 %, an answer within 150 ms above 80 Hz.
 */
const RATE = 48_000;
const random = seeded(2026);
const quantile = (values: number[], q: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))] ?? NaN;

const makers = {
  'plucked by the synth': (midi: number) => pluckedString(midi, 1, RATE, random),
  'stiff, by partials': (midi: number) => stiffString(frequency(midi), midi < 45 ? 0.0003 : 0.0001, 1, RATE, random),
  'very stiff, by partials': (midi: number) =>
    stiffString(frequency(midi), midi < 45 ? 0.0006 : 0.0002, 1, RATE, random),
};

for (const db of [20, 12]) {
  for (const [name, make] of Object.entries(makers)) {
    const high: number[] = [];
    const low: number[] = [];
    const answers: number[] = [];
    let readings = 0;
    let octaves = 0;
    let silent = 0;
    let seconds = 0;
    const begun = performance.now();
    for (let midi = 23; midi <= 88; midi++) {
      for (let trial = 0; trial < 4; trial++) {
        const off = random() * 0.45;
        const hz = frequency(midi + off);
        const samples = withNoise(make(midi + off), db, RATE, random);
        seconds += samples.length / RATE;
        const ear = new Ear(RATE);
        let first = NaN;
        for (let i = 0; i < samples.length; i += 512) {
          for (const one of ear.push(samples.subarray(i, i + 512))) {
            if (one.at < LEAD_SECONDS) continue;
            readings++;
            const cents = 1200 * Math.log2(one.hz / hz);
            if (Math.abs(cents) > 100) {
              octaves++;
              continue;
            }
            if (Number.isNaN(first)) first = one.at - LEAD_SECONDS;
            (hz > 60 ? high : low).push(Math.abs(cents));
          }
        }
        if (Number.isNaN(first)) silent++;
        else if (hz > 80) answers.push(first);
      }
    }
    const speed = seconds / ((performance.now() - begun) / 1000);
    console.log(
      `${db} dB, ${name}: above 60 Hz median ${quantile(high, 0.5).toFixed(2)} cents (95 %: ${quantile(high, 0.95).toFixed(2)}), below ${quantile(low, 0.5).toFixed(2)} (95 %: ${quantile(low, 0.95).toFixed(2)}); ` +
        `wrong octave or note ${((100 * octaves) / readings).toFixed(2)} % of ${readings}; no answer ${silent}; first answer median ${Math.round(1000 * quantile(answers, 0.5))} ms, worst ${Math.round(1000 * Math.max(...answers))} ms; ${speed.toFixed(1)} x real time with making the sound`,
    );
  }
}
