import { useDeferredValue, type Ref } from 'react';
import { mapOf } from '@/core/form';
import type { Piece } from '@/core/score';
import { barStart, meterAt, ZERO } from '@/core/time';
import { SoundTransport, type TransportHandle } from '@/features/hear/transport';
import { Button } from '@/ui/button';
import type { Stretch } from './chart-line';
import { FollowPart } from './follow-part';
import { useFormSounds } from './use-form-sounds';

/** All of the piece played: the player below the chart, and above it what one part plays now. */
export function FormPlayer({
  piece: now,
  stretch,
  onStretch,
  follow,
  onFollow,
  sounding,
  playing,
  onPlaying,
  onFault,
  at,
  handle,
}: {
  readonly piece: Piece;
  readonly stretch: Stretch | null;
  readonly onStretch: (stretch: Stretch | null) => void;
  readonly follow: string | null;
  readonly onFollow: (part: string | null) => void;
  readonly sounding: number | null;
  readonly playing: boolean;
  readonly onPlaying: (playing: boolean) => void;
  readonly onFault: (message: string) => void;
  readonly at: () => number | null;
  readonly handle: Ref<TransportHandle>;
}) {
  // What is to sound is worked out after what was changed has been drawn.
  const piece = useDeferredValue(now);
  const map = mapOf(piece);
  const sounds = useFormSounds(piece);
  const followed = sounds.lines.find((line) => line.part.id === follow) ?? null;
  const from = stretch ? barStart(map.meters, Math.min(map.bars, stretch.from) - 1) : ZERO;
  const to = stretch ? barStart(map.meters, Math.min(map.bars, stretch.to)) : map.end;
  const beats = meterAt(map.meters, stretch ? stretch.from - 1 : 0).beats;
  return (
    <>
      {followed ? (
        <FollowPart
          line={followed}
          bar={Math.min(map.bars - 1, sounding ?? (stretch?.from ?? 1) - 1)}
          {...{ playing, at }}
        />
      ) : null}
      <footer className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2">
        <SoundTransport
          ref={handle}
          riff={sounds.frame}
          sounds={sounds}
          tempo={map.tempo}
          {...{ from, to, beats, onFault, onPlaying }}
          partial={stretch !== null}
          loopFirst={false}
        />
        <label className="flex items-center gap-1.5 text-[15px]">
          Follow
          <select
            className="min-h-8 rounded-sm border border-line/70 bg-sheet px-1.5"
            value={follow ?? ''}
            onChange={(event) => onFollow(event.target.value || null)}
          >
            <option value="">the chart only</option>
            {sounds.lines.map(({ part }) => (
              <option key={part.id} value={part.id}>
                {part.name}
              </option>
            ))}
          </select>
        </label>
        <StretchFields stretch={stretch} bars={map.bars} onStretch={onStretch} />
      </footer>
    </>
  );
}

/** From which bar to which is played. */
function StretchFields({
  stretch,
  bars,
  onStretch,
}: {
  readonly stretch: Stretch | null;
  readonly bars: number;
  readonly onStretch: (stretch: Stretch | null) => void;
}) {
  const now = stretch ?? { from: 1, to: bars };
  const take = (from: number, to: number): void => {
    const first = Math.max(1, Math.min(bars, Math.round(from) || 1));
    const last = Math.max(first, Math.min(bars, Math.round(to) || bars));
    onStretch(first === 1 && last === bars ? null : { from: first, to: last });
  };
  const field = 'min-h-8 w-14 rounded-sm border border-line/70 bg-sheet px-1.5 text-right font-figures text-[15px]';
  return (
    <div className="flex items-center gap-1.5 text-[15px]">
      <label className="flex items-center gap-1.5">
        from bar
        <input
          key={`from ${now.from}`}
          type="number"
          className={field}
          min={1}
          max={bars}
          defaultValue={now.from}
          onBlur={(event) => take(Number(event.target.value), now.to)}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
      <label className="flex items-center gap-1.5">
        to
        <input
          key={`to ${now.to}`}
          type="number"
          className={field}
          min={1}
          max={bars}
          defaultValue={now.to}
          onBlur={(event) => take(now.from, Number(event.target.value))}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
      {stretch ? (
        <Button tone="word" size="small" onClick={() => onStretch(null)}>
          all of it
        </Button>
      ) : null}
    </div>
  );
}
