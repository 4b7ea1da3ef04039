import type { Wrong } from '#core/words/problems.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { AnswerValue } from './answering.ts';
import type { Question } from './question.ts';

type Shown = Pick<Question, 'id' | 'scope' | 'kind' | 'choices' | 'offerId' | 'shownIf'>;
type Answers = Readonly<Record<string, unknown>>;

/** An answer as a condition names it. */
const namesOf = (value: AnswerValue | undefined): readonly string[] => {
  if (value === undefined) return [];
  if (typeof value === 'boolean') return [value ? 'yes' : 'no'];
  return Array.isArray(value) ? value : [value];
};

/** What a condition on a question can be about: "yes" and "no", or its choices; nothing where it takes words. */
export function namedAnswers(question: Pick<Question, 'kind' | 'choices'>): readonly string[] {
  switch (question.kind) {
    case 'yes or no':
      return ['yes', 'no'];
    case 'consent':
      return ['yes'];
    case 'one of':
    case 'several of':
      return question.choices.filter((choice) => choice.trim());
    default:
      return [];
  }
}

/** What an order answers, and which offers are in it. */
export interface OrderForm {
  offerIds: readonly string[];
  answers: Answers;
}

/** The questions that an order is asked, in their order: of its offers, as far as their conditions hold. */
export const askedOfOrder = <Q extends Shown>(questions: readonly Q[], order: OrderForm): Q[] =>
  keepShown(
    questions.filter((q) => q.scope === 'order' && (!q.offerId || order.offerIds.includes(q.offerId))),
    order.answers,
    new Map(),
  );

/** The same of the questions that somebody with a seat is asked; they may hang on what the order answers. */
export function askedOfSeat<Q extends Shown>(
  questions: readonly Q[],
  seat: { offerId: string; answers: Answers },
  order: OrderForm,
): Q[] {
  const ofOrder = new Map(
    askedOfOrder(questions, order).map((q) => [
      q.id,
      namesOf(order.answers[q.id] as AnswerValue | undefined),
    ]),
  );
  return keepShown(
    questions.filter((q) => q.scope === 'attendee' && (!q.offerId || q.offerId === seat.offerId)),
    seat.answers,
    ofOrder,
  );
}

/**
 * Those whose condition holds. A question that is not asked counts as not answered, so what hangs on it is not asked either;
 * what hangs on itself is never asked.
 */
function keepShown<Q extends Shown>(
  questions: readonly Q[],
  answers: Answers,
  before: ReadonlyMap<string, readonly string[]>,
): Q[] {
  const byId = new Map(questions.map((q) => [q.id, q]));
  const holding = new Map<string, boolean>();
  const holds = (q: Q): boolean => {
    const known = holding.get(q.id);
    if (known !== undefined) return known;
    holding.set(q.id, false);
    const { shownIf } = q;
    const parent = shownIf && byId.get(shownIf.questionId);
    const names = parent
      ? holds(parent)
        ? namesOf(answers[parent.id] as AnswerValue | undefined)
        : []
      : (before.get(shownIf?.questionId ?? '') ?? []);
    const shown = !shownIf || names.some((name) => shownIf.is.includes(name));
    holding.set(q.id, shown);
    return shown;
  };
  return questions.filter(holds);
}

/** What does not go together in the conditions of questions: circles, and what would never be asked. */
export function problemsWithShowing(questions: readonly Shown[], path = 'questions'): Wrong[] {
  const place = new Map(questions.map((q, at) => [q.id, at]));
  return questions.flatMap((q, at) => {
    if (!q.shownIf) return [];
    const where = `${path}.${at}.shownIf`;
    const parentAt = place.get(q.shownIf.questionId);
    const parent = parentAt === undefined ? undefined : questions[parentAt];
    if (!parent) return [wrongAt(where, 'shown-by-nothing')];
    if (inCircle(questions, q)) return [wrongAt(where, 'shown-in-circle')];
    if (parentAt! > at && !(parent.scope === 'order' && q.scope === 'attendee'))
      return [wrongAt(where, 'shown-by-later')];
    if (parent.scope === 'attendee' && q.scope === 'order') return [wrongAt(where, 'shown-by-person')];
    if (parent.offerId && q.offerId && parent.offerId !== q.offerId && parent.scope === q.scope)
      return [wrongAt(where, 'never-shown')];
    const possible = namedAnswers(parent);
    return q.shownIf.is.some((name) => possible.includes(name)) ? [] : [wrongAt(where, 'never-shown')];
  });
}

/** True where what decides over a question is decided by it. */
function inCircle(questions: readonly Shown[], from: Shown): boolean {
  const byId = new Map(questions.map((q) => [q.id, q]));
  let at: Shown | undefined = from;
  for (let steps = 0; steps <= questions.length && at?.shownIf; steps++) {
    at = byId.get(at.shownIf.questionId);
    if (at === from) return true;
  }
  return false;
}
