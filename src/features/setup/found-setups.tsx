import { useState } from 'react';
import { capoWords, setupWords, type Setup } from '@/core/instrument';
import type { Clue, FinderAnswer, Ranked } from '@/core/setup-finder';
import type { Riff } from '@/core/score';
import { Button } from '@/ui/button';

const SHOWN = 5;
const REASONS = 3;

/** The ranking: each set-up with its share, its reasons, what sounds the same, and one step to use it. */
export function FoundSetups({
  answer,
  starts,
  riffs,
  now,
  onUse,
  onClue,
}: {
  readonly answer: FinderAnswer;
  readonly starts: readonly { readonly riff: string; readonly bar: number }[];
  readonly riffs: readonly Riff[];
  readonly now: Setup;
  readonly onUse: (setup: Setup) => void;
  /** Answers the question: a clue more, and it is looked for again. */
  readonly onClue: (clue: Clue) => void;
}) {
  const [all, setAll] = useState(false);
  const list = all ? answer.ranking : answer.ranking.slice(0, SHOWN);
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-2xl">{answer.certain ? 'Most likely' : 'Can’t tell yet'}</h2>
      <p>{answer.words}</p>
      {answer.ask ? (
        <p className="border-l-4 border-question pl-3">
          <b>What would decide: </b>
          {answer.ask.words}
          <span className="mt-1 flex flex-wrap gap-2">
            {[answer.ask.first, answer.ask.second].map(({ words, clue }) => (
              <Button key={words} size="small" onClick={() => onClue(clue)}>
                {words}
              </Button>
            ))}
          </span>
        </p>
      ) : null}
      {starts.length > 1 ? (
        <p className="text-sm text-soft">
          Bars are counted through:{' '}
          {starts
            .map(({ riff, bar }) => `${riffs.find((one) => one.id === riff)?.name ?? ''} from bar ${bar + 1}`)
            .join(', ')}
          .
        </p>
      ) : null}
      <ol className="flex flex-col">
        {list.map((one) => (
          <Answer key={setupWords(one.setup)} one={one} now={now} onUse={onUse} />
        ))}
      </ol>
      {answer.ranking.length > SHOWN ? (
        <Button size="small" tone="word" className="self-start" onClick={() => setAll(!all)}>
          {all ? 'Show fewer' : `Show ${answer.ranking.length - SHOWN} more`}
        </Button>
      ) : null}
      <p className="text-sm text-soft">
        {answer.looked} sets of open strings were looked at. Tuning a string up raises its tension and can snap it:
        slacken first, keep the face away.
      </p>
    </div>
  );
}

const same = (a: Setup, b: Setup): boolean =>
  a.instrument.id === b.instrument.id && a.open.join() === b.open.join() && capoWords(a) === capoWords(b);

function Answer({
  one,
  now,
  onUse,
}: {
  readonly one: Ranked;
  readonly now: Setup;
  readonly onUse: (setup: Setup) => void;
}) {
  const [why, setWhy] = useState(false);
  const [alike, setAlike] = useState(false);
  const percent = Math.round(one.share * 100);
  const name = setupWords(one.setup);
  return (
    <li className="border-t border-rule py-3">
      <div className="flex items-start gap-3">
        <span className="w-14 shrink-0 text-right font-figures text-xl font-bold">{percent} %</span>
        <div className="min-w-0 flex-1">
          <h3 className="text-lg">
            {name}
            {same(one.setup, now) ? <span className="ml-2 text-sm text-soft">as it is now</span> : null}
          </h3>
          <span aria-hidden className="mt-1 block h-1.5 rounded-sm bg-rule">
            <span className="block h-full rounded-sm bg-proposed" style={{ width: `${Math.max(1, percent)}%` }} />
          </span>
          <ul className="mt-1.5 text-[15px]">
            {(why ? one.reasons : one.reasons.slice(0, REASONS)).map((reason) => (
              <li key={reason.words}>{reason.words}</li>
            ))}
          </ul>
          <div className="mt-1 flex flex-wrap items-center gap-x-4">
            {one.reasons.length > REASONS ? (
              <Button size="small" tone="word" aria-expanded={why} onClick={() => setWhy(!why)}>
                {why ? 'Fewer reasons' : 'Why?'}
              </Button>
            ) : null}
            {one.equivalent.length > 0 ? (
              <Button size="small" tone="word" aria-expanded={alike} onClick={() => setAlike(!alike)}>
                {one.equivalent.length} more sound{one.equivalent.length === 1 ? 's' : ''} the same
              </Button>
            ) : null}
          </div>
          {alike ? (
            <ul aria-label={`Sound the same as ${name}`} className="mt-1 max-h-60 overflow-y-auto text-[15px]">
              {one.equivalent.map((it) => (
                <li
                  key={setupWords(it)}
                  className="flex items-center justify-between gap-2 border-t border-rule/60 py-0.5"
                >
                  {setupWords(it)}
                  <Button size="small" tone="quiet" aria-label={`Use ${setupWords(it)}`} onClick={() => onUse(it)}>
                    Use
                  </Button>
                </li>
              ))}
            </ul>
          ) : null}
        </div>
        <Button
          size="small"
          disabled={same(one.setup, now)}
          aria-label={`Use ${name}`}
          onClick={() => onUse(one.setup)}
        >
          Use it
        </Button>
      </div>
    </li>
  );
}
