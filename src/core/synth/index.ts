export { StringVoice } from './string-voice';
export * from './render';
export * from './stream';
export * from './backing';
export * from './clock';
export * from './played';
export * from './take';
