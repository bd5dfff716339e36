import { useState } from 'react';
import { setupWords } from '@/core/instrument';
import { tempoOf, type Part, type Piece } from '@/core/score';
import { questionOf, ringWords, type FinderQuestion, type PairAnswer } from '@/core/setup-finder';
import { Button } from '@/ui/button';
import { useLongWork } from './use-long-work';

/** Two parts that sound together: the pair of set-ups, and which strings of whom ring at the same time. */
export function PairFinder({
  piece,
  part,
  question,
}: {
  readonly piece: Piece;
  readonly part: Part;
  readonly question: FinderQuestion;
}) {
  const others = piece.parts.filter((one) => one.id !== part.id && one.riffs.some((riff) => riff.events.length > 0));
  const [chosen, setChosen] = useState('');
  const [chosenRiff, setChosenRiff] = useState('');
  const other = others.find((one) => one.id === chosen) ?? others[0];
  const riffs = other?.riffs.filter((riff) => riff.events.length > 0) ?? [];
  const riff = riffs.find((one) => one.id === chosenRiff) ?? riffs[0];
  const { share, answer, fault, ask, stop } = useLongWork<PairAnswer>();
  const second =
    other && riff
      ? questionOf([riff], other.setup, tempoOf(piece, riff), [], {
          instruments: [other.setup.instrument],
          capo: question.limits.capo,
        }).question
      : null;
  if (!other || !second) return null;
  const box = 'min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]';
  return (
    <section aria-label="Two players" className="flex flex-col gap-2 border-t border-rule pt-3">
      <h2 className="text-lg">With another player</h2>
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col gap-1">
          <span className="text-sm font-semibold text-soft">Sounds together with</span>
          <select className={box} value={other.id} onChange={(event) => setChosen(event.target.value)}>
            {others.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col gap-1">
          <span className="text-sm font-semibold text-soft">playing</span>
          <select className={box} value={riff?.id ?? ''} onChange={(event) => setChosenRiff(event.target.value)}>
            {riffs.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <Button onClick={() => ask((door, progress) => door.findPair(question, second, progress))}>
          Find the pair
        </Button>
        {share !== null ? (
          <>
            <progress aria-label="Looking for the pair" value={share} max={1} className="w-32" />
            <Button size="small" onClick={stop}>
              Stop
            </Button>
          </>
        ) : null}
        {fault ? <span role="alert">It broke off: {fault}.</span> : null}
      </div>
      {answer ? (
        <>
          <p>{answer.words}</p>
          <ol className="text-[15px]">
            {answer.pairs.slice(0, 4).map((pair) => (
              <li key={pair.words} className="flex gap-3 border-t border-rule/60 py-1">
                <span className="w-12 text-right font-figures font-bold">{Math.round(pair.share * 100)} %</span>
                <span>
                  {part.name}: {setupWords(pair.setups[0])}
                  <br />
                  {other.name}: {setupWords(pair.setups[1])}
                </span>
              </li>
            ))}
          </ol>
          {answer.combined.length > 0 ? (
            <table className="w-full text-[15px]">
              <caption className="text-left text-sm text-soft">What rings together, at the fullest moments</caption>
              <thead className="text-left text-sm text-soft">
                <tr>
                  <th className="pr-3 font-semibold">Bar</th>
                  <th className="pr-3 font-semibold">{part.name}</th>
                  <th className="font-semibold">{other.name}</th>
                </tr>
              </thead>
              <tbody>
                {answer.combined.map((one) => (
                  <tr key={one.at} className="border-t border-rule/60 align-top">
                    <td className="pr-3 font-figures">{one.bar + 1}</td>
                    <td className="pr-3">{ringWords(one.strings[0] ?? [])}</td>
                    <td>{ringWords(one.strings[1] ?? [])}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ) : null}
        </>
      ) : null}
    </section>
  );
}
