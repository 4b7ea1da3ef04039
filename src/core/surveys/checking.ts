import type { ProblemCode, Wrong } from '#core/words/problems.ts';
import { wrongAt } from '#core/words/problems.ts';
import {
  type AnsweredSo,
  hasChoices,
  isFigure,
  questionsOf,
  rangeOf,
  type Survey,
  type SurveyQuestion,
} from './survey.ts';

/** What does not go together in a survey, beside what each of its fields takes by itself. */
export function problemsWithSurvey(survey: Survey, path: string): Wrong[] {
  const problems: Wrong[] = [];
  const before = new Map<string, SurveyQuestion & { per: Survey['pages'][number]['per'] }>();
  const all = questionsOf(survey);
  if (new Set(all.map((q) => q.id)).size !== all.length)
    problems.push(wrongAt(`${path}.pages`, 'question-twice'));
  if (!all.length) problems.push(wrongAt(`${path}.pages`, 'survey-empty'));
  for (const [n, page] of survey.pages.entries())
    for (const [at, q] of page.questions.entries()) {
      const wrong = (field: string, code: ProblemCode) =>
        problems.push(wrongAt(`${path}.pages.${n}.questions.${at}.${field}`, code));
      if (!q.prompt.en.trim()) wrong('prompt.en', 'question-empty');
      if (hasChoices(q.kind) && q.choices.filter((c) => c.text.en.trim()).length < 2)
        wrong('choices', 'two-choices-needed');
      const { least, most } = rangeOf(q);
      if (least > most) wrong('most', 'most-below-least');
      else if (q.kind === 'scale' && (most - least < 1 || most - least > 10)) wrong('most', 'scale-length');
      const parent = q.shownIf && before.get(q.shownIf.questionId);
      if (q.shownIf && !parent) wrong('shownIf', 'shown-by-nothing');
      // What is asked of each session says nothing of the whole.
      else if (parent && parent.per === 'session' && page.per === 'survey')
        wrong('shownIf', 'shown-by-nothing');
      else if (parent && !canBe(parent, q.shownIf!)) wrong('shownIf', 'never-shown');
      if (q.follows && !canBe(q, q.follows)) wrong('follows', 'never-shown');
      before.set(q.id, { ...q, per: page.per });
    }
  if (survey.groupBy) {
    const by = survey.pages.find((p) => p.per === 'survey')?.questions.find((q) => q.id === survey.groupBy);
    if (!survey.anonymous || by?.kind !== 'one of')
      problems.push(wrongAt(`${path}.groupBy`, 'group-by-choice'));
  }
  return problems;
}

/** Whether a question can be answered so. */
function canBe(question: SurveyQuestion, so: Omit<AnsweredSo, 'questionId'>): boolean {
  if (isFigure(question.kind)) {
    if (so.least === null && so.most === null) return false;
    const { least, most } = rangeOf(question);
    return Math.max(so.least ?? least, least) <= Math.min(so.most ?? most, most);
  }
  return question.choices.some((c) => so.is.includes(c.id));
}

/** How a question was worded before, from when on it is said otherwise, and how many had answered by then. */
export interface Reworded {
  questionId: string;
  was: SurveyQuestion['prompt'];
  at: string;
  answered: number;
}

/**
 * What becomes of a survey that was answered already when it is changed. Wording, order, new questions and new choices are free; what was
 * answered is still told: a question that is taken out is kept aside, a choice that was given stays among those of the question. Another
 * kind of answer, another scale, and whether it is anonymous cannot be changed any more.
 */
export function changedAfter(
  was: Survey & { retired: readonly SurveyQuestion[] },
  wanted: Survey,
  /** How many answered each question, and the choices that somebody gave. */
  answered: ReadonlyMap<string, { n: number; given: ReadonlySet<string> }>,
  at: { now: string; path: string; closed: boolean },
): { survey: Survey; retired: SurveyQuestion[]; reworded: Reworded[]; problems: Wrong[] } {
  const problems: Wrong[] = [];
  const any = answered.size > 0;
  if (any && wanted.anonymous !== was.anonymous)
    problems.push(wrongAt(`${at.path}.anonymous`, 'survey-in-use'));
  if (any && wanted.anonymous && wanted.groupBy !== was.groupBy)
    problems.push(wrongAt(`${at.path}.groupBy`, 'survey-in-use'));
  // Its groups were shown when nothing more could come; they would give away who did.
  if (at.closed && was.anonymous && any && wanted.closesDays > was.closesDays)
    problems.push(wrongAt(`${at.path}.closesDays`, 'survey-in-use'));
  const before = new Map([...was.retired, ...questionsOf(was)].map((q) => [q.id, q]));
  const reworded: Reworded[] = [];
  const pages = wanted.pages.map((page, n) => ({
    ...page,
    questions: page.questions.map((q, place) => {
      const old = before.get(q.id);
      const said = answered.get(q.id);
      if (!old || !said) return q;
      const wrong = (field: string) =>
        problems.push(wrongAt(`${at.path}.pages.${n}.questions.${place}.${field}`, 'question-answered'));
      if (old.kind !== q.kind) wrong('kind');
      else if (
        q.kind === 'scale' &&
        (rangeOf(old).least !== rangeOf(q).least || rangeOf(old).most !== rangeOf(q).most)
      )
        wrong('most');
      // How one thing stands among others is another question with other things.
      else if (q.kind === 'order' && !sameIds(old, q)) wrong('choices');
      if (old.prompt.en !== q.prompt.en)
        reworded.push({ questionId: q.id, was: old.prompt, at: at.now, answered: said.n });
      const lost = old.choices.filter((c) => said.given.has(c.id) && !q.choices.some((x) => x.id === c.id));
      return lost.length ? { ...q, choices: [...q.choices, ...lost] } : q;
    }),
  }));
  const kept = new Set(questionsOf({ pages }).map((q) => q.id));
  return {
    survey: { ...wanted, pages },
    retired: [...before.values()].filter((q) => !kept.has(q.id) && answered.has(q.id)),
    reworded,
    problems,
  };
}

const sameIds = (a: SurveyQuestion, b: SurveyQuestion): boolean =>
  a.choices.length === b.choices.length && a.choices.every((c) => b.choices.some((x) => x.id === c.id));
