import type { z } from 'zod';
import type { Mine, mineContract } from '#contract/mine.ts';
import { listingQuery } from '#contract/publicEvent.ts';
import { fullName } from '#core/contacts/names.ts';
import { shownTimes } from '#core/events/shown.ts';
import { writeCalendar } from '#core/exchange/calendar.ts';
import { countingState, countingWindow } from '#core/outcomes/counting.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type App, followLink, liveLink, openLink } from '../app/app.ts';
import { readContact, resolveContact, theirsOf } from '../contacts/store.ts';
import { endVisit, visitorOf } from '../contacts/visitor.ts';
import { shiftEntries } from '../crew/calendar.ts';
import { ownShifts } from '../crew/store.ts';
import type { Queries } from '../db/database.ts';
import { entryOf } from '../events/calendar.ts';
import { readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { listingFor } from '../registration/listing.ts';
import { theOrganization } from '../staff/store.ts';
import { stillToSign, waiverNeedsOf } from '../waivers/store.ts';
import { askForCode, enterByCode, enterByLink } from './signingIn.ts';
import { countedOf, giftsOf, type OfEvent, seatsOf, shiftsOf, surveysOf } from './store.ts';

const everything: z.output<typeof listingQuery> = listingQuery.parse({ limit: 300 });

const held = (row: OfEvent): Mine['shifts'][number]['event'] => {
  const { startsLocal, endsLocal } = shownTimes(row);
  return {
    slug: row.slug,
    title: row.publicTitle,
    state: row.state as Mine['shifts'][number]['event']['state'],
    startsLocal,
    endsLocal,
    startsAt: row.startsAt,
    zone: row.zone,
    place: row.place,
  };
};

/** Of coming seats, those whose waiver still has to be signed. */
async function unsignedOf(
  tx: Queries,
  seats: Awaited<ReturnType<typeof seatsOf>>,
  contactId: string,
  now: string,
): Promise<ReadonlySet<string>> {
  const { ageOfMajority, zone } = await theOrganization(tx);
  const theirs = await theirsOf(tx, contactId);
  const events = new Map(seats.filter((s) => s.coming).map((s) => [s.eventId, s.startsLocal]));
  const needs = await waiverNeedsOf(
    tx,
    [...events].map(([id, startsLocal]) => ({ id, startsLocal })),
    ageOfMajority,
    dateOf(now, zone),
    [...new Set(seats.map((s) => s.orderId))],
    // Of others they booked for, what those signed elsewhere is theirs.
    (id) => id !== null && theirs.has(id),
  );
  return new Set([...needs.values()].flatMap((of) => of.filter(stillToSign).map((need) => need.id)));
}

/** Days that stay in the calendar of somebody after they have passed. */
const daysKept = 62;

/** The calendar of somebody: their confirmed seats, one entry an event, and their shifts. */
async function feedOf(app: App, tx: Queries, contactId: string, now: string): Promise<string> {
  const since = plusMinutes(now, -daysKept * 24 * 60);
  const { name } = await theOrganization(tx);
  const seats = (await seatsOf(tx, contactId, now)).filter(
    (s) => s.registration === 'confirmed' && s.startsAt && s.startsAt > since,
  );
  const entries = [];
  for (const eventId of new Set(seats.map((s) => s.eventId))) {
    const event = await readEvent(tx, eventId);
    const names = seats.filter((s) => s.eventId === eventId).map((s) => fullName(s));
    const entry = entryOf(event, {
      summary: event.publicTitle,
      description: names.filter(Boolean).join(', '),
      url: `${app.origin}/mine`,
      language: 'en',
    });
    if (entry) entries.push(entry);
  }
  const own = (await ownShifts(tx, contactId)).filter((s) => s.startsAt > since);
  const shifts = shiftEntries(own, `${app.origin}/mine`);
  return writeCalendar(name, [...entries, ...shifts], now);
}

export const mineHandlers: Handlers<typeof mineContract> = {
  'POST /api/public/sign-in': (c) => askForCode(c, c.body.email, c.body.language),
  'POST /api/public/sign-in/code': (c) => enterByCode(c.app, c.actor, c.request, c.body),
  'POST /api/public/sign-in/link': (c) => enterByLink(c, c.request, c.body),
  'DELETE /api/public/sign-in': async (c) => {
    await endVisit(c.app, c.tx, c.request);
    return { done: true };
  },

  'GET /api/public/mine/:token/calendar.ics': async ({ app, tx, params, now }) => {
    const opened = await followLink(tx, 'feed', params.token);
    const contactId = opened && (await resolveContact(tx, opened));
    if (!contactId) throw notFound('This calendar');
    return new File('mine.ics', await feedOf(app, tx, contactId, now), true);
  },

  'GET /api/public/mine': async (c) => {
    const { app, tx, now, request } = c;
    const visitor = await visitorOf({ app, tx }, request);
    const contact = visitor && (await readContact(tx, visitor.contactId));
    if (!visitor || !contact) return null;
    const seats = await seatsOf(tx, visitor.contactId, now);
    const shifts = await shiftsOf(tx, visitor.contactId, now);
    const tokens = new Map<string, string | null>();
    for (const { orderId, own } of seats)
      if (own && !tokens.has(orderId)) tokens.set(orderId, await liveLink(c, 'manage', orderId));
    // The seat that somebody else booked for them is theirs to fill in.
    const seatTokens = new Map<string, string>();
    for (const s of seats)
      if (!s.own && s.theirs && s.coming)
        seatTokens.set(s.registrationId, await openLink(c, 'seat', s.registrationId));
    const toSign = await unsignedOf(tx, seats, visitor.contactId, now);
    const surveys: Mine['surveys'] = [];
    for (const { askId, publicTitle } of await surveysOf(tx, visitor.contactId, c.now)) {
      const token = await liveLink(c, 'survey', askId);
      if (token) surveys.push({ title: publicTitle, token });
    }
    const counts: Mine['counts'] = [];
    for (const { id, publicTitle, ...event } of await countedOf(tx, visitor.contactId, now)) {
      const token = await liveLink(c, 'count', id);
      if (token && countingState(countingWindow(event, event.outcomes), now) === 'open')
        counts.push({ title: publicTitle, token });
    }
    const { zone } = await theOrganization(tx);
    const everybodys = new Set((await listingFor(tx, everything, now, null)).events.map((e) => e.slug));
    const theirs = await listingFor(tx, everything, now, visitor);
    return {
      person: { id: visitor.contactId, given: contact.givenName, family: contact.familyName },
      crewToken: shifts.length ? await liveLink(c, 'crew', visitor.contactId) : null,
      seats: seats.map((s) => ({
        event: held(s),
        coming: s.coming,
        name: fullName({ given: s.given, family: s.family }),
        offer: s.offer,
        state: s.registration as Mine['seats'][number]['state'],
        attendance: s.attendance as Mine['seats'][number]['attendance'],
        token: s.own ? (tokens.get(s.orderId) ?? null) : null,
        seatToken: seatTokens.get(s.registrationId) ?? null,
        toSign: toSign.has(s.registrationId),
      })),
      shifts: shifts.map((s) => ({
        event: held(s),
        coming: s.coming,
        role: s.role,
        startsLocal: s.from,
        endsLocal: s.to,
      })),
      surveys,
      counts,
      gifts: await giftsOf(tx, visitor.contactId, zone),
      feedToken: await openLink(c, 'feed', visitor.contactId),
      // What they hold stands above.
      forThem: theirs.events.filter((e) => !everybodys.has(e.slug) && !seats.some((s) => s.slug === e.slug)),
    };
  },
};
