'use client';

import { useEffect, useEffectEvent, useState, type DragEvent } from 'react';
import { takeDropped } from '@/features/piece/dropped';
import { Frame } from '@/features/piece/frame';
import type { ClipEntry } from '@/server/repositories/clips';
import { cn } from '@/ui/cn';
import { RecordingsBar } from './recordings-bar';
import { HearBench } from './hear-bench';
import { useRecordings } from './use-recordings';

/** Recordings of a piece, and the one on the bench. */
export function HearPage({
  first,
  open,
  at,
}: {
  readonly first: readonly ClipEntry[];
  readonly open: string | null;
  readonly at: number | null;
}) {
  const {
    clips,
    chosen,
    clip,
    coming,
    fault,
    sound,
    recording,
    keepers,
    take,
    record,
    remove,
    choose,
    fetchAgain,
    cancel,
  } = useRecordings(first, open);
  const [over, setOver] = useState(false);
  // A recording that was dropped on another page of the piece.
  const takeWaiting = useEffectEvent(() => {
    const waiting = takeDropped('sound');
    if (waiting.length > 0) void take(waiting);
  });
  useEffect(() => takeWaiting(), []);
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void take(event.dataTransfer.files);
  };
  return (
    <Frame>
      <div
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
        className={cn('flex min-h-0 flex-1 flex-col', over && 'bg-chosen/30')}
      >
        <RecordingsBar
          {...{ clips, chosen, coming, recording, clip }}
          fetched={clip !== null && sound?.id === clip.id}
          onChoose={choose}
          onStop={cancel}
          onFetch={fetchAgain}
          onRecord={() => void record()}
          onFiles={(files) => void take(files)}
          onDelete={(entry) => void remove(entry)}
        />
        {fault ? (
          <p role="alert" className="border-b border-trouble bg-trouble-wash px-3 py-1.5 text-[15px]">
            {fault}
          </p>
        ) : null}
        {clip ? (
          <HearBench
            key={clip.id}
            clip={clip}
            sound={sound?.id === clip.id ? sound.sound : null}
            arrived={coming?.doing === 'fetching' ? coming.share : 1}
            startAt={at}
            keeper={keepers(clip)}
          />
        ) : (
          <main className="mx-auto flex max-w-xl flex-1 flex-col justify-center gap-3 text-center">
            <p className="font-display text-2xl">Drop a recording here</p>
            <p className="text-soft">
              WAV, FLAC, MP3, Ogg or M4A, up to 15 minutes. It stays with this piece, in your studio only. Bring in what
              you may use: your own takes, or what its owner lets you work from.
            </p>
          </main>
        )}
      </div>
    </Frame>
  );
}
