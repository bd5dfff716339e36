import { locusWords, type Finding } from '@/core/base';
import { CliFault } from '../schemas';

/** A finding of the core as a fault of the command line. */
export const faultOf = ({ rule, words, locus }: Finding): CliFault =>
  new CliFault(rule, words, locusWords(locus) || undefined);
