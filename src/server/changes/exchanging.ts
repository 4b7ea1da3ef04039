import type { exchangingContract } from '#contract/exchanging.ts';
import { percentBack } from '#core/money/refundPolicy.ts';
import { namesUntil } from '#core/registration/namesUntil.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type Work, whatIf } from '../app/app.ts';
import { readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { refused } from '../http/problem.ts';
import { orderByLink } from '../registration/links.ts';
import { changeOffer, type OfferChanged } from '../registration/offerChange.ts';
import { publicEventRow } from '../registration/public.ts';
import { readOrder } from '../registration/store.ts';
import { moveToDate } from './moving.ts';

/** The order a link leads to, as long as whoever booked may still change it. */
async function changeable(w: Work, token: string) {
  const order = await readOrder(w.tx, await orderByLink(w.tx, token));
  const event = await readEvent(w.tx, order.eventId);
  const until = namesUntil(event);
  if (until && until <= w.now) throw refused(event.startsAt! <= w.now ? 'begun' : 'names-closed');
  return { order, event };
}

async function changeTicket(
  w: Work,
  token: string,
  { seats, offerId }: { seats: readonly string[]; offerId: string },
): Promise<OfferChanged> {
  const { order } = await changeable(w, token);
  return changeOffer(w, order.id, seats, offerId, 'public');
}

/**
 * Comes on another date. Only as long as everything would go back by the terms: otherwise another date, from which it can be given up,
 * would be a way around them.
 */
async function changeDate(
  w: Work,
  request: Parameters<typeof publicEventRow>[0],
  token: string,
  slug: string,
) {
  const { order, event } = await changeable(w, token);
  const target = await publicEventRow(request, slug);
  if (target.id === event.id) throw refused('move-to-itself');
  // Dates of one series, and no other event of the same prices.
  if (!event.seriesId || target.seriesId !== event.seriesId) throw refused('registration-closed');
  // Where people are accepted, or register elsewhere, nobody gets in by a way around that.
  if (target.admission.accepts || target.admission.noReply || target.registerAt)
    throw refused('registration-closed');
  const percent = percentBack(
    event.refunds,
    dateOf(w.now, event.zone),
    event.startsLocal?.slice(0, 10) ?? null,
  );
  if (order.received > 0 && percent < 100) throw refused('move-by-terms');
  const { token: there, seats, more, back, kept } = await moveToDate(w, order.id, target.id, 'registrant');
  return { token: there, seats, more, back, kept };
}

export const exchangingHandlers: Handlers<typeof exchangingContract> = {
  'POST /api/public/orders/:token/ticket': (c) => changeTicket(c, c.params.token, c.body),

  'POST /api/public/orders/:token/ticket/what-if': (c) =>
    whatIf(c.app, c.actor, (w) => changeTicket(w, c.params.token, c.body)),

  'POST /api/public/orders/:token/date': (c) => changeDate(c, c, c.params.token, c.body.slug),

  'POST /api/public/orders/:token/date/what-if': (c) =>
    whatIf(c.app, c.actor, async (w) => {
      const { token: _, ...comesTo } = await changeDate(
        w,
        { ...w, request: c.request },
        c.params.token,
        c.body.slug,
      );
      return comesTo;
    }),
};
