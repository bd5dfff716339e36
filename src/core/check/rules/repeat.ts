import { patchEntry, patchUse, setFrame } from '../../command';
import { playsWords } from '../../form';
import { type Piece } from '../../score';
import { asked, type CheckFinding, type Mend, type PieceRule } from '../types';
import { saidPlays } from './words';

/** "Repeat twice", "x4", "three times": how often something is said to be played, against how often it is. */
export const repeat: PieceRule = {
  id: 'repeat',
  name: '“repeat twice”: two plays, or three?',
  on: 'piece',
  find: (piece) => [...uses(piece), ...sections(piece), ...riffs(piece)],
};

interface Counted {
  readonly said: NonNullable<ReturnType<typeof saidPlays>>;
  readonly plays: number;
  readonly what: string;
  readonly locus: CheckFinding['locus'];
  readonly about: readonly unknown[];
  /** The edit that makes it so many plays, where there is one. */
  readonly make: (plays: number) => Mend['edit'] | null;
}

function question({ said, plays, what, locus, about, make }: Counted): CheckFinding[] {
  const { times, repeat: again, words } = said;
  if (!again && plays === times) return [];
  // "Repeat twice" is two plays to some and three to others; either is asked, once.
  const either = again ? [times, times + 1] : [times];
  const wrong = !either.includes(plays);
  if (again && !wrong && times < 2) return [];
  const mends = (wrong ? either : either.filter((n) => n !== plays)).flatMap((n): Mend[] => {
    const edit = make(n);
    return edit ? [{ words: `Make it ${playsWords(n)}`, edit }] : [];
  });
  return [
    asked('repeat', {
      locus,
      about,
      ground: [words, plays],
      words: wrong
        ? `It says "${words}", and ${what} is played ${playsWords(plays)}: which is right?`
        : `It says "${words}", and ${what} is played ${playsWords(plays)}: is that meant, or ${playsWords(either.find((n) => n !== plays) ?? plays)}?`,
      evidence: again ? 'A repeat may count the first time or not.' : null,
      likely: wrong ? 0.8 : 0.5,
      mends,
    }),
  ];
}

const uses = (piece: Piece): CheckFinding[] =>
  piece.sections.flatMap((section) =>
    section.rows.flatMap((row) =>
      row.uses.flatMap((use) => {
        const said = use.remark ? saidPlays(use.remark) : null;
        const riff = piece.parts.flatMap((part) => part.riffs).find((one) => one.id === use.riff);
        if (!said || !riff) return [];
        return question({
          ...{ said, plays: use.plays, what: `"${riff.name}" in "${section.name}"`, about: [use.id] },
          locus: { part: row.part, riff: riff.id, path: ['sections', section.id] },
          make: (plays) => {
            const made = patchUse(piece, section.id, row.part, use.id, { plays });
            return made.ok ? made.value : null;
          },
        });
      }),
    ),
  );

const sections = (piece: Piece): CheckFinding[] =>
  piece.sections.flatMap((section) => {
    const said = saidPlays(section.name) ?? (section.cue ? saidPlays(section.cue) : null);
    const entries = piece.form.filter((entry) => entry.section === section.id);
    const [entry] = entries;
    if (!said || !entry || entries.length > 1) return [];
    return question({
      ...{ said, plays: entry.plays, what: `"${section.name}"`, about: [section.id, 'section'] },
      locus: { path: ['sections', section.id] },
      make: (plays) => {
        const made = patchEntry(piece, entry.id, (one) => ({ ...one, plays }));
        return made.ok ? made.value : null;
      },
    });
  });

const riffs = (piece: Piece): CheckFinding[] =>
  piece.parts.flatMap((part) =>
    part.riffs.flatMap((riff) => {
      const said = saidPlays(riff.name);
      if (!said || riff.plays === undefined) return [];
      return question({
        ...{ said, plays: riff.plays, what: `"${riff.name}"`, about: [riff.id, 'riff'] },
        locus: { part: part.id, riff: riff.id },
        make: (plays) => {
          const made = setFrame(piece, riff.id, { plays });
          return made.ok ? made.value : null;
        },
      });
    }),
  );
