export * from './types';
export * from './check';
export { RULES, RULE_NAMES } from './rules';
export { voiceQuestion } from './rules/voices';
export { checkClaim, parseClaim, type ParsedClaim } from './claims';
export { heardIn } from './sounding';
export { readLoosely, type LooselyRead } from './loose';
export { harmonyOf, type SectionHarmony } from './harmony-of';
