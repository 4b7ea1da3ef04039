import type { seatsContract } from '#contract/seats.ts';
import { factsOf, leads } from '#core/access/stages.ts';
import { nightsBefore } from '#core/doors/days.ts';
import { minutesInside, minutesLate } from '#core/doors/marks.ts';
import { lives } from '#core/events/states.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { plainAmount } from '#core/money/amount.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import { limitsOf } from '#core/registration/capacity.ts';
import { freedSeatsFor, inLine, whyNot } from '#core/registration/waitlist.ts';
import { firstOfOrders } from '#core/seats/narrowing.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { sayReason } from '#core/words/reasons.ts';
import { type Actor, type App, type Asker, inTransaction, whatIf } from '../app/app.ts';
import { writeNote } from '../contacts/commands.ts';
import { logCare } from '../contacts/seeing.ts';
import { doorDaysOf } from '../doors/days.ts';
import { type Attended, attendedAt } from '../doors/store.ts';
import { eventFor } from '../events/access.ts';
import { fileName } from '../events/fileName.ts';
import { readOffers } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, refused } from '../http/problem.ts';
import { answerFileOf } from '../registration/answerFiles.ts';
import { readGuests } from '../registration/guestLists.ts';
import { orderByLink } from '../registration/links.ts';
import { oddsInLine } from '../registration/odds.ts';
import { publicEventRow } from '../registration/public.ts';
import { askedColumns, seatTable } from '../registration/seatTable.ts';
import { countView, makeSource, readSources, stopSource } from '../registration/sources.ts';
import { readOrder, readSeat, readTaken, readWaiting } from '../registration/store.ts';
import { passOnTo } from '../registration/waiting.ts';
import { withdrawSeats } from '../registration/withdrawing.ts';
import { answeringAt } from '../staff/store.ts';
import { keepView, readViews, throwViewAway, type ViewPlace } from '../staff/views.ts';
import { bringIn } from './bringing.ts';
import { previewLetter, sendLetter } from './letters.ts';
import { chosenOrders, moveMany, withdrawMany } from './many.ts';
import { confirmationOf, doorListOf, listedSeats, nameTagsOf } from './papers.ts';

const viewsOf = (eventId: string): ViewPlace => ({ place: 'registrations', eventId });

/** Reads a table of people, apart and before anything is written: it holds nobody up. */
async function readFor(
  c: Asker & { app: App; actor: Actor; now: string; params: { id: string }; body: { content: string } },
) {
  await inTransaction(c.app, c.actor, (w) =>
    eventFor({ ...w, staff: c.staff }, c.params.id, 'registration', 'change'),
  );
  return readGuests(c.body.content, await answeringAt(c.app.db, c.now));
}

/** How somebody was there, as columns of a file: when they left, minutes there and late, who marked it, and where, where they said so. */
function wasThere(
  of: Attended | undefined,
  { startsAt }: { startsAt: string | null },
  until: string,
): (string | number | null)[] {
  if (!of?.arrivedAt) return [null, null, null, null, null];
  return [
    of.leftAt,
    minutesInside(of.stays, of.arrivedAt, until),
    startsAt ? minutesLate(of.arrivedAt, startsAt) : null,
    of.how,
    of.place && `${of.place.latitude}, ${of.place.longitude}`,
  ];
}

