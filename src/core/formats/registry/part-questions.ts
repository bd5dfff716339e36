import { finding } from '../../base';
import { stringCount, type Setup } from '../../instrument';
import { barOf } from '../../time';
import { agreement, usualTrust, type Music, type Question } from '../music';

/**
 * What has to be asked of a part on the set-up it is to be played on: strings that are not there, frets that sound
 * otherwise than the pitch beside them. The answer to `trust-N` is what `takeIn` believes.
 */
export function partQuestions(music: Music, index: number, setup: Setup): Question[] {
  const part = music.parts[index];
  if (!part) return [];
  const agrees = agreement(part, setup);
  if (agrees.placed === 0 || agrees.differing + agrees.outside === 0) return [];
  const bar = agrees.first ? barOf(music.meters, agrees.first.at).bar + 1 : 1;
  const where = bar < 1 ? 'in the pickup' : `in bar ${bar}`;
  const said = [
    ...(agrees.differing > 0
      ? [
          agrees.by !== null && agrees.by % 12 === 0
            ? `${agrees.differing} of ${agrees.placed} places sound ${Math.abs(agrees.by) / 12 === 1 ? 'an octave' : `${Math.abs(agrees.by) / 12} octaves`} ${agrees.by > 0 ? 'above' : 'below'} the pitches beside them`
            : `${agrees.differing} of ${agrees.placed} places sound otherwise than the pitches beside them`,
        ]
      : []),
    ...(agrees.outside > 0
      ? [`${agrees.outside} lie on strings or frets that ${stringCount(setup)} strings of this set-up do not have`]
      : []),
  ];
  return [
    {
      id: `trust-${index}`,
      finding: finding('fret-pitch', 'question', `${part.name}: ${said.join('; ')}, first ${where}.`, {
        path: ['part', index + 1, 'bar', bar],
      }),
      answers: [
        { id: 'places', words: 'String and fret are right: take the pitches they sound' },
        { id: 'pitches', words: 'The pitches are right: find places for them anew where they differ' },
      ],
      usual: usualTrust(part, agrees),
    },
  ];
}
