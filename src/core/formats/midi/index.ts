export * from './read';
export { midiToMusic, type MidiChoice } from './to-music';
export { leadIn, midiFile, pieceToMidi, writeMidi, type MidiWriting } from './write';
