import type { crewContract } from '#contract/crew.ts';
import { partsOf, partsOfAll } from '#core/access/contacts.ts';
import { stagesOf } from '#core/access/stages.ts';
import { writableEmail } from '#core/contacts/reach.ts';
import { foundOf, type SaidText } from '#core/crew/finding.ts';
import { hoursOf } from '#core/crew/shift.ts';
import { writeCalendar } from '#core/exchange/calendar.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { sayAgainst } from '#core/words/against.ts';
import { readContact } from '../contacts/store.ts';
import { eventFor } from '../events/access.ts';
import { fileName } from '../events/fileName.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { publicEventRow } from '../registration/public.ts';
import { theOrganization } from '../staff/store.ts';
import { signForCrew } from '../waivers/signing.ts';
import { sentFrom } from '../waivers/telling.ts';
import { shiftEntries } from './calendar.ts';
import { candidatesFor, textsAbout } from './candidates.ts';
import {
  addShifts,
  changeShift,
  cutShift,
  findAgainst,
  giveShiftBack,
  markShift,
  putOnShift,
  removeShift,
  signUp,
} from './commands.ts';
import { figuresOf } from './figures.ts';
import { openShifts } from './openShifts.ts';
import { crewByLink, ownPage } from './ownPage.ts';
import { readRoleAsks } from './roleStore.ts';
import { crewCsv, crewPdf } from './sheets.ts';
import { ownShifts, readAssignment, readShift, readShifts } from './store.ts';
import { readWishes } from './swappingStore.ts';

/** How often calendars that subscribe to somebody’s shifts look, in hours. */
const everyHours = 4;
/** How many candidates are shown at once. */
const shownCandidates = 30;

