'use client';

import { useRefresh } from '@/features/studio/studio';
import { useState } from 'react';
import { Button, buttonClass } from '@/ui/button';
import { SettingsFrame } from './settings-frame';

type State =
  | { readonly at: 'rest' }
  | { readonly at: 'busy'; readonly name: string }
  | { readonly at: 'done'; readonly words: string }
  | { readonly at: 'fault'; readonly words: string };

interface Said {
  readonly pieces?: number;
  readonly clips?: number;
  readonly kept?: number;
  readonly error?: { readonly message?: string };
}

const LOGS = [
  ['/api/logs/tuner', 'Tuner readings'],
  ['/api/logs/requests', 'Requests'],
] as const;

/** Everything of the studio in one file, and back again on this machine or another. */
export function ArchivePage() {
  const refresh = useRefresh();
  const [file, setFile] = useState<File | null>(null);
  const [state, setState] = useState<State>({ at: 'rest' });
  const restore = async (): Promise<void> => {
    if (!file) return;
    setState({ at: 'busy', name: file.name });
    const answer = await fetch('/api/archive', { method: 'POST', body: file }).catch(() => null);
    const said = (await answer?.json().catch(() => null)) as Said | null;
    if (!answer?.ok || !said)
      return setState({
        at: 'fault',
        words: said?.error?.message ?? 'The server did not answer: nothing was put back. Try again in a moment.',
      });
    setFile(null);
    setState({ at: 'done', words: restoredWords(said) });
    refresh();
  };
  return (
    <SettingsFrame
      at="/settings/archive"
      title="Archive"
      lead="Everything of the studio in one file: pieces with their histories, recordings, the rack, the tuner log, requests and settings."
    >
      <div className="grid max-w-[1000px] grid-cols-2 gap-10 max-[899px]:grid-cols-1">
        <section aria-label="Make an archive" className="flex flex-col gap-3">
          <h2 className="text-xl">Make an archive</h2>
          <p>A zip that opens anywhere; each piece in it is a file of its own. Keep it where this machine is not.</p>
          <a href="/api/archive" download className={buttonClass({ tone: 'yours', className: 'self-start' })}>
            Download the archive
          </a>
        </section>
        <section aria-label="Put an archive back" className="flex flex-col gap-3">
          <h2 className="text-xl">Put an archive back</h2>
          <p>All of it or nothing, held against its own list byte by byte. What is here already stays as it is here.</p>
          <label className="flex flex-col gap-1">
            <span className="text-sm font-semibold text-soft">Archive</span>
            <input
              type="file"
              accept=".zip,application/zip"
              className="text-[15px]"
              onChange={(event) => setFile(event.target.files?.[0] ?? null)}
            />
          </label>
          <Button className="self-start" disabled={!file || state.at === 'busy'} onClick={() => void restore()}>
            {state.at === 'busy' ? 'Putting back…' : 'Put it back'}
          </Button>
          {state.at === 'done' ? <p role="status">{state.words}</p> : null}
          {state.at === 'fault' ? (
            <p role="alert" className="border-l-4 border-trouble bg-trouble-wash px-4 py-3">
              {state.words}
            </p>
          ) : null}
        </section>
        <section aria-label="Logs" className="flex flex-col gap-2">
          <h2 className="text-xl">Logs as CSV</h2>
          <ul className="flex flex-wrap gap-x-6">
            {LOGS.map(([href, name]) => (
              <li key={href}>
                <a href={href} download className="underline decoration-line underline-offset-4">
                  {name}
                </a>
              </li>
            ))}
          </ul>
          <p className="text-sm text-soft">The history of a piece is saved from its Files page.</p>
        </section>
      </div>
    </SettingsFrame>
  );
}

function restoredWords({ pieces = 0, clips = 0, kept = 0 }: Said): string {
  const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;
  const here = kept > 0 ? ` ${count(kept, 'piece')} ${kept === 1 ? 'was' : 'were'} here already and stayed.` : '';
  return `Put back: ${count(pieces, 'piece')}, ${count(clips, 'recording')}.${here}`;
}
