import { z } from 'zod';
import type { DeepReadonly } from '../base';
import { isDay, type Day } from './calendar';

/** What was asked of the studio, and what it promised. */

/** Days are calendar days, "2031-04-09": a promise is for a day, not for an hour in some place. */
export const daySchema = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/, 'a day as 2031-04-09')
  .refine(isDay, 'there is no such day in the calendar');

/** How far a request has come. "Handed over" and "declined" are its ends. */
export const REQUEST_STATES = ['asked', 'accepted', 'working', 'ready', 'handed', 'declined'] as const;
export const requestStateSchema = z.enum(REQUEST_STATES);

/** Which performance of the piece is meant. */
export const VERSIONS = ['record', 'live', 'cover', 'simplified'] as const;
export const versionSchema = z.enum(VERSIONS);

/** A part of what was asked: covered, left out on purpose, or promised for later. */
export const requestItemSchema = z.object({
  kind: z.enum(['covered', 'leftOut', 'later']),
  what: z.string().trim().min(1, 'say what').max(200),
  due: daySchema.nullable(),
  done: daySchema.nullable(),
});

export const requestSchema = z.object({
  /** Who asked. */
  asker: z.string().trim().max(120),
  /** The piece, as it was asked for. */
  title: z.string().trim().min(1, 'Say which piece is asked for.').max(160),
  version: versionSchema.nullable(),
  items: z.array(requestItemSchema).max(40),
  credit: z.string().trim().max(300),
  level: z.enum(['recorded', 'live', 'teaching', 'starter']).nullable(),
  /** Who it is for, and which words suit them. */
  audience: z.string().trim().max(600),
  note: z.string().trim().max(2000),
  asked: daySchema,
  due: daySchema.nullable(),
  /** The day it is to be published, where it belongs to a series. */
  release: daySchema.nullable(),
  state: requestStateSchema,
});

export const seriesSchema = z.object({
  name: z.string().trim().min(1, 'Give the series a name.').max(120),
  note: z.string().trim().max(600),
});

/** How one piece belongs to another; read from the first to the second. */
export const LINKS = ['same track', 'other version', 'prerequisite', 'sister riff'] as const;
export const linkKindSchema = z.enum(LINKS);

export const handoutSchema = z.object({
  to: z.string().trim().min(1, 'Say to whom.').max(120),
  what: z.string().trim().min(1, 'Say what was handed over.').max(200),
  on: daySchema,
});

export type RequestState = z.infer<typeof requestStateSchema>;
export type Version = z.infer<typeof versionSchema>;
export type RequestItem = DeepReadonly<z.infer<typeof requestItemSchema>>;
export type Request = DeepReadonly<z.infer<typeof requestSchema>>;
export type Series = DeepReadonly<z.infer<typeof seriesSchema>>;
export type LinkKind = z.infer<typeof linkKindSchema>;
export type Handout = DeepReadonly<z.infer<typeof handoutSchema>>;

/** A request as it is when somebody asks. */
export const newRequest = (asked: Day): Request => ({
  ...{ asker: '', title: '', version: null, items: [], credit: '', level: null, audience: '', note: '' },
  ...{ asked, due: null, release: null, state: 'asked' },
});

export const STATE_WORDS: Readonly<Record<RequestState, string>> = {
  asked: 'Asked for',
  accepted: 'Promised',
  working: 'In work',
  ready: 'Ready',
  handed: 'Handed over',
  declined: 'Declined',
};
export const VERSION_WORDS: Readonly<Record<Version, string>> = {
  record: 'the record',
  live: 'a live take',
  cover: 'a cover',
  simplified: 'a simplified one',
};
export const LINK_WORDS: Readonly<Record<LinkKind, { readonly there: string; readonly back: string }>> = {
  'same track': { there: 'from the same track as', back: 'from the same track as' },
  'other version': { there: 'another version of', back: 'another version of' },
  prerequisite: { there: 'to be learned before', back: 'to be learned after' },
  'sister riff': { there: 'a sister of', back: 'a sister of' },
};
