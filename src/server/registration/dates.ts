import type { PublicEvent } from '#contract/publicEvent.ts';
import type { OrderPlaced } from '#contract/registration.ts';
import { maySee } from '#core/access/visitor.ts';
import { shownTimes } from '#core/events/shown.ts';
import { atOtherDate } from '#core/registration/otherDates.ts';
import { readRule } from '#core/series/rule.ts';
import { sayRule } from '#core/series/saying.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { visitorOf } from '../contacts/visitor.ts';
import { first, type Queries } from '../db/database.ts';
import { type EventRow, readOffersOf, readQuestions, readSeriesDates, readSold } from '../events/store.ts';
import { invalid } from '../http/problem.ts';
import { invitedVisitor } from './invited.ts';
import { type Placed, placeOrder } from './ordering.ts';
import { type Asking, publicEventRow, registrationNow } from './public.ts';
import type { OrderRequest } from './request.ts';
import { readTakenOf } from './store.ts';

/** The series of an event as its page tells it: how often it takes place, and its other dates that one can register for. */
export async function seriesShown(by: Asking, event: EventRow): Promise<PublicEvent['series']> {
  if (!event.seriesId) return null;
  const { app, tx, now, request } = by;
  const of = await first<{ rule: string | null; startsLocal: string }>(
    tx,
    'select rule, starts_local from series where id = $1',
    [event.seriesId],
  );
  if (!of) return null;
  const read = of.rule === null ? null : readRule(of.rule);
  const rule = read && 'rule' in read ? read.rule : null;
  const visitor = await visitorOf({ app, tx }, request);
  const others = (await readSeriesDates(tx, event.seriesId, now)).filter(
    (e) => e.id !== event.id && e.listed && maySee(e, visitor, dateOf(now, event.zone)),
  );
  const ids = others.map((e) => e.id);
  const offers = await readOffersOf(tx, ids);
  const taken = await readTakenOf(tx, ids);
  return {
    said: { en: sayRule(rule, of.startsLocal, 'en'), fr: sayRule(rule, of.startsLocal, 'fr') },
    dates: others
      .filter((e) => !e.registerAt)
      .map((e) => {
        const { startsLocal, endsLocal } = shownTimes(e);
        return {
          slug: e.slug!,
          startsLocal: startsLocal!,
          endsLocal,
          registration: registrationNow(e, offers.get(e.id)!, taken.get(e.id)!, now),
        };
      })
      .filter((e) => e.registration !== 'closed'),
  };
}

/** What of an event an order refers to. */
export const referred = async (tx: Queries, id: string) => ({
  ...(await readSold(tx, id)),
  questions: await readQuestions(tx, id),
});

/**
 * Places an order at an event and, where it is a date of a series, the same at others of it: at all of them or at none. Each is a
 * booking of its own.
 */
export async function placeOrders(
  w: Work & Asking,
  event: EventRow,
  request: OrderRequest & { also: readonly string[] },
  address: string | null,
): Promise<OrderPlaced> {
  const { also, ...own } = request;
  const from = also.length ? await referred(w.tx, event.id) : null;
  const others: { slug: string; event: EventRow; request: OrderRequest }[] = [];
  for (const [at, slug] of [...new Set(also)].entries()) {
    const other = await publicEventRow(w, slug);
    // An address it had before leads to the same date.
    const twice = [event, ...others.map((o) => o.event)].some((e) => e.id === other.id);
    if (!event.seriesId || other.seriesId !== event.seriesId || twice)
      throw invalid([wrongAt(`also.${at}`, 'series-not-a-date')]);
    const there = atOtherDate(
      // A gift is given once, and what the first comes to is not what each of them does.
      { ...own, donation: { ...own.donation, amount: 0 }, expects: null },
      from!,
      await referred(w.tx, other.id),
      `also.${at}`,
    );
    if ('wrong' in there) throw invalid([there.wrong]);
    others.push({ slug, event: other, request: there.order });
  }
  const signedIn = await visitorOf(w, w.request);
  // An invitation is to one event: at the other dates it lets nobody in.
  const invited = await invitedVisitor(w.tx, own.invited, event.id);
  const placed = new Map<string, Placed>();
  // In one order for everybody, so that two who ask for the same dates do not wait for each other.
  for (const at of [{ event, request: own }, ...others].sort((a, b) => (a.event.id < b.event.id ? -1 : 1)))
    placed.set(
      at.event.id,
      await placeOrder(w, at.event.id, at.request, 'public', {
        address,
        visitor: (at.event === event && invited) || signedIn,
      }),
    );
  const told = (of: EventRow) => {
    const { token, standing, total } = placed.get(of.id)!;
    return { token, standing, total, currency: of.paidIn };
  };
  return { ...told(event), also: others.map(({ slug, event }) => ({ slug, ...told(event) })) };
}
