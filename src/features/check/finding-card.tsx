'use client';

import { Link } from '@/ui/link';
import { useState } from 'react';
import { RULE_NAMES, type CheckFinding, type FindingState } from '@/core/check';
import { answerTo } from '@/core/command';
import type { Edit } from '@/core/edit';
import type { Piece } from '@/core/score';
import { Button } from '@/ui/button';
import { TextField } from '@/ui/field';
import { Popover } from '@/ui/popover';
import { placeOf } from './where';

interface Props {
  readonly piece: Piece;
  readonly finding: CheckFinding;
  readonly state: FindingState;
  /** The edit, and how the history names it. */
  readonly onEdit: (edit: Edit, what?: string) => void;
}

const ASKED_STATES: ReadonlySet<FindingState> = new Set(['open', 'again', 'probably']);

/** One question: its place, what is asked, why, and its answers. */
export function FindingCard({ piece, finding, state, onEdit }: Props) {
  const place = placeOf(piece, finding);
  const [why, setWhy] = useState(false);
  const answer = piece.answers?.find((one) => one.finding === finding.id);
  const open = finding.severity === 'open';
  return (
    <li
      data-rule={finding.rule}
      className={`border-l-4 py-1.5 pl-3 ${finding.severity === 'error' ? 'border-trouble' : open ? 'border-rule' : 'border-question'}`}
    >
      <p className="text-[16px] leading-snug">
        <Link href={place.href} className="font-semibold underline decoration-line underline-offset-4">
          {place.words.charAt(0).toUpperCase() + place.words.slice(1)}
        </Link>
        {': '}
        {finding.words}
      </p>
      {state === 'again' ? (
        <p className="text-[15px] text-soft">
          You once said {answer?.answer === 'later' ? 'later' : 'it is meant'}
          {answer?.reason ? ` (“${answer.reason}”)` : ''}; what it rests on has changed.
        </p>
      ) : null}
      {state === 'meant' && answer ? (
        <p className="text-[15px] text-soft">Meant{answer.reason ? `: “${answer.reason}”` : ''}.</p>
      ) : null}
      {why ? (
        <p className="text-[15px] text-soft">
          {finding.evidence ?? 'The question says all there is.'} Looked for: {RULE_NAMES[finding.rule] ?? finding.rule}
          .
        </p>
      ) : null}
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        {finding.mends.map((mend, i) => (
          <Button
            key={mend.words}
            size="small"
            tone={i === 0 && ASKED_STATES.has(state) && !open ? 'yours' : 'plain'}
            onClick={() => onEdit(mend.edit, `mended: ${mend.words}`)}
          >
            {mend.words}
          </Button>
        ))}
        {ASKED_STATES.has(state) ? (
          <>
            {open ? null : <MeantButton finding={finding} onEdit={onEdit} />}
            {state === 'probably' ? null : (
              <Button size="small" onClick={() => onEdit(answerTo(finding, 'later'))}>
                Later
              </Button>
            )}
          </>
        ) : (
          <Button size="small" onClick={() => onEdit(answerTo(finding, null))}>
            Ask again
          </Button>
        )}
        <Button size="small" tone="quiet" aria-expanded={why} onClick={() => setWhy(!why)}>
          Why?
        </Button>
      </div>
    </li>
  );
}

/** "Meant" in one press; the reason may be said with it. */
function MeantButton({ finding, onEdit }: Pick<Props, 'finding' | 'onEdit'>) {
  const [reason, setReason] = useState('');
  return (
    <span className="inline-flex">
      <Button size="small" className="rounded-r-none" onClick={() => onEdit(answerTo(finding, 'meant'))}>
        Meant
      </Button>
      <Popover
        title="Why it is meant"
        trigger={
          <Button size="small" className="rounded-l-none border-l-0" aria-label="Meant, with a reason">
            …
          </Button>
        }
      >
        <form
          className="flex w-64 flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            onEdit(answerTo(finding, 'meant', reason));
          }}
        >
          <TextField
            label="Why it is meant"
            value={reason}
            maxLength={300}
            onChange={(event) => setReason(event.target.value)}
          />
          <Button type="submit" tone="yours">
            Meant
          </Button>
        </form>
      </Popover>
    </span>
  );
}
