import { AudioLines, Mic, Square } from 'lucide-react';
import type { ClipEntry } from '@/server/repositories/clips';
import { Button } from '@/ui/button';
import { cn } from '@/ui/cn';
import type { Recording } from './microphone';

export interface Coming {
  readonly name: string;
  readonly share: number;
  readonly doing: 'sending' | 'decoding' | 'fetching';
}

interface Props {
  readonly clips: readonly ClipEntry[];
  readonly chosen: string | null;
  /** The one on the bench; null where none is. */
  readonly clip: ClipEntry | null;
  readonly fetched: boolean;
  readonly coming: Coming | null;
  readonly recording: Recording | null;
  readonly onChoose: (id: string) => void;
  readonly onStop: () => void;
  readonly onFetch: () => void;
  readonly onRecord: () => void;
  readonly onFiles: (files: readonly File[]) => void;
  readonly onDelete: (clip: ClipEntry) => void;
}

/** The piece's recordings: which is on the bench, and how others come in. */
export function RecordingsBar({
  clips,
  chosen,
  clip,
  fetched,
  coming,
  recording,
  onChoose,
  onStop,
  onFetch,
  onRecord,
  onFiles,
  onDelete,
}: Props) {
  return (
    <section aria-label="Recordings" className="flex items-center gap-4 border-b border-rule py-1.5">
      <h2 className="sr-only">Recordings</h2>
      <ul className="flex min-w-0 flex-wrap gap-1" aria-label="Choose a recording">
        {clips
          .filter((clip) => clip.state === 'kept')
          .map((clip) => (
            <li key={clip.id}>
              <button
                type="button"
                aria-pressed={clip.id === chosen}
                onClick={() => onChoose(clip.id)}
                className={cn(
                  'min-h-8 rounded-sm border px-2.5 text-[15px] font-semibold',
                  clip.id === chosen ? 'border-ink bg-ink text-sheet' : 'border-rule hover:border-line',
                )}
              >
                {clip.document.name}
              </button>
            </li>
          ))}
      </ul>
      <div className="ml-auto flex items-center gap-2">
        {coming ? (
          <p role="status" className="flex items-center gap-2 text-[15px]">
            {coming.doing === 'sending' ? 'Bringing in' : 'Fetching'} {coming.name}: {Math.round(100 * coming.share)} %
            <Button size="small" onClick={onStop}>
              Stop
            </Button>
          </p>
        ) : clip && !fetched ? (
          <Button size="small" onClick={onFetch}>
            Fetch it
          </Button>
        ) : null}
        <Button size="small" onClick={onRecord}>
          {recording ? <Square size={15} aria-hidden /> : <Mic size={15} aria-hidden />}
          {recording ? 'Stop recording' : 'Record'}
        </Button>
        <label className="inline-flex min-h-8 cursor-pointer items-center gap-1.5 rounded-sm border border-rule bg-sheet px-2 text-sm font-semibold hover:border-line focus-within:outline-2">
          <AudioLines size={15} aria-hidden /> Bring in a recording
          <input
            type="file"
            accept=".wav,.flac,.mp3,.ogg,.m4a,audio/*"
            className="sr-only"
            multiple
            onChange={(event) => {
              onFiles([...(event.target.files ?? [])]);
              event.target.value = '';
            }}
          />
        </label>
        {clip ? (
          <Button tone="word" size="small" onClick={() => onDelete(clip)}>
            Delete
          </Button>
        ) : null}
      </div>
    </section>
  );
}
