import { fold } from '#core/contacts/names.ts';
import {
  type Answering,
  type AnswerValue,
  isEmpty,
  problemWith,
  sayAnswer,
} from '#core/questions/answering.ts';
import type { Question } from '#core/questions/question.ts';
import type { Instant } from '#core/time/clock.ts';
import type { Language } from '#core/words/language.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { WaiverShown } from './form.ts';
import type { WaiverNeed } from './needs.ts';
import { signedWords } from './signedWords.ts';

/** What whoever signs did with each clause: ticked, wrote initials, or chose. A clause that is only read has nothing. */
export interface Marks {
  /** Ids of clauses that were ticked. */
  ticked: readonly string[];
  /** Initials by clause. */
  initials: Readonly<Record<string, string>>;
  /** Yes or no by clause. */
  chosen: Readonly<Record<string, boolean>>;
}

/** Somebody signed for, with what was answered about them. */
export interface Participant {
  name: string;
  relation: 'self' | 'guardian';
  answers: Readonly<Record<string, AnswerValue>>;
}

export interface Signing extends Marks {
  typedName: string;
  /** Whether whoever signs for a child says they are of age and may. */
  declared: boolean;
  participants: readonly Participant[];
}

/** A question of a waiver as questions are checked. */
const asQuestion = (q: WaiverShown['questions'][number]): Question => ({
  ...q,
  scope: 'attendee',
  offerId: null,
  shownIf: null,
  keeps: null,
});

/** Words of a name: what has fewer than two was not written in full. */
const wordsOf = (name: string): string[] => fold(name).split(' ').filter(Boolean);

/**
 * True for initials of a name: first letters of its words in their order, from the first on, at least two. Nobody writes all of a long
 * name: MD are those of Mai Delacroix-Nguyen, and so are MN and MDN.
 */
function areInitials(written: string, name: string): boolean {
  const letters = wordsOf(name.replaceAll('-', ' ')).map((w) => w[0]);
  if (written.length < 2 || written[0] !== letters[0]) return false;
  let at = 0;
  for (const letter of written) {
    at = letters.indexOf(letter, at) + 1;
    if (at === 0) return false;
  }
  return true;
}

/**
 * What is wrong with a signature. Every clause to agree to is ticked or initialled, every choice made, the name typed in full; a child is
 * signed for by somebody else, who says they may; each participant's questions are answered. `needs` are who has to sign, in the order of
 * the participants.
 */
export function problemsWithSigning(
  waiver: Pick<WaiverShown, 'clauses' | 'questions'>,
  signing: Signing,
  needs: readonly WaiverNeed[],
  at: Answering,
): Wrong[] {
  const wrong: Wrong[] = [];
  for (const [n, clause] of waiver.clauses.entries()) {
    const where = `clauses.${n}`;
    if (clause.kind === 'agree' && !signing.ticked.includes(clause.id))
      wrong.push(wrongAt(where, 'clause-not-ticked'));
    if (clause.kind === 'choice' && signing.chosen[clause.id] === undefined)
      wrong.push(wrongAt(where, 'clause-not-chosen'));
    if (clause.kind === 'initials') {
      const typed = fold(signing.initials[clause.id] ?? '').replaceAll(/[^\p{L}]/gu, '');
      if (!typed) wrong.push(wrongAt(where, 'initials-needed'));
      else if (!areInitials(typed, signing.typedName))
        wrong.push(wrongAt(where, 'initials-other', { name: signing.typedName.trim() }));
    }
  }
  if (wordsOf(signing.typedName).length < 2) wrong.push(wrongAt('typedName', 'full-name-needed'));
  for (const [n, p] of signing.participants.entries()) {
    const need = needs[n];
    if (need === 'guardian' && p.relation !== 'guardian')
      wrong.push(wrongAt('relation', 'guardian-has-to-sign', { name: p.name }));
    if (need === 'guardian' && fold(signing.typedName) === fold(p.name))
      wrong.push(wrongAt('typedName', 'guardian-own-name', { name: p.name }));
    if (need === 'self' && p.relation !== 'self')
      wrong.push(wrongAt('relation', 'signs-alone', { name: p.name }));
    for (const [m, question] of waiver.questions.entries()) {
      const problem = problemWith(asQuestion(question), p.answers[question.id], at);
      if (problem) wrong.push({ path: `seats.${n}.answers.${m}`, ...problem });
    }
  }
  if (signing.participants.some((p) => p.relation === 'guardian') && !signing.declared)
    wrong.push(wrongAt('declared', 'declaration-needed'));
  return wrong;
}

/** What is kept of what was answered: without what was left empty. */
export const answersKept = (
  questions: WaiverShown['questions'],
  answers: Readonly<Record<string, AnswerValue>>,
): { prompt: string; value: AnswerValue; health: boolean }[] =>
  questions.flatMap((q) => {
    const value = answers[q.id];
    return isEmpty(q, value) ? [] : [{ prompt: q.prompt, value: value!, health: q.health }];
  });

/** Answers as lines of text. */
export const sayAnswers = (answers: readonly { prompt: string; value: AnswerValue }[]): string[] =>
  answers.map((a) => `${a.prompt} ${sayAnswer(a.value)}`);

/** From where something was signed. */
export interface SignedFrom {
  /** The network address it came from; null where nobody knows. */
  address: string | null;
  /** The program and the device, as they call themselves; or the device of the staff. */
  device: string;
}

/** The occasion of a signature, and for how long it holds, in words. */
export interface Occasion {
  /** None where it stands by itself. */
  event: { title: string; when: string } | null;
  /** The last day it holds, in words; null where it holds for the event alone. */
  until: string | null;
}

/**
 * The exact text that is kept and hashed for one participant: what was shown, what was done with each clause, who signed for whom, when
 * and from where. Answers are not in it: what is about health is deleted before a signature is. Lines end in a single line feed, so that
 * the same signing always gives the same bytes.
 */
export function signedText(
  waiver: Pick<WaiverShown, 'title' | 'clauses'> & { version: number },
  signing: Omit<Signing, 'participants'> & { participant: Pick<Participant, 'name' | 'relation'> },
  occasion: Occasion,
  at: Instant,
  from: SignedFrom,
  language: Language = 'en',
): string {
  const t = signedWords[language];
  const { participant, typedName } = signing;
  return [
    t.version(waiver.title, waiver.version),
    ...(occasion.event ? [t.event(occasion.event.title, occasion.event.when)] : []),
    occasion.until ? t.until(occasion.until) : t.eventAlone,
    t.participant(participant.name),
    '',
    ...waiver.clauses.flatMap((c, n) => [
      ...(c.heading ? [`${n + 1}. ${c.heading}`] : []),
      `${c.heading ? '   ' : `${n + 1}. `}${markOf(c, signing, t)}${c.text}`,
    ]),
    '',
    t.signed(typedName, participant.relation === 'guardian' ? participant.name : null),
    ...(participant.relation === 'guardian' ? [t.declared] : []),
    t.at(at),
    t.from(from.address, from.device),
    '',
  ].join('\n');
}

function markOf(
  clause: WaiverShown['clauses'][number],
  { ticked, initials, chosen }: Marks,
  t: (typeof signedWords)['en'],
): string {
  switch (clause.kind) {
    case 'read':
      return '';
    case 'agree':
      return `[${ticked.includes(clause.id) ? 'x' : ' '}] `;
    case 'initials':
      return `[${initials[clause.id]?.trim() ?? ''}] `;
    case 'choice':
      return `[${chosen[clause.id] === undefined ? ' ' : chosen[clause.id] ? t.yes : t.no}] `;
  }
}
