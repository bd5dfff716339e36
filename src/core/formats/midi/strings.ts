import type { Midi } from '../../base';
import type { MidiPart, MidiSong } from './read';

/** Channels of one track that are the strings of one instrument. */
export interface StringTrack {
  readonly parts: readonly MidiPart[];
  /** By channel, the string from the thinnest. */
  readonly strings: ReadonlyMap<number, number>;
  /** Open strings thick to thin, as low as what is played asks; null where that is no usual instrument. */
  readonly tuning: readonly Midi[] | null;
}

const LEAST = 3;
const MOST = 12;
const DRUMS = 10;
const GUITAR: readonly Midi[] = [40, 45, 50, 55, 59, 64];
const BASS: readonly Midi[] = [28, 33, 38, 43];
/** What instruments of so many strings are usually tuned to. */
const USUAL: readonly (readonly Midi[])[] = [GUITAR, [35, ...GUITAR], [30, 35, ...GUITAR], BASS, [23, ...BASS]];

/** Parts of a song, those of one track with a channel for every string taken together. */
export function stringTracks({ parts, channels }: Pick<MidiSong, 'parts' | 'channels'>): (MidiPart | StringTrack)[] {
  const out: (MidiPart | StringTrack)[] = [];
  const done = new Set<MidiPart>();
  for (const part of parts) {
    if (done.has(part)) continue;
    const track = parts.filter((one) => one.track === part.track && !one.drums);
    const own = part.drums ? null : asStrings(track, channels[part.track] ?? []);
    if (own) {
      track.forEach((one) => done.add(one));
      out.push(own);
    } else out.push(part);
  }
  return out;
}

/**
 * Several channels one after the other, of one sound: one instrument. Where each of them sounds one note at a time they
 * are its strings.
 */
function asStrings(parts: readonly MidiPart[], used: readonly number[]): StringTrack | null {
  const channels = used.filter((channel) => channel !== DRUMS);
  const [first] = channels;
  const last = channels.at(-1);
  if (first === undefined || last === undefined || channels.length < LEAST || channels.length > MOST) return null;
  const span = last - first + (first < DRUMS && last > DRUMS ? -1 : 0);
  if (span !== channels.length - 1 || parts.some((one) => one.program !== parts[0]?.program)) return null;
  if (parts.some((one) => one.polyphony > 1)) return { parts, strings: new Map(), tuning: null };
  const mean = (one: MidiPart): number => one.notes.reduce((sum, note) => sum + note.pitch, 0) / one.notes.length;
  const byChannel = [...parts].sort((a, b) => a.channel - b.channel);
  const rises = byChannel.filter((one, i) => i > 0 && mean(one) > mean(byChannel[i - 1] as MidiPart)).length;
  // The first channel is the thinnest string by custom; where pitches rise it is the thickest.
  const rising = rises > (byChannel.length - 1) / 2;
  const count = channels.length;
  const strings = new Map(channels.map((channel, i) => [channel, rising ? count - i : i + 1]));
  const lowest = Math.min(...parts.map((one) => one.low));
  const usual = USUAL.find((one) => one.length === count && (count !== 4 || lowest < 40)) ?? null;
  // A string that goes lower than it is usually tuned is tuned lower.
  const tuning =
    usual?.map((open, i) => {
      const part = parts.find((one) => strings.get(one.channel) === count - i);
      return Math.min(open, part?.low ?? open);
    }) ?? null;
  return { parts, strings, tuning };
}
