'use client';

import { Link } from '@/ui/link';
import { Search } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { WordKind } from '@/core/search';
import type { FoundWords } from '@/server/repositories/search';
import type { MusicHit } from '@/server/search';
import { Button } from '@/ui/button';
import { TextField } from '@/ui/field';
import { searchMusicAction, searchWordsAction } from './actions';
import { DeskFrame } from './frame';

const KIND_WORDS: Readonly<Record<WordKind, string>> = {
  title: 'title',
  part: 'part',
  riff: 'riff',
  section: 'section',
  variant: 'variant',
  reason: 'reason',
  evidence: 'evidence',
  remark: 'remark',
  tone: 'tone',
  cue: 'cue',
  credit: 'credit',
  request: 'request',
  'handed over': 'handed over',
  series: 'series',
};

/** Where something that was said leads. */
function hrefOf({ piece, request, place }: FoundWords): string {
  if (request) return `/desk?request=${request}`;
  if (place.riff) return `/pieces/${piece ?? ''}/riffs/${place.riff}`;
  if (place.section) return `/pieces/${piece ?? ''}/form?section=${place.section}`;
  if (place.part) return `/pieces/${piece ?? ''}/parts/${place.part}`;
  return `/pieces/${piece ?? ''}`;
}

interface Answers {
  readonly of: string;
  readonly words: readonly FoundWords[];
  readonly music: readonly MusicHit[];
  readonly fault: string | null;
}
const NOTHING: Answers = { of: '', words: [], music: [], fault: null };

/** Everything said in the studio, and every riff by its music. */
export function SearchPage({ start }: { readonly start: { readonly by: 'words' | 'music'; readonly sought: string } }) {
  const [by, setBy] = useState(start.by);
  const [sought, setSought] = useState(start.sought);
  const [place, setPlace] = useState({ instrument: 'guitar-6', tuning: '' });
  const [found, setFound] = useState(NOTHING);
  const [waiting, setWaiting] = useState(false);
  const asked = useRef('');
  const field = useRef<HTMLInputElement>(null);
  // One comes here to type.
  useEffect(() => field.current?.focus(), [by]);

  useEffect(() => {
    const text = sought.trim();
    const question = JSON.stringify([by, text, place]);
    asked.current = question;
    // The address leads back to what was sought.
    window.history.replaceState(
      null,
      '',
      text ? `?${by === 'music' ? 'calls' : 'q'}=${encodeURIComponent(text)}` : '?',
    );
    const timer = setTimeout(
      () =>
        void (async () => {
          if (text === '') return setFound(NOTHING);
          setWaiting(true);
          const answer = await ask(by, text, place).catch((): Answers => ({
            ...NOTHING,
            of: text,
            fault: 'The server did not answer. Try again in a moment.',
          }));
          if (asked.current !== question) return;
          setFound(answer);
          setWaiting(false);
        })(),
      200,
    );
    return () => clearTimeout(timer);
  }, [by, sought, place]);

  const count = by === 'words' ? found.words.length : found.music.length;
  return (
    <DeskFrame
      at="/search"
      title="Search"
      lead="Everything that was said, and every riff by how it goes: also moved along the neck and in another tuning."
    >
      <div className="flex flex-wrap items-end gap-3 pb-4">
        <div role="group" aria-label="Search by" className="flex gap-1">
          {(['words', 'music'] as const).map((one) => (
            <Button
              key={one}
              tone={by === one ? 'plain' : 'quiet'}
              aria-pressed={by === one}
              onClick={() => setBy(one)}
            >
              {one === 'words' ? 'Words' : 'Music'}
            </Button>
          ))}
        </div>
        <label className="relative min-w-64 flex-1">
          <span className="sr-only">{by === 'words' ? 'Words sought' : 'Notes sought, called'}</span>
          <Search size={18} aria-hidden className="absolute top-1/2 left-3 -translate-y-1/2 text-soft" />
          <input
            type="search"
            ref={field}
            value={sought}
            spellCheck={by === 'words'}
            onChange={(event) => setSought(event.target.value)}
            placeholder={by === 'words' ? 'A title, a riff, a reason, a tone, who asked' : 'on 5 3 3 5 3'}
            className={`min-h-11 w-full rounded-sm border border-line/70 bg-sheet pr-3 pl-10 placeholder:text-soft ${by === 'music' ? 'font-figures' : ''}`}
          />
        </label>
        {by === 'music' ? (
          <>
            <label className="flex flex-col gap-1">
              <span className="text-sm font-semibold text-soft">Called for</span>
              <select
                value={place.instrument}
                onChange={(event) => setPlace((now) => ({ ...now, instrument: event.target.value }))}
                className="min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]"
              >
                <option value="guitar-6">guitar</option>
                <option value="guitar-7">guitar of 7 strings</option>
                <option value="bass-4">bass</option>
                <option value="bass-5">bass of 5 strings</option>
              </select>
            </label>
            <div className="w-40">
              <TextField
                label="Tuning"
                placeholder="standard"
                value={place.tuning}
                maxLength={120}
                onChange={(event) => setPlace((now) => ({ ...now, tuning: event.target.value }))}
              />
            </div>
          </>
        ) : null}
      </div>
      <p role="status" className="pb-2 text-soft">
        {found.fault ? null : waiting && count === 0 ? 'Looking…' : found.of === '' ? '' : `${count} found`}
      </p>
      {found.fault ? (
        <p role="alert" className="text-[15px] font-semibold text-trouble">
          {found.fault}
        </p>
      ) : by === 'words' ? (
        <ul className="divide-y divide-rule">
          {found.words.map((one, i) => (
            <li key={i}>
              <Link href={hrefOf(one)} prefetch={false} className="flex items-baseline gap-4 py-2 hover:bg-chosen/25">
                <span className="w-24 shrink-0 text-sm text-soft">{KIND_WORDS[one.kind]}</span>
                <span className="min-w-0 flex-1 text-[17px] leading-6">{one.words}</span>
                <span className="w-56 shrink-0 text-[15px] text-soft max-[599px]:w-28">
                  {one.kind === 'title' ? '' : one.title}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      ) : (
        <ul className="divide-y divide-rule">
          {found.music.map((hit) => (
            <li key={`${hit.piece} ${hit.riff}`}>
              <Link
                href={`/pieces/${hit.piece}/riffs/${hit.riff}`}
                prefetch={false}
                className="flex flex-wrap items-baseline gap-x-4 py-2 hover:bg-chosen/25"
              >
                <b className="font-display text-lg">{hit.riffName}</b>
                <span className="text-[15px]">
                  {hit.title}, {hit.part}, bar {hit.match.bar + 1}
                </span>
                <span className="text-[15px] text-proposed">{hit.words}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </DeskFrame>
  );
}

async function ask(
  by: 'words' | 'music',
  text: string,
  place: { readonly instrument: string; readonly tuning: string },
): Promise<Answers> {
  if (by === 'words') return { ...NOTHING, of: text, words: await searchWordsAction(text) };
  const music = await searchMusicAction(text, place);
  return music.ok ? { ...NOTHING, of: text, music: music.value } : { ...NOTHING, of: text, fault: music.error.words };
}
