'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import { checkClaim, parseClaim } from '@/core/check';
import { addClaim, dropClaim } from '@/core/command';
import type { Edit } from '@/core/edit';
import { placeInBars } from '@/core/rhythm';
import { findPart, findRiff, type Claim, type Piece } from '@/core/score';
import type { Quarter } from '@/core/time';
import { Button } from '@/ui/button';
import { TextField } from '@/ui/field';

type About = Omit<Claim, 'id' | 'words'>;

interface Props {
  readonly piece: Piece;
  /** What a new claim is said of. */
  readonly about: About;
  /** Which claims are listed. */
  readonly listed: (claim: Claim) => boolean;
  readonly onEdit: (edit: Edit) => void;
}

/** Things one may say, for whoever doesn't know what is understood. */
const EXAMPLES = [
  'all A minor pentatonic',
  'Dorian',
  'inverted power chord',
  'a minor third above Guitar 1',
  'same as bar 1 an octave up',
  'played twice',
  'all upstrokes',
  'E G A, frets 0 3 5, string 6',
  'bent to E',
  'in fifth position',
];

/** What is said of a stretch, each with whether it holds, and a line to say more. */
export function Claims({ piece, about, listed, onEdit }: Props) {
  const [words, setWords] = useState('');
  const claims = (piece.claims ?? []).filter(listed);
  const understood = words.trim() === '' ? null : parseClaim(words) !== null;
  const say = (): void => {
    const made = addClaim(piece, words, about);
    if (!made.ok) return;
    onEdit(made.value);
    setWords('');
  };
  return (
    <section aria-label="Said of it" className="flex flex-col gap-2">
      <h2 className="text-lg">Said of it</h2>
      {claims.length > 0 ? (
        <ul className="flex flex-col divide-y divide-rule border-y border-rule">
          {claims.map((claim) => (
            <ClaimLine key={claim.id} piece={piece} claim={claim} onDelete={() => onEdit(dropClaim(claim.id))} />
          ))}
        </ul>
      ) : null}
      <form
        className="flex items-end gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          say();
        }}
      >
        <div className="min-w-0 flex-1">
          <TextField
            label="Say something of it"
            list="claim-examples"
            value={words}
            maxLength={300}
            placeholder="all A minor pentatonic"
            onChange={(event) => setWords(event.target.value)}
          />
        </div>
        <Button type="submit" disabled={words.trim() === ''}>
          Say
        </Button>
        <datalist id="claim-examples">
          {EXAMPLES.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      </form>
      <p className="text-sm text-soft" role="status">
        {understood === false
          ? 'That can’t be checked; it is kept as you say it.'
          : understood
            ? 'Understood: it is checked against the notes.'
            : 'In your words; it is held against the notes.'}
      </p>
    </section>
  );
}

function ClaimLine({
  piece,
  claim,
  onDelete,
}: {
  readonly piece: Piece;
  readonly claim: Claim;
  readonly onDelete: () => void;
}) {
  const broken = checkClaim(piece, claim);
  const known = parseClaim(claim.words) !== null;
  const state = !known ? 'not checked' : broken.length > 0 ? 'doesn’t hold' : 'holds';
  return (
    <li className="flex items-start gap-2 py-1.5 text-[15px]">
      <span className="min-w-0 flex-1">
        “{claim.words}”<span className="block text-sm text-soft">{aboutWords(piece, claim)}</span>
      </span>
      <span
        className={`shrink-0 text-sm font-semibold ${broken.length > 0 ? 'text-question' : known ? 'text-proposed' : 'text-soft'}`}
      >
        {state}
      </span>
      <Button size="icon" tone="quiet" className="size-7" aria-label={`Delete “${claim.words}”`} onClick={onDelete}>
        <X size={15} aria-hidden />
      </Button>
    </li>
  );
}

/** What a claim is about, in words. */
export function aboutWords(piece: Piece, claim: About): string {
  const found = claim.riff ? findRiff(piece, claim.riff) : null;
  if (claim.riff && !found) return 'a riff that was deleted';
  if (found) {
    const from = claim.from ? `, from ${placeInBars(found.riff.meters, claim.from as Quarter)}` : '';
    return `${found.part.name}, ${found.riff.name}${from}`;
  }
  const section = claim.section ? piece.sections.find((one) => one.id === claim.section) : null;
  const part = claim.part ? findPart(piece, claim.part) : null;
  return [part?.name, section?.name].filter(Boolean).join(', ') || 'the piece';
}
