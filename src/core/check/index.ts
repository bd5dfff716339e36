export * from './types';
export * from './check';
export { RULES, RULE_NAMES } from './rules';
export { checkClaim, parseClaim, type ParsedClaim } from './claims';
export { heardIn } from './sounding';
