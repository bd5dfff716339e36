import { describe, expect, it } from 'vitest';
import { kindOfFile, otherWords, pageOf, putDropped, sortFiles, takeDropped } from './dropped';

const file = (name: string, text: string): File => new File([text], name);
const MIDI = file('song.txt', 'MThd\0\0\0\x06\0\x01');
const WAV = file('take.mid', 'RIFF....WAVEfmt ');
const TAB = file('notes.doc', 'E|--0--3--5--|\nA|-----------|\nD|-----------|\nG|-----------|\n');

describe('files dropped on a page', () => {
  it('are known by what they hold, whatever they are called', async () => {
    expect(await kindOfFile(MIDI)).toBe('midi');
    expect(await kindOfFile(WAV)).toBe('sound');
    expect(await kindOfFile(TAB)).toBe('texttab');
    expect(await kindOfFile(file('score.pdf', '<?xml version="1.0"?>\n<score-partwise>'))).toBe('musicxml');
    expect(await kindOfFile(file('letter.mid', 'Dear theatre'))).toBeNull();
    expect(pageOf('midi')).toBe('music');
    expect(pageOf('rack')).toBeNull();
  });

  it('are sorted by the page that takes them, and others are told what to do with', async () => {
    const rack = file('rack.json', '{"format":"intonazione-rack","version":1}');
    const sorted = await sortFiles([MIDI, WAV, TAB, rack]);
    expect(sorted.music.map((one) => one.name)).toEqual(['song.txt', 'notes.doc']);
    expect(sorted.sound.map((one) => one.name)).toEqual(['take.mid']);
    expect(sorted.other.map(({ kind }) => kind)).toEqual(['rack']);
    expect(otherWords(rack, 'rack')).toContain('rack page');
    expect(otherWords(rack, null)).toContain('MusicXML');
  });

  it('wait for the page of their kind, once', () => {
    putDropped('music', [MIDI, TAB]);
    expect(takeDropped('sound')).toEqual([]);
    expect(takeDropped('music')).toEqual([MIDI, TAB]);
    expect(takeDropped('music')).toEqual([]);
  });
});
