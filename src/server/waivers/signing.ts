import type { z } from 'zod';
import type { signing as signingBody } from '#contract/waivers.ts';
import { fullName } from '#core/contacts/names.ts';
import { lives } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { problemsWithSigning, signedText } from '#core/waivers/signing.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { sayWhen } from '../events/saying.ts';
import { readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { type Signer, signingAt } from './store.ts';

/**
 * Signs a waiver of a seat, from the link of the booking or at the door. The text as signed is kept with its SHA-256.
 * Throws what is wrong with the signature, by field.
 */
export async function signWaiver(
  w: Work,
  seat: Signer,
  body: z.output<typeof signingBody>,
  /** The one at the door it is signed on. */
  device: string | null = null,
): Promise<string> {
  const { tx, app, now } = w;
  const event = await readEvent(tx, seat.eventId);
  if (!lives(event.state)) throw refused('event-not-running');
  const { ageOfMajority, zone } = await theOrganization(tx);
  const at = await signingAt(tx, event, ageOfMajority, dateOf(now, zone), seat.orderId);
  if (!at.waivers.length) throw refused('no-waiver');
  const waiver = at.waivers.find((x) => x.id === body.waiverId);
  // A newer version of it, or another one, is asked by now.
  if (!waiver) throw refused('waiver-changed');
  const { standing: need, toSign, signed } = at.need(seat.id);
  if (!toSign.includes(waiver.id) || need === 'signed' || need === 'not asked')
    throw refused(signed.includes(waiver.id) ? 'waiver-signed' : 'waiver-not-asked');
  const participant = fullName({ given: seat.givenName, family: seat.familyName });
  if (!participant) throw invalid([{ path: 'registrationId', code: 'guest-not-named' }]);
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
  await record(w, 'waiver signed', {
    eventId: event.id,
    orderId: seat.orderId,
    registrationId: seat.id,
    sha256: hash,
    device,
  });
  return hash;
}
