import type { z } from 'zod';
import type { waiversContract } from '#contract/waivers.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { countsFrom } from '#core/waivers/form.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { readContact, resolveContact } from '../contacts/store.ts';
import { readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { sentFile } from '../http/sentFile.ts';
import { theOrganization } from '../staff/store.ts';
import { readVersions, theWaiver } from './formStore.ts';
import { keepScan, seatOfContact, signatureOfAct, supersede, whoSignedFor } from './signatureStore.ts';
import { keepSigned } from './signing.ts';
import { asRead } from './store.ts';

type Body = z.output<(typeof waiversContract)['POST /api/waivers/:id/paper']['body']>;

/**
 * Enters what somebody signed on paper, with its scan. It counts from the day on the paper on; it holds every clause that is agreed to, as
 * the paper does.
 */
export async function enterPaper(w: Work, waiverId: string, body: Body): Promise<string> {
  const waiver = await theWaiver(w.tx, waiverId, true);
  const organization = await theOrganization(w.tx);
  const today = dateOf(w.now, organization.zone);
  const contactId = await resolveContact(w.tx, body.contactId);
  const contact = contactId ? await readContact(w.tx, contactId) : null;
  const event = body.eventId ? await readEvent(w.tx, body.eventId) : null;
  const shown = asRead(waiver, 'en');
  const problems: Wrong[] = [
    ...(contact ? [] : [wrongAt('contactId', 'contact-gone')]),
    ...(body.signedOn > today ? [wrongAt('signedOn', 'in-the-future')] : []),
    ...(waiver.holds.for === 'event' && !event ? [wrongAt('eventId', 'event-needed')] : []),
    ...shown.clauses.flatMap((c, at) =>
      c.kind === 'choice' && body.chosen[c.id] === undefined
        ? [wrongAt(`clauses.${at}`, 'clause-not-chosen')]
        : [],
    ),
  ];
  if (problems.length) throw invalid(problems);
  const file = sentFile(body.scan.name, body.scan.content);
  const seat = event ? await seatOfContact(w.tx, event.id, contactId!) : null;
  if (event && !seat)
    throw refused('no-seat-there', {
      name: fullName({ given: contact!.givenName, family: contact!.familyName }),
      event: event.publicTitle,
    });
  if (seat) {
    const versions = await readVersions(w.tx, waiverId);
    await supersede(w.tx, seat.id, waiverId, countsFrom(versions, event!.startsAt ?? '9999'));
    const hands = await whoSignedFor(w.tx, seat.id, waiverId);
    if (hands.some((who) => fold(who) === fold(body.typedName))) throw refused('waiver-signed');
  }
  const agreed = shown.clauses.filter((c) => c.kind === 'agree').map((c) => c.id);
  const initials = Object.fromEntries(
    shown.clauses.filter((c) => c.kind === 'initials').map((c) => [c.id, 'on paper']),
  );
  const { act } = await keepSigned(
    w,
    { ...waiver, ...shown },
    event,
    [
      {
        name: fullName({ given: contact!.givenName, family: contact!.familyName }),
        relation: body.relation,
        answers: {},
        contactId,
        registrationId: seat?.id ?? null,
        orderId: seat?.orderId ?? null,
      },
    ],
    {
      typedName: body.typedName,
      ticked: agreed,
      initials,
      chosen: body.chosen,
      declared: body.relation === 'guardian',
      drawn: null,
    },
    {
      way: 'paper',
      mayKnow: () => true,
      signer: null,
      copyTo: null,
      language: 'en',
      address: null,
      device: `paper signed on ${body.signedOn}, entered by ${w.actor.name}`,
    },
    organization,
    body.signedOn,
  );
  const id = await signatureOfAct(w.tx, act);
  await keepScan(w.tx, id, { name: body.scan.name, ...file });
  return id;
}
