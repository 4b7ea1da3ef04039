import type { z } from 'zod';
import type { Mine, mineContract } from '#contract/mine.ts';
import { listingQuery } from '#contract/registration.ts';
import { fullName } from '#core/contacts/names.ts';
import { shownTimes } from '#core/events/shown.ts';
import { liveLink } from '../app/app.ts';
import { readContact } from '../contacts/store.ts';
import { endVisit, visitorOf } from '../contacts/visitor.ts';
import type { Handlers } from '../http/handle.ts';
import { listingFor } from '../registration/listing.ts';
import { askForCode, enterByCode, enterByLink } from './signingIn.ts';
import { type OfEvent, seatsOf, shiftsOf } from './store.ts';

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

export const mineHandlers: Handlers<typeof mineContract> = {
  'POST /api/public/sign-in': (c) => askForCode(c, c.body.email, c.body.language),
  'POST /api/public/sign-in/code': (c) => enterByCode(c.app, c.actor, c.request, c.body),
  'POST /api/public/sign-in/link': (c) => enterByLink(c, c.request, c.body),
  'DELETE /api/public/sign-in': async (c) => {
    await endVisit(c.app, c.tx, c.request);
    return { done: true };
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
      })),
      shifts: shifts.map((s) => ({
        event: held(s),
        coming: s.coming,
        role: s.role,
        startsLocal: s.from,
        endsLocal: s.to,
      })),
      // What they hold stands above.
      forThem: theirs.events.filter((e) => !everybodys.has(e.slug) && !seats.some((s) => s.slug === e.slug)),
    };
  },
};
