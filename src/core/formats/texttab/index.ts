export { TEXT_TAB_LIMITS } from './limits';
export { looksLikeTab, readTextTab, type TabReading } from './read';
export { writeTextTab, type TextTabChoice } from './write';
