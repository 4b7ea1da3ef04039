import type { Quote } from '#core/offers/quote.ts';
import type { Question } from '#core/questions/question.ts';
import { answersKept, type Channel, orderProblems } from '#core/registration/checking.ts';
import { ageDecides, offerAsksAge } from '#core/waivers/asking.ts';
import type { Work } from '../app/app.ts';
import { type EventRow, readQuestions } from '../events/store.ts';
import type { FieldProblem } from '../http/problem.ts';
import { answeringAt } from '../staff/store.ts';
import type { OrderRequest } from './request.ts';

/** What is wrong with an order beside its price: addresses, dates, answers, the fund. And the order with what answers what was asked. */
export async function checkRequest(
  w: Work,
  event: EventRow,
  request: OrderRequest,
  order: Quote,
  channel: Channel,
): Promise<{ problems: FieldProblem[]; kept: OrderRequest; questions: Question[] }> {
  const questions = (await readQuestions(w.tx, event.id)).map((q) => ({
    ...q,
    prompt: q.prompt[request.language] ?? q.prompt.en,
  }));
  const offerOfSeat = order.parties.flatMap((l) => Array<string>(l.seats).fill(l.offer.id));
  const problems: FieldProblem[] = orderProblems(request, {
    questions,
    needsBirthDate: ageDecides(event),
    offerOfSeat,
    ages: new Map(
      order.parties.map(({ offer }) => [offer.id, { ...offer, asksAge: offerAsksAge(offer, event.waivers) }]),
    ),
    eventDate: event.startsLocal?.slice(0, 10) ?? null,
    ...(await answeringAt(w.tx, w.now)),
    channel,
  });
  const { amount, fundId } = request.donation;
  if (amount > 0 && event.giftFunds.length === 0)
    problems.push({ path: 'donation.amount', code: 'gift-not-asked' });
  else if (amount > 0 && fundId && !event.giftFunds.includes(fundId))
    problems.push({ path: 'donation.fundId', code: 'fund-gone' });
  return { problems, questions, kept: answersKept(request, { questions, offerOfSeat }) };
}
