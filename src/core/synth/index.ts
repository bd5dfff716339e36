export { StringVoice } from './string-voice';
export * from './render';
