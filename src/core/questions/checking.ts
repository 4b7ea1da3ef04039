import type { FieldRule } from '#core/contacts/fields.ts';
import { type ProblemCode, type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Texts } from '#core/words/texts.ts';
import { asking, isDetail } from './details.ts';
import { hasChoices, type Question } from './question.ts';
import { problemsWithShowing } from './showing.ts';

type Planned = Omit<Question, 'prompt'> & { prompt: Texts };

/** What is wrong with the questions of a plan, beside what each field of them takes by itself. */
export function problemsWithQuestions(
  questions: readonly Planned[],
  fields: readonly (FieldRule & { id: string })[],
): Wrong[] {
  const problems: Wrong[] = [];
  const kept = new Set<string>();
  for (const [at, q] of questions.entries()) {
    const wrong = (field: string, code: ProblemCode, params = {}) =>
      problems.push(wrongAt(`questions.${at}.${field}`, code, params));
    if (!q.prompt.en.trim()) wrong('prompt.en', 'question-empty');
    if (hasChoices(q.kind) && q.choices.filter((c) => c.trim()).length < 2)
      wrong('choices', 'two-choices-needed');
    if (q.kind === 'number' && q.least !== null && q.most !== null && q.least > q.most)
      wrong('most', 'most-below-least');
    if (q.keeps === null) continue;
    const once = `${q.scope} ${q.offerId ?? ''} ${q.keeps}`;
    if (kept.has(once)) wrong('keeps', 'kept-twice');
    kept.add(once);
    if (isDetail(q.keeps)) {
      if (q.kind !== asking[q.keeps].kind) wrong('kind', 'kind-of-detail');
      if (q.keeps === 'birthDate' && q.scope === 'order') wrong('scope', 'birth-date-of-each');
      continue;
    }
    const field = fields.find((f) => f.id === q.keeps);
    if (!field) wrong('keeps', 'thing-gone', { what: 'field' });
    else if (field.kind !== q.kind) wrong('kind', 'kind-of-detail');
  }
  return [...problems, ...problemsWithShowing(questions)];
}
