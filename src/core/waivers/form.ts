import type { QuestionKind } from '#core/questions/question.ts';
import type { Instant } from '#core/time/clock.ts';
import { sameValue } from '#core/words/canonical.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { readTexts, type Texts } from '#core/words/texts.ts';

/**
 * What is done with a clause: read and no more; agreed to with a tick; agreed to by initials; or chosen, where a no is as good as a yes,
 * as with photographs.
 */
export const clauseKinds = ['read', 'agree', 'initials', 'choice'] as const;
export type ClauseKind = (typeof clauseKinds)[number];

export interface Clause {
  id: string;
  kind: ClauseKind;
  /** May be empty. */
  heading: Texts;
  text: Texts;
}

/** What is asked beside the clauses, of each participant. */
export interface WaiverQuestion {
  id: string;
  kind: QuestionKind;
  prompt: Texts;
  help: Texts;
  required: boolean;
  choices: string[];
  least: number | null;
  most: number | null;
  /** About health: read by those who may alone, each reading written down, and deleted when its time is up. */
  health: boolean;
}

/** What one version of a waiver says. */
export interface WaiverText {
  title: Texts;
  clauses: Clause[];
  questions: WaiverQuestion[];
}

/** A version of a waiver, as far as it decides which signatures count. */
export interface WaiverVersion {
  version: number;
  madeAt: Instant;
  /** Whether it asks those again who signed one before it. */
  material: boolean;
}

/** What is wrong with the text of a waiver, by field. */
export function problemsWithText({ title, clauses, questions }: WaiverText): Wrong[] {
  const wrong: Wrong[] = [];
  if (!title.en.trim()) wrong.push(wrongAt('text.title.en', 'title-needed'));
  if (!clauses.length) wrong.push(wrongAt('text.clauses', 'clause-needed'));
  for (const [at, clause] of clauses.entries())
    if (!clause.text.en.trim()) wrong.push(wrongAt(`text.clauses.${at}.text.en`, 'clause-empty'));
  for (const [at, question] of questions.entries()) {
    if (question.kind === 'file') wrong.push(wrongAt(`text.questions.${at}.kind`, 'no-files-here'));
    if (!question.prompt.en.trim()) wrong.push(wrongAt(`text.questions.${at}.prompt.en`, 'question-empty'));
    if (
      (question.kind === 'one of' || question.kind === 'several of') &&
      question.choices.filter((c) => c.trim()).length < 2
    )
      wrong.push(wrongAt(`text.questions.${at}.choices`, 'two-choices-needed'));
  }
  return wrong;
}

/** True where two texts say the same: saving one of them again makes no version. */
export const sameText = (a: WaiverText, b: WaiverText): boolean => sameValue(a, b);

/** True where a text can be read in French all through; where a part of it cannot, it is shown in English all through. */
export const isInFrench = ({ title, clauses, questions }: WaiverText): boolean =>
  [title, ...clauses.map((c) => c.text), ...questions.map((q) => q.prompt)].every((t) =>
    Boolean(t.fr?.trim()),
  ) && clauses.every((c) => !c.heading.en.trim() || Boolean(c.heading.fr?.trim()));

/** A waiver in one language, as it is shown and signed. */
export interface WaiverShown {
  title: string;
  clauses: { id: string; kind: ClauseKind; heading: string; text: string }[];
  questions: (Omit<WaiverQuestion, 'prompt' | 'help'> & { prompt: string; help: string })[];
}

/** A text for a reader of a language. */
export function shownIn(text: WaiverText, language: string): WaiverShown {
  const reads = language === 'fr' && isInFrench(text) ? 'fr' : 'en';
  return {
    title: readTexts(text.title, reads),
    clauses: text.clauses.map(({ id, kind, heading, text: words }) => ({
      id,
      kind,
      heading: readTexts(heading, reads),
      text: readTexts(words, reads),
    })),
    questions: text.questions.map(({ prompt, help, ...question }) => ({
      ...question,
      prompt: readTexts(prompt, reads),
      help: readTexts(help, reads),
    })),
  };
}

/**
 * The oldest version that still counts on a day: the newest that changed something that matters and was there when the event began. What
 * was made afterwards asks nobody again for what is over.
 */
export const countsFrom = (versions: readonly WaiverVersion[], begins: Instant): number =>
  Math.max(
    Math.min(1, ...versions.map((v) => v.version)),
    ...versions.filter((v) => v.material && v.madeAt <= begins).map((v) => v.version),
  );