export const seatsHandlers: Handlers<typeof seatsContract> = {
  'GET /api/events/:id/registrations': async ({ tx, params, now, staff }) => {
    const event = await eventFor({ tx, staff, now }, params.id, 'registration', 'see');
    const facts = factsOf(staff, event, now);
    const offers = await readOffers(tx, params.id);
    const waiting = inLine(await readWaiting(tx, params.id, offers), event.waitRule);
    const taken = await readTaken(tx, params.id);
    const odds = await oddsInLine(tx, event, waiting, now);
    return {
      capacity: limitsOf(event).capacity,
      questions: await askedColumns(tx, event.id, facts),
      rows: await seatTable(tx, event, now, facts),
      waiting: waiting.map((p, at) => ({
        orderId: p.orderId,
        name: p.name,
        seats: p.seats,
        since: p.since,
        fits: sayReason(whyNot(p, limitsOf(event), taken)),
        odds: odds[at] ?? null,
      })),
    };
  },

  'GET /api/events/:id/answers/files/:file': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    const facts = factsOf(c.staff, event, c.now);
    const { name, mediaType, content, sensitive, contactId } = await answerFileOf(
      c.tx,
      event.id,
      c.params.file,
    );
    if (!facts.has('answers') || (sensitive && !facts.has('health'))) throw refused('not-your-part', {}, 403);
    if (sensitive) await logCare(c, 'a file', [{ contactId, eventId: event.id }]);
    // Whatever it is, it is never shown within our own pages.
    return new File(name, Buffer.from(content), false, mediaType);
  },

  'GET /api/events/:id/registrations.csv': async (c) => {
    const { tx, params, now, staff, query } = c;
    const event = await eventFor(c, params.id, 'registration', 'see');
    const currency = event.paidIn;
    const facts = factsOf(staff, event, now);
    const health = facts.has('health');
    const rows = await listedSeats(tx, event, now, facts, query.only, health);
    if (health)
      await logCare(
        c,
        'registrations as a table',
        rows
          .filter((r) => r.care)
          .map((r) => ({ contactId: r.contactId, registrationId: r.id, eventId: event.id })),
      );
    const reach = facts.has('answers');
    const questions = (await askedColumns(tx, event.id, facts, health)).filter((q) =>
      rows.some((r) => r.answers[q.id]),
    );
    const [extras, sessions, sources] = [
      rows.some((r) => r.extras.length),
      rows.some((r) => r.sessions.length),
      rows.some((r) => r.source),
    ];
    // What belongs to the whole order stands once: sums of the column are sums of money.
    const firsts = firstOfOrders(rows);
    const attended = await attendedAt(tx, event.id, nightsBefore(await doorDaysOf(tx, event), now));
    const until = event.endsAt && event.endsAt < c.now ? event.endsAt : c.now;
    const body = writeCsv(
      [
        'Order',
        'Last name',
        'First name',
        ...(reach ? ['Email', 'Telephone'] : []),
        'Booked by',
        ...(reach ? ['Email of who booked'] : []),
        'Ticket',
        ...(extras ? ['Extras'] : []),
        'Registration',
        'Attendance',
        'Arrived',
        'Left',
        'Minutes there',
        'Minutes late',
        'Checked in by',
        'Where',
        'Waiver',
        'Order due',
        'Order received',
        'Order open',
        'Since',
        ...(sources ? ['Came through'] : []),
        ...(sessions ? ['Sessions'] : []),
        ...questions.map((q) => q.prompt),
      ],
      rows.map((r) => {
        const once = firsts.has(r.id);
        return [
          r.orderNumber,
          r.family,
          r.given,
          ...(reach ? [r.email, r.phone] : []),
          r.buyer,
          ...(reach ? [r.buyerEmail] : []),
          r.offer,
          ...(extras ? [once ? r.extras.join('; ') : ''] : []),
          r.state,
          r.attendance,
          r.arrivedAt,
          ...wasThere(attended.get(r.id), event, until),
          r.waiver,
          once ? plainAmount(r.due, currency) : null,
          once ? plainAmount(r.received, currency) : null,
          once ? plainAmount(r.balance, currency) : null,
          r.since,
          ...(sources ? [r.source] : []),
          ...(sessions ? [r.sessions.join('; ')] : []),
          ...questions.map((q) => {
            const answer = q.scope === 'order' && !once ? undefined : r.answers[q.id];
            return answer ? sayAnswer(answer.value, answer.file?.name) : null;
          }),
        ];
      }),
    );
    return new File(fileName('registrations', event, 'csv'), body);
  },

  'POST /api/registrations/:id/withdraw': async (c) => {
    const seat = await readSeat(c.tx, c.params.id);
    await eventFor(c, seat.eventId, 'registration', 'change');
    const { offered, kept, balance } = await withdrawSeats(
      c,
      seat.orderId,
      [seat.id],
      c.body.reason || `withdrawn by ${c.staff.name}`,
      c.body.back,
    );
    return { offered, kept, owed: Math.max(0, -balance) };
  },

  'POST /api/orders/:id/offer': async (c) => {
    const { tx, params, now } = c;
    const order = await readOrder(tx, params.id);
    const event = await eventFor(c, order.eventId, 'registration', 'change', true);
    if (!lives(event.state)) throw refused('no-seats-offered', { state: event.state });
    const offers = await readOffers(tx, order.eventId);
    const party = (await readWaiting(tx, order.eventId, offers)).find((p) => p.orderId === order.id);
    if (!party) throw refused('not-waiting');
    // Offered by hand, it was decided: the organizer tells them.
    party.quiet = null;
    const taken = await readTaken(tx, order.eventId);
    const [offer] = freedSeatsFor(
      [party],
      limitsOf(event),
      taken,
      now,
      event.startsAt ?? plusMinutes(now, 10_000),
    );
    if (!offer)
      throw refused('does-not-fit', {
        name: party.name,
        reason: sayReason(whyNot(party, limitsOf(event), taken)),
      });
    // Before others who wait longer only with a reason, which they may be told.
    const first = inLine(await readWaiting(tx, order.eventId, offers), event.waitRule).find(
      (p) => p.quiet === null,
    );
    if (first && first.orderId !== order.id && !c.body.reason)
      throw invalid([{ path: 'reason', code: 'reason-out-of-turn' }]);
    await passOnTo(
      c,
      order.id,
      offer.until,
      `offered by ${c.staff.name}${c.body.reason && `: ${c.body.reason}`}`,
    );
    return { until: offer.until };
  },

  'POST /api/events/:id/registrations/import': async (c) => {
    const read = await readFor(c);
    return inTransaction(c.app, c.actor, async (w) => {
      const event = await eventFor({ ...w, staff: c.staff }, c.params.id, 'registration', 'change', true);
      return bringIn(w, event, read, c.body.offerId);
    });
  },

  'POST /api/events/:id/registrations/import/what-if': async (c) => {
    const read = await readFor(c);
    return whatIf(c.app, c.actor, async (w) => {
      const event = await eventFor({ ...w, staff: c.staff }, c.params.id, 'registration', 'change', true);
      return bringIn(w, event, read, c.body.offerId);
    });
  },

  'GET /api/events/:id/registration-views': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    return readViews(c.tx, viewsOf(event.id), c.staff.id);
  },

  'POST /api/events/:id/registration-views': async (c) => {
    // What is for the whole team is kept by whoever changes the stage.
    const event = await eventFor(c, c.params.id, 'registration', c.body.shared ? 'change' : 'see');
    return keepView(c, viewsOf(event.id), c.body, c.staff.id);
  },

  'DELETE /api/events/:id/registration-views/:view': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    await throwViewAway(c.tx, viewsOf(event.id), c.params.view, c.staff.id, leads(c.staff, event, c.now));
    return { done: true };
  },

  'POST /api/events/:id/seats/withdraw': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'change', true);
    const { seatIds, reason, back } = c.body;
    return withdrawMany(c, event.id, seatIds, reason || `withdrawn by ${c.staff.name}`, back);
  },

  'POST /api/events/:id/seats/withdraw/what-if': (c) =>
    whatIf(c.app, c.actor, async (w) => {
      const event = await eventFor({ ...w, staff: c.staff }, c.params.id, 'registration', 'change', true);
      return withdrawMany(w, event.id, c.body.seatIds, 'asked about', c.body.back);
    }),

  'POST /api/events/:id/seats/move': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'change', true);
    if (c.body.eventId) await eventFor(c, c.body.eventId, 'registration', 'change', true);
    return moveMany(c, event.id, c.body);
  },

  'POST /api/events/:id/seats/move/what-if': (c) =>
    whatIf(c.app, c.actor, async (w) => {
      const by = { ...w, staff: c.staff };
      const event = await eventFor(by, c.params.id, 'registration', 'change', true);
      if (c.body.eventId) await eventFor(by, c.body.eventId, 'registration', 'change', true);
      return moveMany(w, event.id, c.body);
    }),

  'POST /api/events/:id/letters/preview': (c) =>
    whatIf(c.app, c.actor, async (w) => {
      const event = await eventFor({ ...w, staff: c.staff }, c.params.id, 'registration', 'change');
      return previewLetter(w.tx, event, c.body);
    }),

  'POST /api/events/:id/letters': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'change');
    return sendLetter(c, event, c.body);
  },

  'POST /api/events/:id/tasks': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'change');
    const orders = await chosenOrders(c.tx, event.id, c.body.seatIds);
    const seats = [...orders.values()].flat();
    const { text, dueOn } = c.body;
    const people = [...new Set(seats.flatMap((s) => (s.contactId ? [s.contactId] : [])))];
    for (const contactId of people) await writeNote(c, contactId, { text, dueOn }, c.staff);
    return { tasks: people.length, left: seats.filter((s) => !s.contactId).map((s) => s.name) };
  },

  'GET /api/events/:id/sources': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    return readSources(c.tx, event, c.app.origin);
  },

  'POST /api/events/:id/sources': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'change', true);
    return makeSource(c, event, c.body.name);
  },

  'DELETE /api/events/:id/sources/:source': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'change', true);
    await stopSource(c, event.id, c.params.source);
    return { done: true };
  },

  'POST /api/public/events/:slug/seen': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    await countView(c, event, c.body.step, c.body.from);
    return { done: true };
  },

  'POST /api/events/:id/name-tags.pdf': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    return new File(fileName('name-tags', event, 'pdf'), await nameTagsOf(c, event, c.body), true);
  },

  'POST /api/events/:id/door-list.pdf': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    return new File(fileName('door-list', event, 'pdf'), await doorListOf(c, event, c.body), true);
  },

  'GET /api/orders/:id/confirmation.pdf': async (c) => {
    const order = await readOrder(c.tx, c.params.id);
    await eventFor(c, order.eventId, 'registration', 'see');
    return new File(`confirmation-${order.number}.pdf`, await confirmationOf(c.tx, order), true);
  },

  'GET /api/public/orders/:token/confirmation.pdf': async ({ tx, params }) => {
    const order = await readOrder(tx, await orderByLink(tx, params.token));
    return new File(`confirmation-${order.number}.pdf`, await confirmationOf(tx, order), true);
  },
};
