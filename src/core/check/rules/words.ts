import { parseName, pitchClass } from '../../pitch';
import { nominalName, soundingName } from '../../instrument';
import { DEFAULT_SCHOOLS } from '../../schools';
import { type Note, type Part, type Riff, type RiffEvent } from '../../score';
import { placeWords, whereIn } from '../places';
import { asked, type CheckFinding, type RiffRule } from '../types';

/**
 * What is said beside a note (a remark, the evidence, the reason of a place) against the note: another fret, another
 * string, another name than is written. Counts from the capo; strings by number or by either of their letters.
 */
export const words: RiffRule = {
  id: 'name-place',
  name: 'words beside a note that say another place',
  on: 'riff',
  reads: (part) => [part.setup],
  find: (riff, part) =>
    riff.events.flatMap((event) => [
      ...(event.remark ? about(event.remark, event.notes, event, riff, part) : []),
      ...event.notes.flatMap((note) =>
        [note.evidence?.remark, note.place?.reason].flatMap((text) =>
          text ? about(text, [note], event, riff, part) : [],
        ),
      ),
    ]),
};

const ORDINALS: Readonly<Record<string, number>> = {
  ...{ first: 1, second: 2, third: 3, fourth: 4, fifth: 5, sixth: 6, seventh: 7, eighth: 8, ninth: 9, tenth: 10 },
  ...{ eleventh: 11, twelfth: 12 },
};
const numbered = (word: string): number => ORDINALS[word.toLowerCase()] ?? Number.parseInt(word, 10);

const FRET = /\bfret (\d{1,2})\b|\b(\d{1,2}(?:st|nd|rd|th)|[a-z]+(?:st|nd|rd|th)) fret\b/i;
const STRING =
  /\bstring (\d{1,2})\b|\b(\d{1,2}(?:st|nd|rd|th)|first|second|third|fourth|fifth|sixth|seventh|eighth) string\b/i;
const LETTER = /\b(?:low |high )?([A-G](?:#|b|♯|♭)?) string\b/;
const OPEN = /\bopen (?:string\b|[A-G](?:#|b|♯|♭)?(?![\w#♯♭]))/;
/** "C# at fret 4", "the E here": only a name said of the note itself. */
const NAME =
  /^\s*(?:it is |that is |the |an? )?([A-G](?:#|b|♯|♭)?)(?![\w#♯♭])(?! (?:string|minor|major|chord|pentatonic|m\b))/;

function about(text: string, notes: readonly Note[], event: RiffEvent, riff: Riff, part: Part): CheckFinding[] {
  const placed = notes.filter((note) => note.place);
  if (placed.length === 0) return [];
  const is = placed.map(placeWords).join(', ');
  const wrong = (what: string): CheckFinding =>
    asked('name-place', {
      locus: {
        part: part.id,
        riff: riff.id,
        event: event.id,
        ...(notes.length === 1 && notes[0] ? { note: notes[0].id } : {}),
      },
      about: [event.id, text],
      ground: [text, placed.map((note) => [note.pitch.midi, note.place?.string, note.place?.fret])],
      words: `At ${whereIn(riff, event)} it says "${text}", but the note is on ${is}: which is right?`,
      evidence: what,
      likely: 0.7,
    });
  const fret = FRET.exec(text);
  const said = fret ? numbered(fret[1] ?? fret[2] ?? '') : NaN;
  if (Number.isInteger(said) && !placed.some((note) => note.place?.fret === said))
    return [wrong(`Fret ${said} is said.`)];
  const string = STRING.exec(text);
  const number = string ? numbered(string[1] ?? string[2] ?? '') : NaN;
  if (Number.isInteger(number) && !placed.some((note) => note.place?.string === number))
    return [wrong(`String ${number} is said.`)];
  const letter = LETTER.exec(text)?.[1];
  if (letter && !placed.some((note) => stringIsCalled(note, letter, part)))
    return [wrong(`The ${letter} string is said.`)];
  if (OPEN.test(text) && !placed.some((note) => note.place?.fret === 0)) return [wrong('An open string is said.')];
  const name = NAME.exec(text)?.[1];
  const read = name ? parseName(name) : null;
  // A lone letter may be the beginning of a sentence: only with a place beside it is it the note's name.
  if (read && (fret || string) && !placed.some((note) => note.pitch.midi % 12 === pitchClass(read)))
    return [wrong(`${name} is said, and that place sounds otherwise in this tuning.`)];
  return [];
}

function stringIsCalled({ place }: Note, letter: string, part: Part): boolean {
  const read = parseName(letter);
  if (!place || !read) return true;
  const options = { naming: DEFAULT_SCHOOLS.notes };
  return [nominalName(part.setup, place.string, options), soundingName(part.setup, place.string, options)].some(
    (name) => {
      const other = parseName(name);
      return other !== null && pitchClass(other) === pitchClass(read);
    },
  );
}

/** How often something is said to be played, in words: the number, and whether "repeat" leaves open what is counted. */
export function saidPlays(
  text: string,
): { readonly times: number; readonly repeat: boolean; readonly words: string } | null {
  const match =
    /\b(repeat(?:ed|s)?|play(?:ed|s)?)?\s*\b(once|twice|thrice|(\d{1,2}|two|three|four|five|six|eight) times)\b(?! as)|\b(?:x\s?(\d{1,2})|(\d{1,2})\s?x)\b/i.exec(
      text,
    );
  if (!match) return null;
  const numbers: Readonly<Record<string, number>> = {
    once: 1,
    twice: 2,
    thrice: 3,
    two: 2,
    three: 3,
    four: 4,
    five: 5,
    six: 6,
    eight: 8,
  };
  const word = (match[3] ?? match[2] ?? '').toLowerCase();
  const times = Number(match[4] ?? match[5] ?? numbers[word] ?? Number.parseInt(word, 10));
  if (!Number.isInteger(times)) return null;
  return { times, repeat: /^repeat/i.test(match[1] ?? ''), words: match[0].trim() };
}