export const crewHandlers: Handlers<typeof crewContract> = {
  'GET /api/events/:id/crew': async (c) => {
    const { tx, params, now } = c;
    const event = await eventFor(c, params.id, 'crew', 'see');
    const shifts = await readShifts(tx, params.id);
    // What speaks against somebody is for whoever decides.
    const decides = stagesOf(c.staff, event, now).get('crew') === 'change';
    for (const shift of shifts)
      if (decides && shift.startsAt > now)
        for (const one of shift.assignments)
          if (one.state === 'proposed')
            one.against = await findAgainst(tx, { ...shift, eventId: event.id }, one.contactId);
    return {
      shifts,
      wished: shifts.reduce((sum, s) => sum + s.wished, 0),
      filled: shifts.reduce((sum, s) => sum + Math.min(s.filled, s.wished), 0),
      asked: shifts.reduce((sum, s) => sum + s.assignments.filter((a) => a.state === 'proposed').length, 0),
      now,
      lateMinutes: (await theOrganization(tx)).lateMinutes,
      swaps: decides ? (await readWishes(tx, event.id, now)).length : 0,
      hours: shifts.reduce((sum, s) => sum + s.wished * hoursOf(s.startsAt, s.endsAt), 0),
    };
  },

  'GET /api/events/:id/crew.pdf': async (c) => {
    const event = await eventFor(c, c.params.id, 'crew', 'see');
    const pdf = await crewPdf(event, await readShifts(c.tx, event.id), c.query.by, c.now);
    return new File(fileName('crew', event, 'pdf'), pdf, true);
  },

  'GET /api/events/:id/crew.csv': async (c) => {
    const event = await eventFor(c, c.params.id, 'crew', 'see');
    return new File(fileName('crew', event, 'csv'), crewCsv(await readShifts(c.tx, event.id)));
  },

  'GET /api/events/:id/crew/figures': async (c) =>
    figuresOf(c.tx, await eventFor(c, c.params.id, 'crew', 'see'), c.now, (event) =>
      stagesOf(c.staff, event, c.now).has('crew'),
    ),

  'POST /api/events/:id/shifts': async (c) => {
    const event = await eventFor(c, c.params.id, 'crew', 'change');
    const [id] = await addShifts(c, event, [c.body]);
    return { id: id! };
  },

  'POST /api/events/:id/shifts/several': async (c) => {
    const event = await eventFor(c, c.params.id, 'crew', 'change');
    return { ids: await addShifts(c, event, c.body.shifts, (n) => `shifts.${n}.`) };
  },

  'PUT /api/shifts/:id': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    return changeShift(c, await eventFor(c, shift.eventId, 'crew', 'change'), shift, c.body);
  },

  'POST /api/shifts/:id/cut': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    return cutShift(c, await eventFor(c, shift.eventId, 'crew', 'change'), shift, c.body);
  },

  'DELETE /api/shifts/:id': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    await eventFor(c, shift.eventId, 'crew', 'change');
    await removeShift(c, shift);
    return { done: true };
  },

  'GET /api/shifts/:id/candidates': async (c) => {
    const { tx, now, staff, query } = c;
    const shift = await readShift(tx, c.params.id);
    await eventFor(c, shift.eventId, 'crew', 'change');
    // Whoever sees contacts of their unit only is shown nobody else.
    const unitId = partsOfAll(staff).has('shifts') ? null : staff.unitId;
    const all = await candidatesFor(
      tx,
      shift,
      await readRoleAsks(tx, shift.role),
      await theOrganization(tx),
      unitId,
      now,
    );
    const texts = query.q
      ? await textsAbout(
          tx,
          all.map((one) => one.contactId),
          partsOf(staff, unitId !== null),
          unitId,
        )
      : new Map<string, SaidText[]>();
    const named = all.flatMap((one) => {
      const found = foundOf(query.q, one.name, texts.get(one.contactId) ?? []);
      return found ? [{ ...one, found }] : [];
    });
    return {
      free: all.filter((one) => one.against.length === 0).length,
      all: all.length,
      matching: named.length,
      shown: named.slice(0, shownCandidates).map((one) => ({
        ...one,
        against: one.against.map((x) => ({ kind: x.kind, text: sayAgainst(x), absolute: x.absolute })),
      })),
    };
  },

  'POST /api/shifts/:id/assignments': async (c) => {
    const shift = await readShift(c.tx, c.params.id, true);
    await eventFor(c, shift.eventId, 'crew', 'change');
    return putOnShift(c, shift, c.body.contactId, c.body.overrideReason);
  },

  'POST /api/assignments/:id/state': async (c) => {
    const row = await readAssignment(c.tx, c.params.id);
    if (!row) throw notFound('This assignment');
    const shift = await readShift(c.tx, row.shiftId);
    await eventFor(c, shift.eventId, 'crew', 'change');
    await markShift(c, shift, { ...row, id: c.params.id }, c.body);
    return { done: true };
  },

  'GET /api/public/events/:slug/shifts': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    return {
      title: event.publicTitle,
      slug: event.slug!,
      zone: event.zone,
      startsLocal: event.startsLocal,
      place: event.venueName,
      shifts: await openShifts(c.tx, event.id, c.now),
    };
  },

  'GET /api/public/shifts': async (c) => {
    const { zone } = await theOrganization(c.tx);
    return { today: dateOf(c.now, zone), shifts: await openShifts(c.tx, null, c.now) };
  },

  'POST /api/public/shifts/:id/sign-up': async (c) => {
    await signUp(c, await readShift(c.tx, c.params.id, true), c.body);
    return { done: true };
  },

  'GET /api/public/crew/:token': async (c) => ownPage(c, await crewByLink(c.tx, c.params.token)),

  'POST /api/public/crew/:token/signatures': async (c) => {
    const contactId = await crewByLink(c.tx, c.params.token);
    const contact = (await readContact(c.tx, contactId))!;
    const { eventId, ...body } = c.body;
    await signForCrew(c, eventId, contactId, body, {
      ...sentFrom(c.request),
      way: 'link',
      // The link went to their own address.
      mayKnow: (id) => id === contactId,
      signer: body.relation === 'self' ? { contactId, birthDate: contact.birthDate } : null,
      copyTo: writableEmail(contact),
      language: contact.language === 'fr' ? 'fr' : 'en',
    });
    return { done: true };
  },

  'POST /api/public/crew/:token/drop': async (c) => {
    await giveShiftBack(c, await crewByLink(c.tx, c.params.token), c.body.assignmentId, c.body.words);
    return { done: true };
  },

  'GET /api/public/crew/:token/calendar.ics': async ({ tx, params, now, app }) => {
    const contactId = await crewByLink(tx, params.token);
    const { name } = await theOrganization(tx);
    const entries = shiftEntries(await ownShifts(tx, contactId), `${app.origin}/crew/${params.token}`);
    return new File('shifts.ics', writeCalendar(`Shifts, ${name}`, entries, now, everyHours));
  },
};
