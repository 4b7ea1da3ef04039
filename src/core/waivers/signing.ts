import { fold } from '#core/contacts/names.ts';
import type { Instant } from '#core/time/clock.ts';
import type { Wrong } from '#core/words/problems.ts';
import type { WaiverNeed } from './needs.ts';

export interface Clause {
  id: string;
  text: string;
}

export interface WaiverText {
  title: string;
  version: number;
  clauses: readonly Clause[];
}

export interface Signing {
  participant: string;
  typedName: string;
  /** Clause ids that were ticked. */
  ticked: readonly string[];
  relation: 'self' | 'guardian';
}

/** Says what is wrong with a signature. Every clause has to be ticked and the name typed in full. */
export function problemsWithSigning(waiver: WaiverText, signing: Signing, need: WaiverNeed): Wrong[] {
  const problems: Wrong[] = [];
  waiver.clauses.forEach((clause, at) => {
    if (!signing.ticked.includes(clause.id))
      problems.push({ path: `clauses.${at}`, code: 'clause-not-ticked' });
  });
  if (fold(signing.typedName).split(' ').filter(Boolean).length < 2)
    problems.push({ path: 'typedName', code: 'full-name-needed' });
  if (need === 'guardian' && signing.relation !== 'guardian')
    problems.push({
      path: 'relation',
      code: 'guardian-has-to-sign',
      params: { name: signing.participant },
    });
  if (need === 'guardian' && fold(signing.typedName) === fold(signing.participant))
    problems.push({
      path: 'typedName',
      code: 'guardian-own-name',
      params: { name: signing.participant },
    });
  if (need === 'self' && signing.relation !== 'self')
    problems.push({ path: 'relation', code: 'signs-alone', params: { name: signing.participant } });
  return problems;
}

/**
 * The exact text that is kept and hashed: what was shown, who ticked what, who signed for whom and when.
 * Lines end in a single line feed, so that the same signing always gives the same bytes.
 */
export function signedText(
  waiver: WaiverText,
  signing: Signing,
  event: { title: string; when: string },
  at: Instant,
): string {
  return [
    `${waiver.title}, version ${waiver.version}`,
    `Event: ${event.title}, ${event.when}`,
    `Participant: ${signing.participant}`,
    '',
    ...waiver.clauses.map((c, n) => `${n + 1}. [${signing.ticked.includes(c.id) ? 'x' : ' '}] ${c.text}`),
    '',
    `Signed by typing “${signing.typedName}”${signing.relation === 'guardian' ? `, as guardian of ${signing.participant}` : ''}`,
    `at ${at}`,
    '',
  ].join('\n');
}
