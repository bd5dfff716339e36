import { Link } from '@/ui/link';
import { type Insertion, type Standing } from '@/core/command';
import { type Called, type Understood } from '@/core/shorthand';
import { amountWords } from '@/core/rhythm';
import type { Quarter } from '@/core/time';
import { Button } from '@/ui/button';

interface UnderstandingProps {
  readonly text: string;
  readonly called: Called;
  /** The token that is told of. */
  readonly shown: Understood | null;
  /** Where the call goes, while nothing is typed. */
  readonly where: string;
  /** What it would be written over. */
  readonly standing: Standing | null;
  /** Enter was pressed once where locked notes stand. */
  readonly confirming: boolean;
  readonly onInsert: (how: Insertion) => void;
  readonly onSwap: (token: Understood, to: string) => void;
}

/** How the line is understood: its first fault, or the token at the cursor with its other readings. */
export function Understanding({
  text,
  called,
  shown,
  where,
  standing,
  confirming,
  onInsert,
  onSwap,
}: UnderstandingProps) {
  const wrong = called.faults[0] ?? null;
  return wrong ? (
    <p className="font-semibold text-trouble">{wrong.words}</p>
  ) : shown ? (
    <>
      <p>
        <span className="font-figures font-bold">{text.slice(shown.from, shown.to)}</span>
        <span className="text-soft"> is </span>
        {shown.label}
      </p>
      {shown.readings.slice(1).map((interpretation) => (
        <Button
          key={interpretation.text}
          tone="word"
          size="small"
          className="text-question"
          onClick={() => onSwap(shown, interpretation.text)}
        >
          or {interpretation.label}
        </Button>
      ))}
      {standing && standing.events.length > 0 ? <Over {...{ standing, confirming, onInsert }} /> : null}
      {called.warnings[0] ? <p className="text-question">{called.warnings[0].words}</p> : null}
      {called.open ? <p className="text-soft">{barOpenWords(called.open)}</p> : null}
    </>
  ) : (
    <p className="text-soft">
      {where}{' '}
      <Link href="/calls" className="underline decoration-line underline-offset-4">
        How to call notes
      </Link>
    </p>
  );
}

/** What a call would be written over, and how to insert it instead. */
function Over({
  standing,
  confirming,
  onInsert,
}: {
  readonly standing: Standing;
  readonly confirming: boolean;
  readonly onInsert: (how: Insertion) => void;
}) {
  const { events, locked } = standing;
  const count = events.reduce((sum, event) => sum + Math.max(1, event.notes.length), 0);
  const what = `${count} note${count === 1 ? '' : 's'}${locked > 0 ? `, ${locked} of them locked` : ''}`;
  return (
    <p className={confirming ? 'font-semibold text-trouble' : 'text-question'}>
      {confirming ? `Enter again writes over ${what}.` : `Enter writes over ${what}.`}{' '}
      <Button tone="word" size="small" title="Ctrl+Enter" onClick={() => onInsert('by-beat')}>
        Insert by beat
      </Button>{' '}
      <Button tone="word" size="small" title="Ctrl+Shift+Enter" onClick={() => onInsert('by-bar')}>
        Insert by bar
      </Button>
    </p>
  );
}

/** How the bar being called stands: what it still takes, or what is over and why. */
function barOpenWords({ bar, missing, causes }: NonNullable<Called['open']>): string {
  const over = missing.startsWith('-');
  const amount = amountWords((over ? missing.slice(1) : missing) as Quarter);
  return over
    ? `Bar ${bar + 1} is over by ${amount}${causes[0] ? `: ${causes.join('; or ')}` : ''}.`
    : `Bar ${bar + 1} takes ${amount} more.`;
}
