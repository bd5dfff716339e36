export { MUSICXML_LIMITS } from './limits';
export { readMusicXml } from './read';
export { writeMusicXml, type MusicXmlChoice } from './write';
export { isZip, packScore } from './container';
export { chordOf, spellingOf } from './harmony-xml';
