import type { acceptingContract, Queue } from '#contract/accepting.ts';
import { factsOf } from '#core/access/stages.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import { lives } from '#core/events/states.ts';
import { stillNow } from '#core/money/lines.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import { fits, limitsOf } from '#core/registration/capacity.ts';
import { type WaitingParty, whyNot } from '#core/registration/waitlist.ts';
import { earlier, plusMinutes } from '#core/time/clock.ts';
import { wrongAt } from '#core/words/problems.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { type Asker, type Work, whatIf } from '../app/app.ts';
import { record } from '../app/record.ts';
import { orderEmail, whyQuiet } from '../contacts/quiet.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { type EventRow, readOffers, readQuestions } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { confirmOrder, setSeats } from './confirming.ts';
import { orderByLink } from './links.ts';
import { type OrderRow, readOrder, readSeats, readTaken } from './store.ts';

/** Days in which whoever was accepted pays, unless the event starts sooner. */
const daysToPay = 3;

interface AskedRow {
  orderId: string;
  contactId: string | null;
  name: string;
  email: string | null;
  since: string;
  seats: number;
  due: number;
  lines: { offerId: string; units: number }[];
  quiet: QuietReason | null;
  answers: { questionId: string; value: never }[];
  people: string[];
  asked: Queue['parties'][number]['asked'];
}

/** Whoever asked for seats of an event and waits for a decision, first come first; answers about health are not among what they said. */
const readAsked = (tx: Queries, eventId: string): Promise<AskedRow[]> =>
  tx.query<AskedRow>(
    `select o.id as order_id, o.buyer_contact_id as contact_id, trim(o.buyer_given || ' ' || o.buyer_family) as name, ${orderEmail('o')} as email,
       o.asked_at as since, o.seats, o.due, o.lines, (select ${whyQuiet('c')} from contacts c where c.id = o.buyer_contact_id) as quiet,
       coalesce((select jsonb_agg(jsonb_build_object('questionId', a.question_id, 'value', a.value) order by r.seat_number nulls first)
         from answers a join questions q on q.id = a.question_id left join registrations r on r.id = a.registration_id
         where a.order_id = o.id and not q.sensitive), '[]') as answers,
       array(select trim(r.given_name || ' ' || r.family_name) from registrations r where r.order_id = o.id
         and trim(r.given_name || r.family_name) <> '' order by r.seat_number) as people,
       coalesce((select jsonb_agg(jsonb_build_object('words', q.words, 'by', q.asked_by, 'answer', q.answer) order by q.asked_at)
         from order_questions q where q.order_id = o.id), '[]') as asked
     from orders o where o.event_id = $1 and o.asked_at is not null order by o.asked_at, o.id`,
    [eventId],
  );

/** A party that asks, as one that could have seats. */
const partyOf = (
  row: Pick<AskedRow, 'orderId' | 'name' | 'since' | 'seats' | 'lines' | 'quiet'>,
  offers: Awaited<ReturnType<typeof readOffers>>,
): WaitingParty => ({
  ...row,
  quiet: null,
  lines: row.lines.flatMap(({ offerId, units }) => {
    const offer = offers.find((o) => o.id === offerId);
    return offer ? [{ offer, units }] : [];
  }),
});

async function queueOf(c: Asker & { tx: Queries }, event: EventRow): Promise<Queue> {
  const [rows, offers, questions, taken] = [
    await readAsked(c.tx, event.id),
    await readOffers(c.tx, event.id),
    await readQuestions(c.tx, event.id),
    await readTaken(c.tx, event.id),
  ];
  const sees = factsOf(c.staff, event, c.now).has('answers');
  return {
    questions: sees
      ? questions.filter((q) => !q.sensitive).map((q) => ({ id: q.id, prompt: q.prompt.en }))
      : [],
    parties: rows.map(({ lines, quiet, answers, ...row }) => ({
      ...row,
      offers: lines
        .map((l) => `${l.units} × ${offers.find((o) => o.id === l.offerId)?.name ?? ''}`)
        .join(', '),
      fits: sayReason(whyNot(partyOf({ ...row, lines, quiet }, offers), limitsOf(event), taken)),
      answers: sees
        ? Object.fromEntries(
            questions.map((q) => [
              q.id,
              answers
                .filter((a) => a.questionId === q.id)
                .map((a) => sayAnswer(a.value))
                .join('; '),
            ]),
          )
        : {},
      asked: sees ? row.asked : [],
    })),
  };
}

type Decision = { orderIds: readonly string[]; decision: 'accept' | 'decline' | 'ask'; words: string };
type Decided = Awaited<ReturnType<Handlers<typeof acceptingContract>['POST /api/events/:id/decisions']>>;

/**
 * Decides about people who asked, one after the other in the order they did, as there is room: whoever is accepted has their seats,
 * or has them kept for paying, or waits where they do not fit. Whoever was decided already is passed over.
 */
