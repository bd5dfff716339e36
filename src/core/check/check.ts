import type { Part, Piece, Riff } from '../score';
import { RULES } from './rules';
import { ASKED, type CheckFinding, type PartRule, type RiffRule } from './types';

/**
 * Reading a piece against itself. What a rule found in a riff or part is kept as long as all it read is the same, so
 * that after an edit only what it touched is read again.
 */

interface Kept {
  readonly reads: readonly unknown[];
  readonly found: readonly CheckFinding[];
}
const byRiff = new WeakMap<Riff, Map<string, Kept>>();
const byPart = new WeakMap<Part, Map<string, Kept>>();

const alike = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((one, i) => one === b[i]);

function kept<Subject extends object>(
  memory: WeakMap<Subject, Map<string, Kept>>,
  subject: Subject,
  rule: string,
  reads: readonly unknown[],
  find: () => readonly CheckFinding[],
): readonly CheckFinding[] {
  const known = memory.get(subject)?.get(rule);
  if (known && alike(known.reads, reads)) return known.found;
  const found = find();
  const own = memory.get(subject) ?? new Map<string, Kept>();
  own.set(rule, { reads, found });
  memory.set(subject, own);
  return found;
}

const inRiffs = (rule: RiffRule, piece: Piece): readonly CheckFinding[] =>
  piece.parts.flatMap((part) =>
    part.riffs.flatMap((riff) =>
      kept(byRiff, riff, rule.id, [part.id, ...rule.reads(part, piece)], () => rule.find(riff, part, piece)),
    ),
  );

const inParts = (rule: PartRule, piece: Piece): readonly CheckFinding[] =>
  piece.parts.flatMap((part) => kept(byPart, part, rule.id, rule.reads(piece), () => rule.find(part, piece)));

/** All findings of a piece, the likeliest slips first; each id once. */
export function proofread(piece: Piece, only: ReadonlySet<string> | null = null): CheckFinding[] {
  const told = new Set<string>();
  return RULES.filter((rule) => only === null || only.has(rule.id))
    .flatMap((rule) =>
      rule.on === 'riff' ? inRiffs(rule, piece) : rule.on === 'part' ? inParts(rule, piece) : rule.find(piece),
    )
    .filter(({ id }) => !told.has(id) && told.add(id))
    .sort((a, b) => b.likely - a.likely);
}

/** What became of a finding: asked, probably meant, answered, or answered on other ground and asked again. */
export type FindingState = 'open' | 'again' | 'probably' | 'meant' | 'later';

export function stateOf(finding: CheckFinding, answers: Piece['answers']): FindingState {
  const answer = answers?.find((one) => one.finding === finding.id);
  if (answer?.ground === finding.ground) return answer.answer;
  if (finding.likely < ASKED) return 'probably';
  return answer ? 'again' : 'open';
}

/** The findings that wait for an answer; what is unsaid among them. */
export const openOf = (findings: readonly CheckFinding[], answers: Piece['answers']): CheckFinding[] => {
  const byId = new Map((answers ?? []).map((one) => [one.finding, one]));
  return findings.filter((finding) => {
    const answer = byId.get(finding.id);
    return answer?.ground !== finding.ground && finding.likely >= ASKED;
  });
};
