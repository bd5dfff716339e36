export { Fft } from './fft';
export { PeriodFinder, type Period } from './period';
export { fitString, type StringFit } from './partials';
export { Ear, EAR_LIMITS, type Heard } from './ear';
export { onsetsIn, ONSET_LIMITS } from './onsets';
