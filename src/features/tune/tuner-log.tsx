import { X } from 'lucide-react';
import { useEffect } from 'react';
import { judgeLog, type ReadingKind, type TunerReading } from '@/core/tuner';
import { Button } from '@/ui/button';
import { deleteReadingAction, logReadingAction, readingsAction } from './actions';

const KIND: Readonly<Record<ReadingKind, string>> = {
  open: 'open',
  capo: 'capo',
  harmonic12: '12th harmonic',
  stopped12: '12th stopped',
};

interface Props {
  readonly instrument: string;
  readonly readings: readonly TunerReading[] | null;
  readonly onReadings: (readings: readonly TunerReading[]) => void;
  /** A steady reading that can be written down now. */
  readonly ready: {
    readonly string: number;
    readonly kind: ReadingKind;
    readonly capo: number;
    readonly cents: number;
  } | null;
}

/** Readings kept for an instrument, and what they mean together. */
export function TunerLog({ instrument, readings, onReadings, ready }: Props) {
  useEffect(() => {
    let wanted = true;
    void readingsAction(instrument).then((list) => {
      if (wanted) onReadings(list);
    });
    return () => {
      wanted = false;
    };
  }, [instrument, onReadings]);
  const report = judgeLog(readings ?? []);
  const doubted = new Set(report.contradictions.flatMap((one) => one.readings));
  return (
    <section aria-label="Tuner log">
      <div className="flex items-baseline gap-4">
        <h2 className="text-xl">Log of this instrument</h2>
        <a href="/api/logs/tuner" download className="text-sm underline decoration-line underline-offset-4">
          All readings as CSV
        </a>
        <Button
          size="small"
          tone="yours"
          className="ml-auto"
          disabled={!ready}
          onClick={() => {
            if (ready) void logReadingAction(instrument, ready).then(onReadings);
          }}
        >
          {ready
            ? `Write down string ${ready.string}, ${ready.cents >= 0 ? '+' : '−'}${Math.abs(ready.cents).toFixed(1)}`
            : 'Write down a steady reading'}
        </Button>
      </div>
      {report.words.length > 0 ? (
        <ul aria-label="What it means" className="mt-2 flex flex-col gap-1 border-l-4 border-proposed pl-3 text-[15px]">
          {report.words.map((word) => (
            <li key={word}>{word}</li>
          ))}
        </ul>
      ) : (
        <p className="mt-1 text-[15px] text-soft">
          Read a string open and with the capo, or its 12th-fret harmonic and the stopped note; what the readings mean
          together stands here.
        </p>
      )}
      {report.contradictions.map((one) => (
        <p key={one.readings.join()} className="mt-2 border-l-4 border-question pl-3 text-[15px]">
          {one.why}
        </p>
      ))}
      {readings && readings.length > 0 ? (
        <table className="mt-3 w-full text-[15px]">
          <thead className="text-left text-sm text-soft">
            <tr>
              <th className="font-semibold">String</th>
              <th className="font-semibold">Sounded</th>
              <th className="text-right font-semibold">Cents</th>
              <th className="pl-6 font-semibold">When</th>
              <th>
                <span className="sr-only">Strike out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {[...readings]
              .reverse()
              .slice(0, 24)
              .map((reading) => (
                <tr
                  key={reading.id}
                  className={`border-t border-rule ${doubted.has(reading.id) ? 'bg-question-wash/60' : ''}`}
                >
                  <td className="py-0.5 font-figures font-bold">{reading.string}</td>
                  <td>
                    {KIND[reading.kind]}
                    {reading.kind === 'capo' ? ` ${reading.capo}` : ''}
                  </td>
                  <td className="text-right font-figures">
                    {reading.cents >= 0 ? '+' : '−'}
                    {Math.abs(reading.cents).toFixed(1)}
                  </td>
                  <td className="pl-6 font-figures text-soft">
                    {new Date(reading.at * 1000).toISOString().slice(0, 16).replace('T', ' ')}
                  </td>
                  <td className="text-right">
                    <Button
                      tone="quiet"
                      size="icon"
                      className="size-7"
                      aria-label={`Strike out the reading of string ${reading.string}, ${reading.cents.toFixed(1)} cents`}
                      onClick={() => void deleteReadingAction(instrument, reading.id).then(onReadings)}
                    >
                      <X size={14} aria-hidden />
                    </Button>
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      ) : null}
    </section>
  );
}
