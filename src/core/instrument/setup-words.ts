import { asciiPitch } from '../pitch';
import { capoWords } from './capo';
import { TUNINGS } from './catalogue';
import { spellTuning } from './tuning';
import type { Setup } from './types';

/** A set-up in one phrase: "Drop D (D A D G B E), capo at fret 2". */
export function setupWords(setup: Setup): string {
  const name = TUNINGS.find((tuning) => tuning.id === setup.tuningId)?.name;
  const spelled = spellTuning(setup.open, setup.absent, setup.signs);
  const capo = setup.capos.length > 0 ? `, capo at ${capoWords(setup)}` : '';
  return `${name ? `${name} (${spelled})` : spelled}${capo}`;
}

/** The open strings thick to thin with octaves and without capo: "D2 A2 D3 G3 B3 E4"; a string taken off is "x". */
export const spelling = (setup: Setup): string =>
  setup.open.map((midi, i) => (setup.absent.includes(setup.open.length - i) ? 'x' : asciiPitch(midi))).join(' ');
