'use client';

import { useDeferredValue, useEffect, useState } from 'react';
import { retune, type RetuneOption, type RetuneWay } from '@/core/command';
import { readKey } from '@/core/harmony';
import { keyName, parseName, pitchClass, shiftKey } from '@/core/pitch';
import { keyOf, type Piece } from '@/core/score';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { TextField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import { PartPaths } from './part-paths';
import { useEdit } from './setup-inputs';
import { useLongWork } from './use-long-work';

const WAYS: Readonly<Record<RetuneWay, readonly [string, string]>> = {
  capo: ['By capo', 'Shapes stay; what can’t wear a capo is placed anew.'],
  detune: ['By tuning', 'All strings go up or down alike; shapes stay.'],
  anew: ['Placed anew', 'Tunings and capos stay; every place is found again.'],
};

/** The whole piece in a singer's key: the three ways there, for all parts at once. */
export function RetunePage({ partId }: { readonly partId: string }) {
  const piece = usePiece((state) => state.document);
  return (
    <Frame partId={piece.parts.some((part) => part.id === partId) ? partId : null}>
      <main className="min-h-0 flex-1 overflow-y-auto pb-8">
        <PartPaths piece={piece.id} part={partId} />
        <Retune piece={piece} />
      </main>
    </Frame>
  );
}

/** Semitones to a key from the piece's, the nearer way. */
function stepsTo(piece: Piece, text: string): number | string {
  const typed = text.trim();
  if (/^[+-−]?\d+$/.test(typed)) return Number(typed.replace('−', '-'));
  const key = keyOf(piece, null);
  if (!key) return 'The piece has no key yet: type the steps, such as -2, or say its key under Set up.';
  const to = readKey(typed);
  if (!to.ok) return to.error.words;
  const [a, b] = [parseName(key.tonic), parseName(to.value.tonic)];
  if (!a || !b) return 'That is no key.';
  const up = (((pitchClass(b) - pitchClass(a)) % 12) + 12) % 12;
  return up > 6 ? up - 12 : up;
}

function Retune({ piece }: { readonly piece: Piece }) {
  const edit = useEdit();
  const toast = useToast();
  const [text, setText] = useState('-2');
  const wanted = useDeferredValue(text);
  const steps = stepsTo(piece, wanted);
  const fault = typeof steps === 'string' ? steps : Math.abs(steps) > 11 ? 'At most 11 semitones either way.' : null;
  const by = typeof steps === 'number' && fault === null ? steps : 0;
  const {
    answer,
    ask,
    stop,
    fault: broken,
  } = useLongWork<{ readonly of: Piece; readonly by: number; readonly list: readonly RetuneOption[] }>();
  useEffect(() => {
    if (by === 0) return stop();
    ask(async (door) => ({ of: piece, by, list: await door.retune(piece, by) }));
  }, [piece, by, ask, stop]);
  const now = answer?.of === piece && answer.by === by ? answer.list : null;
  const options = by === 0 ? [] : (now ?? []);
  const key = keyOf(piece, null);
  const use = (option: RetuneOption): void => {
    if (typeof steps !== 'number') return;
    const made = retune(piece, option, steps);
    if (!made.ok) return toast(made.error.words);
    if (edit(made.value)) toast('The whole piece is moved. Undo brings it back.');
  };
  return (
    <>
      <div className="flex flex-wrap items-end gap-5 pt-4">
        <div className="w-64">
          <TextField
            label="To the key, or by semitones"
            value={text}
            onChange={(event) => setText(event.target.value)}
            error={fault}
            hint={
              typeof steps === 'number' && key && fault === null
                ? `${keyName(key)} becomes ${keyName(shiftKey(key, steps))}`
                : 'such as -2, 3 or G minor'
            }
          />
        </div>
      </div>
      {fault === null && options.length === 0 ? (
        <p role="status" className="pt-4 text-soft">
          {by === 0
            ? 'Nothing moves by 0 semitones.'
            : broken
              ? `It broke off: ${broken}.`
              : 'Trying it with every hand…'}
        </p>
      ) : null}
      <div className="grid grid-cols-3 gap-8 pt-5 max-[899px]:grid-cols-1">
        {options.map((option) => (
          <section key={option.way} aria-label={WAYS[option.way][0]} className="flex flex-col gap-2">
            <h2 className="text-xl">{WAYS[option.way][0]}</h2>
            <p className="text-[15px] text-soft">{WAYS[option.way][1]}</p>
            <p>
              <b className={option.losses === 0 ? 'text-proposed' : 'text-trouble'}>
                {option.losses === 0
                  ? 'Nothing is lost'
                  : `${option.losses} thing${option.losses === 1 ? '' : 's'} lost or changed`}
              </b>
              , effort {option.cost.before.toFixed(0)} → {option.cost.after.toFixed(0)}
            </p>
            <ul className="text-[15px]">
              {option.parts.map((part) => (
                <li key={part.part} className="border-t border-rule/70 py-1.5">
                  {part.words}
                  {part.openWas > 0 ? `; ${part.openKept} open strings, before ${part.openWas}` : ''}
                  {part.losses > 0 ? <span className="text-trouble">; {part.losses} lost</span> : null}
                  {part.retune?.cautions.length ? (
                    <span className="block text-sm text-trouble">{part.retune.cautions.join(' ')}</span>
                  ) : null}
                  {part.losses > 0 ? (
                    <details className="text-sm">
                      <summary className="min-h-6 cursor-pointer">What is lost</summary>
                      <ul>
                        {part.riffs
                          .flatMap((one) => one.losses.map((loss) => `${one.riff.name}: ${loss.words}`))
                          .slice(0, 30)
                          .map((words, i) => (
                            <li key={i}>{words}</li>
                          ))}
                      </ul>
                    </details>
                  ) : null}
                </li>
              ))}
            </ul>
            <p className="border-l-4 border-rule pl-3 text-[15px]">
              <b>For the band: </b>
              {option.line}
            </p>
            <Button className="self-start" aria-label={`Use: ${WAYS[option.way][0]}`} onClick={() => use(option)}>
              Use this
            </Button>
          </section>
        ))}
      </div>
      <p className="max-w-prose pt-5 text-sm text-soft">
        Tuning up raises tension: slacken first, keep the face away, protect the eyes. More than a whole step is not
        offered upwards, nor more than a fourth downwards.
      </p>
    </>
  );
}
