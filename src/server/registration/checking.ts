import { fullName } from '#core/contacts/names.ts';
import type { PricedOrder } from '#core/registration/price.ts';
import { type AnswerValue, problemWith } from '#core/registration/questions.ts';
import { ageDecides } from '#core/waivers/needs.ts';
import type { Work } from '../app/app.ts';
import { readReach } from '../contacts/reach.ts';
import { first } from '../db/database.ts';
import { type EventRow, readQuestions } from '../events/store.ts';
import type { FieldProblem } from '../http/problem.ts';
import type { Channel, OrderRequest } from './request.ts';

/** What is wrong with an order beside its price: addresses, dates, answers, the fund. At the door less is asked. */
export async function checkRequest(
  w: Work,
  event: EventRow,
  request: OrderRequest,
  order: PricedOrder,
  channel: Channel,
  country: string,
): Promise<FieldProblem[]> {
  const problems: FieldProblem[] = [];
  problems.push(...readReach(request.buyer, country, 'buyer.').problems);
  if (channel === 'public' && !request.buyer.email)
    problems.push({ path: 'buyer.email', code: 'email-for-confirmation' });
  if (request.attendees.length > order.seats)
    problems.push({
      path: 'attendees',
      code: 'more-named-than-seats',
      params: { count: order.seats, named: request.attendees.length },
    });
  const offerOfSeat = order.lines.flatMap((l) => Array<string>(l.seats).fill(l.offer.id));
  const questions = await readQuestions(w.tx, event.id);
  const language = request.language;
  const asQuestion = (q: (typeof questions)[number]) => ({ ...q, prompt: q.prompt[language] ?? q.prompt.en });
  for (const q of questions.filter((x) => x.scope === 'order')) {
    if (q.offerId && !offerOfSeat.includes(q.offerId)) continue;
    const wrong = problemWith(asQuestion(q), request.answers[q.id] as AnswerValue | undefined);
    if (wrong && channel !== 'door') problems.push({ path: `answers.${q.id}`, ...wrong });
  }
  request.attendees.forEach((attendee, seat) => {
    problems.push(...readReach(attendee, country, `attendees.${seat}.`).problems);
    if (attendee.birthDate && attendee.birthDate > w.now.slice(0, 10))
      problems.push({ path: `attendees.${seat}.birthDate`, code: 'in-the-future' });
    // Guests are named later, and asked then.
    if (!fullName(attendee)) return;
    if (channel === 'public' && ageDecides(event) && !attendee.birthDate)
      problems.push({
        path: `attendees.${seat}.birthDate`,
        code: 'birth-date-needed',
      });
    for (const q of questions.filter(
      (x) => x.scope === 'attendee' && (!x.offerId || x.offerId === offerOfSeat[seat]),
    )) {
      const wrong = problemWith(asQuestion(q), attendee.answers[q.id] as AnswerValue | undefined);
      if (wrong && channel === 'public')
        problems.push({ path: `attendees.${seat}.answers.${q.id}`, ...wrong });
    }
  });
  const known = new Set(questions.map((q) => q.id));
  for (const id of [
    ...Object.keys(request.answers),
    ...request.attendees.flatMap((a) => Object.keys(a.answers)),
  ])
    if (!known.has(id)) problems.push({ path: `answers.${id}`, code: 'question-not-asked' });
  if (
    request.donation.fundId &&
    !(await first(w.tx, 'select 1 as x from funds where id = $1', [request.donation.fundId]))
  )
    problems.push({ path: 'donation.fundId', code: 'fund-gone' });
  return problems;
}
