export { StringVoice } from './string-voice';
export * from './render';
export * from './clock';
export * from './played';
export * from './take';
