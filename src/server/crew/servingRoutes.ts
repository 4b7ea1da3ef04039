import type { servingContract } from '#contract/serving.ts';
import { partsOfAll } from '#core/access/contacts.ts';
import { fullName } from '#core/contacts/names.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { contactFor, demandParts } from '../contacts/seeing.ts';
import { readContact } from '../contacts/store.ts';
import { eventFor } from '../events/access.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { hoursLetter } from '../print/hoursLetter.ts';
import { theOrganization } from '../staff/store.ts';
import { signForCrew } from '../waivers/signing.ts';
import { asRead, crewNeeds, waiversAt } from '../waivers/store.ts';
import { sentFrom } from '../waivers/telling.ts';
import { correctHours, hoursBetween, markPresence } from './servingCommands.ts';
import { readPresence, readPresent, readServedOf } from './servingStore.ts';
import { readShift } from './store.ts';

export const servingHandlers: Handlers<typeof servingContract> = {
  'GET /api/events/:id/doors/crew': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'see');
    const { lateMinutes, ageOfMajority, zone } = await theOrganization(c.tx);
    const needs = new Map(
      (await crewNeeds(c.tx, event, ageOfMajority, dateOf(c.now, zone))).map((n) => [n.contactId, n]),
    );
    const asked = new Set([...needs.values()].flatMap((n) => n.toSign));
    return {
      now: c.now,
      lateMinutes,
      waivers: (await waiversAt(c.tx, event.id)).filter((w) => asked.has(w.id)).map((w) => asRead(w, 'en')),
      rows: (await readPresent(c.tx, event.id, c.now)).map(({ contactId, ...row }) => ({
        ...row,
        toSign: needs.get(contactId)?.toSign ?? [],
        relation: needs.get(contactId)?.standing === 'guardian' ? ('guardian' as const) : ('self' as const),
      })),
    };
  },
  'POST /api/assignments/:id/signatures': async (c) => {
    const row = await readPresence(c.tx, c.params.id);
    if (!row) throw notFound('This assignment');
    const shift = await readShift(c.tx, row.shiftId);
    await eventFor(c, shift.eventId, 'doors', 'change');
    await signForCrew(c, shift.eventId, row.contactId, c.body, {
      ...sentFrom(c.request),
      device: c.staff.name,
      way: 'door',
      // Whoever signs stands there.
      mayKnow: () => true,
      signer: null,
      copyTo: null,
      language: 'en',
    });
    return { done: true };
  },
  'POST /api/assignments/:id/presence': async (c) => {
    const row = await readPresence(c.tx, c.params.id);
    if (!row) throw notFound('This assignment');
    const shift = await readShift(c.tx, row.shiftId);
    return markPresence(c, await eventFor(c, shift.eventId, 'doors', 'change'), shift, row, c.body);
  },
  'POST /api/assignments/:id/hours': async (c) => {
    const row = await readPresence(c.tx, c.params.id);
    if (!row) throw notFound('This assignment');
    const shift = await readShift(c.tx, row.shiftId);
    await eventFor(c, shift.eventId, 'crew', 'change');
    await correctHours(c, shift, row, c.body);
    return { done: true };
  },
  'GET /api/hours': async (c) => {
    demandParts(partsOfAll(c.staff), ['shifts']);
    return hoursBetween(c.tx, c.query.from, c.query.until, c.query.by);
  },
  'GET /api/hours.csv': async (c) => {
    demandParts(partsOfAll(c.staff), ['shifts']);
    const { by, from, until } = c.query;
    const { rows, years } = await hoursBetween(c.tx, from, until, by);
    const heading = { person: 'Who', event: 'Event', role: 'Role' }[by];
    return new File(
      `hours-by-${by}.csv`,
      writeCsv(
        [heading, 'People', 'Shifts', 'Hours', ...years],
        rows.map((r) => [
          r.label,
          String(r.people),
          String(r.shifts),
          String(r.hours),
          ...years.map((year) => String(r.years[year] ?? 0)),
        ]),
      ),
    );
  },
  'GET /api/contacts/:id/hours.pdf': async (c) => {
    const { contactId } = await contactFor(c, c.params.id, 'shifts');
    const contact = (await readContact(c.tx, contactId))!;
    const { from, until } = c.query;
    const organization = await theOrganization(c.tx);
    return new File(
      'hours.pdf',
      await hoursLetter({
        organization: organization.name,
        zone: organization.zone,
        name: fullName({ given: contact.givenName, family: contact.familyName }),
        language: contact.language === 'fr' ? 'fr' : 'en',
        from,
        until,
        now: c.now,
        served: await readServedOf(c.tx, contactId, from, until),
      }),
      true,
    );
  },
};