async function decide(w: Work, event: EventRow, { orderIds, decision, words }: Decision): Promise<Decided> {
  if (decision === 'ask' && words.trim().length < 3) throw invalid([wrongAt('words', 'ask-what')]);
  if (decision === 'accept' && !lives(event.state)) throw refused('no-seats-offered', { state: event.state });
  const chosen = new Set(orderIds);
  const offers = await readOffers(w.tx, event.id);
  const rows = (await readAsked(w.tx, event.id)).filter((r) => chosen.has(r.orderId));
  const answer: Decided = {
    confirmed: 0,
    held: 0,
    waitlisted: 0,
    declined: 0,
    asked: 0,
    left: [],
    untold: [],
  };
  for (const id of orderIds.filter((o) => !rows.some((r) => r.orderId === o))) {
    const order = await readOrder(w.tx, id);
    if (order.eventId !== event.id) throw invalid([wrongAt('orderIds', 'seats-of-another')]);
    answer.left.push(`${order.buyerGiven} ${order.buyerFamily}`.trim());
  }
  for (const row of rows) {
    const order = await readOrder(w.tx, row.orderId, true);
    const became = await decideOne(w, event, order, partyOf(row, offers), decision, words);
    answer[became] += 1;
    const why = row.quiet ?? (row.email ? null : 'no address');
    if (why) answer.untold.push({ name: row.name, why: sayReason(because(why)) });
  }
  return answer;
}

async function decideOne(
  w: Work,
  event: EventRow,
  order: OrderRow,
  party: WaitingParty,
  decision: Decision['decision'],
  words: string,
): Promise<'confirmed' | 'held' | 'waitlisted' | 'declined' | 'asked'> {
  const { tx, app, now, actor } = w;
  const tell = (
    became: 'confirmed' | 'held' | 'waitlisted' | 'declined' | 'asked',
    until: string | null = null,
  ) =>
    record(w, 'request decided', {
      eventId: event.id,
      orderId: order.id,
      decision: became,
      until,
      words: words.trim(),
    });
  if (decision === 'ask') {
    await insert(tx, 'order_questions', {
      id: app.ids.id(),
      orderId: order.id,
      words: words.trim(),
      askedAt: now,
      askedBy: actor.name,
    });
    await tell('asked');
    return 'asked';
  }
  const seats = (await readSeats(tx, order.id)).filter((s) => s.state === 'asked');
  await update(tx, 'orders', order.id, { askedAt: null });
  if (decision === 'decline') {
    await setSeats(w, seats, 'declined', `declined by ${actor.name}`);
    await tell('declined');
    return 'declined';
  }
  if (!fits(party, limitsOf(event), await readTaken(tx, event.id))) {
    await setSeats(w, seats, 'waitlisted', `accepted by ${actor.name}; no room yet`);
    await update(tx, 'orders', order.id, { waitlistedAt: order.askedAt });
    await tell('waitlisted');
    return 'waitlisted';
  }
  if (stillNow(order) > 0) {
    const until = earlier(
      plusMinutes(now, daysToPay * 24 * 60),
      event.startsAt ?? plusMinutes(now, daysToPay * 24 * 60),
    );
    await setSeats(w, seats, 'held', `accepted by ${actor.name}, paying`);
    await update(tx, 'orders', order.id, { heldUntil: until });
    await tell('held', until);
    return 'held';
  }
  await confirmOrder(w, order.id, `accepted by ${actor.name}`);
  await tell('confirmed');
  return 'confirmed';
}

export const acceptingHandlers: Handlers<typeof acceptingContract> = {
  'GET /api/events/:id/queue': async (c) => queueOf(c, await eventFor(c, c.params.id, 'registration', 'see')),

  'POST /api/events/:id/decisions': async (c) =>
    decide(c, await eventFor(c, c.params.id, 'registration', 'change', true), c.body),

  'POST /api/events/:id/decisions/what-if': async (c) =>
    whatIf(c.app, c.actor, async (w) =>
      decide(w, await eventFor({ ...c, tx: w.tx }, c.params.id, 'registration', 'change', true), {
        ...c.body,
        words: c.body.words || '…………',
      }),
    ),

  'POST /api/public/orders/:token/answer': async (c) => {
    const orderId = await orderByLink(c.tx, c.params.token);
    const answered = await c.tx.query(
      `update order_questions set answer = $3, answered_at = $4 where id = $1 and order_id = $2
         and exists (select 1 from orders where id = $2 and asked_at is not null) returning id`,
      [c.body.questionId, orderId, c.body.words, c.now],
    );
    if (!answered.length) throw notFound('This question');
    const { eventId } = await readOrder(c.tx, orderId);
    await record(c, 'question answered', { eventId, orderId });
    return { done: true };
  },
};

/** What was asked back about an order, for its buyer. */
export const questionsOf = (
  tx: Queries,
  orderId: string,
): Promise<{ id: string; words: string; answer: string | null }[]> =>
  tx.query<{ id: string; words: string; answer: string | null }>(
    'select id, words, answer from order_questions where order_id = $1 order by asked_at',
    [orderId],
  );
