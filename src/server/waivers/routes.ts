import type { waiversContract } from '#contract/waivers.ts';
import { factsOf } from '#core/access/stages.ts';
import { fullName } from '#core/contacts/names.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { problemsWithSigning, signedText } from '#core/waivers/signing.ts';
import { first, insert } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { announce } from '../events/announce.ts';
import { readEvent } from '../events/store.ts';
import { audit, followLink } from '../http/app.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, invalid, notFound, Problem } from '../http/problem.ts';
import { sayWhen } from '../messages/direct.ts';
import { replan } from '../messages/planning.ts';
import { readSeat, readSeats } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { readWaiver, waiverStandings } from './store.ts';

export const waiversHandlers: Handlers<typeof waiversContract> = {
  'POST /api/public/orders/:token/signatures': async (c) => {
    const { tx, app, params, body, now } = c;
    const orderId = await followLink(tx, 'manage', params.token);
    if (!orderId) throw notFound('This booking');
    const seat = (await readSeats(tx, orderId)).find((s) => s.id === body.registrationId);
    if (!seat) throw notFound('This seat');
    const event = await readEvent(tx, seat.eventId);
    const waiver = await readWaiver(tx, event.waiverId);
    if (!waiver) throw conflict('no-waiver', 'No waiver is asked at this event.');
    const { ageOfMajority, zone } = await theOrganization(tx);
    const need =
      (await waiverStandings(tx, event, ageOfMajority, dateOf(now, zone))).get(seat.id) ?? 'not asked';
    if (need === 'signed') throw conflict('signed', 'This waiver is signed already.');
    if (need === 'not asked') throw conflict('not-asked', 'No waiver is asked of this person.');
    const participant = fullName({ given: seat.givenName, family: seat.familyName });
    if (!participant) throw invalid([{ path: 'registrationId', message: 'Name this guest first.' }]);
    const signing = { participant, typedName: body.typedName, ticked: body.ticked, relation: body.relation };
    const problems = problemsWithSigning(waiver, signing, need);
    if (problems.length) throw invalid(problems);
    const text = signedText(waiver, signing, { title: event.publicTitle, when: sayWhen(event, 'en') }, now);
    const hash = sha256(text);
    await insert(tx, 'signatures', {
      id: app.ids.id(),
      waiverId: waiver.id,
      eventId: event.id,
      registrationId: seat.id,
      contactId: seat.contactId,
      relation: body.relation,
      typedName: body.typedName,
      signedText: text,
      sha256: hash,
      state: 'valid',
      at: now,
    });
    await audit(c, 'signed a waiver', { kind: 'registration', id: seat.id }, { sha256: hash });
    await replan(c, event.id, orderId);
    announce(c, event.id);
    return { sha256: hash };
  },

  'GET /api/registrations/:id/signature': async (c) => {
    const { tx, params } = c;
    const seat = await readSeat(tx, params.id);
    const event = await readEvent(tx, seat.eventId);
    if (!factsOf(c.staff, event, c.now).has('signature'))
      throw new Problem(403, 'not-your-part', 'Your role does not reach what was signed here.');
    const row = await first<{
      text: string;
      sha256: string;
      typedName: string;
      relation: string;
      at: string;
    }>(
      tx,
      "select signed_text as text, sha256, typed_name, relation, at from signatures where registration_id = $1 and state = 'valid' order by at desc limit 1",
      [params.id],
    );
    if (!row) throw notFound('This signature');
    return { ...row, matches: sha256(row.text) === row.sha256 };
  },
};
