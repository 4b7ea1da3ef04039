import type { Invited } from '#contract/invited.ts';
import type { Visitor } from '#core/access/visitor.ts';
import type { Reply } from '#core/admission/invitation.ts';
import { fullName } from '#core/contacts/names.ts';
import { standing } from '#core/registration/states.ts';
import { followLink, stopLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { asVisitor } from '../contacts/visitor.ts';
import { among } from '../db/among.ts';
import { first, type Queries, update } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';

/** Seats that somebody holds at an event, booked or was booked for, as SQL over ids of both. */
const seatsHeld = (event: string, contact: string): string =>
  `(select count(*)::int from registrations r join orders o on o.id = r.order_id where r.event_id = ${event}
    and ${contact} in (r.contact_id, o.buyer_contact_id, o.placed_by) and r.state in ${among(standing)})`;

/** Who is invited to an event, by name, and what they answered. */
export async function readInvited(tx: Queries, eventId: string): Promise<Invited[]> {
  const rows = await tx.query<Omit<Invited, 'name'> & { givenName: string; familyName: string }>(
    `select c.id as contact_id, c.given_name, c.family_name, i.companions, i.answer, i.words, i.answered_at, i.written,
       ${seatsHeld('i.event_id', 'c.id')} as seats
     from event_invited i join contacts c on c.id = i.contact_id
     where i.event_id = $1 order by c.family_name, c.given_name, c.id`,
    [eventId],
  );
  return rows.map(({ givenName, familyName, ...row }) => ({
    ...row,
    name: fullName({ given: givenName, family: familyName }),
  }));
}

/**
 * Invites people; who is invited already, or not on record any more, is passed over, as, where that is asked, is whoever has a seat.
 * Answers who was added.
 */
export async function invite(
  w: Work,
  eventId: string,
  contactIds: readonly string[],
  companions: number,
  who: 'all' | 'without a seat' = 'all',
): Promise<string[]> {
  const ids = contactIds.map(() => w.app.ids.id());
  const added = await w.tx.query<{ contactId: string }>(
    `insert into event_invited (id, event_id, contact_id, at, companions)
     select n.id, $1, c.id, $4, $5 from unnest($2::uuid[], $3::uuid[]) as n (id, contact) join contacts c on c.id = n.contact
     where c.merged_into is null and c.erased_at is null and ($6 = 'all' or ${seatsHeld('$1::uuid', 'c.id')} = 0) on conflict (event_id, contact_id) do nothing returning contact_id`,
    [eventId, ids, contactIds, w.now, companions, who],
  );
  if (added.length)
    await record(w, 'team changed', { eventId, how: 'invited people', detail: { people: added.length } });
  return added.map((a) => a.contactId);
}

/** Takes back the invitations of those who were not written to and said nothing. Answers whose. */
export async function uninviteAll(
  w: Work,
  eventId: string,
  contactIds: readonly string[],
): Promise<string[]> {
  const gone = await w.tx.query<{ contactId: string }>(
    'delete from event_invited where event_id = $1 and contact_id = any($2) and written = 0 and answer is null returning contact_id',
    [eventId, contactIds],
  );
  if (gone.length)
    await record(w, 'team changed', {
      eventId,
      how: 'took invitations back',
      detail: { people: gone.length },
    });
  return gone.map((g) => g.contactId);
}

async function invitationOf(tx: Queries, eventId: string, contactId: string): Promise<string> {
  const row = await first<{ id: string }>(
    tx,
    'select id from event_invited where event_id = $1 and contact_id = $2',
    [eventId, contactId],
  );
  if (!row) throw notFound('This invitation');
  return row.id;
}

/** Changes how many somebody may bring along. */
export async function changeCompanions(
  w: Work,
  eventId: string,
  contactId: string,
  companions: number,
): Promise<void> {
  await update(w.tx, 'event_invited', await invitationOf(w.tx, eventId, contactId), { companions });
  await record(w, 'team changed', {
    eventId,
    how: 'changed an invitation',
    detail: { contactId, companions },
  });
}

/** Takes an invitation back; its link leads nowhere any more. */
export async function uninvite(w: Work, eventId: string, contactId: string): Promise<void> {
  const id = await invitationOf(w.tx, eventId, contactId);
  await stopLink(w, 'invited', id);
  await w.tx.query('delete from event_invited where id = $1', [id]);
  await record(w, 'team changed', { eventId, how: 'took an invitation back', detail: { contactId } });
}

export interface InvitationRow {
  id: string;
  eventId: string;
  contactId: string;
  given: string;
  family: string;
  language: string;
  companions: number;
  answer: Reply | null;
  words: string;
  seats: number;
}

/** The invitation that a personal link leads to. */
export async function invitationByLink(tx: Queries, token: string): Promise<InvitationRow> {
  const id = await followLink(tx, 'invited', token);
  const row =
    id &&
    (await first<InvitationRow>(
      tx,
      `select i.id, i.event_id, i.contact_id, c.given_name as given, c.family_name as family, c.language, i.companions, i.answer, i.words,
         ${seatsHeld('i.event_id', 'i.contact_id')} as seats
       from event_invited i join contacts c on c.id = i.contact_id where i.id = $1 and c.erased_at is null`,
      [id],
    ));
  if (!row) throw notFound('This invitation');
  return row;
}

/**
 * Whoever comes with the link of an invitation to an event: themselves, invited, and nobody of their household; the link may have been
 * passed on. Null where it leads to no invitation to it.
 */
export async function invitedVisitor(tx: Queries, token: string, eventId: string): Promise<Visitor | null> {
  if (!token) return null;
  const id = await followLink(tx, 'invited', token);
  const row =
    id &&
    (await first<{ contactId: string }>(
      tx,
      'select contact_id from event_invited where id = $1 and event_id = $2',
      [id, eventId],
    ));
  return row ? { ...(await asVisitor(tx, row.contactId)), byLink: true } : null;
}

/** How many somebody may bring along by their invitation; null where they are not invited. */
export const companionsOf = async (
  tx: Queries,
  eventId: string,
  contactId: string,
): Promise<{ companions: number; seats: number } | null> =>
  first<{ companions: number; seats: number }>(
    tx,
    `select companions, ${seatsHeld('$1::uuid', '$2::uuid')} as seats from event_invited where event_id = $1 and contact_id = $2`,
    [eventId, contactId],
  );

/** Keeps what somebody answered. Who holds seats gives them up where they were booked. */
export async function answerInvitation(
  w: Work,
  invitation: InvitationRow,
  answer: Exclude<Reply, 'yes'>,
  words: string,
): Promise<void> {
  if (invitation.seats > 0) throw refused('invited-has-seats');
  await update(w.tx, 'event_invited', invitation.id, { answer, words, answeredAt: w.now });
  await record(w, 'invitation answered', {
    eventId: invitation.eventId,
    contactId: invitation.contactId,
    answer,
  });
}

/** Whoever books has said yes, and who gives everything up no; as far as they are invited. */
export async function answerByBooking(w: Work, eventId: string, orderId: string): Promise<void> {
  await w.tx.query(
    `update event_invited i set answer = x.answer, answered_at = $3
     from (select e.id, case when ${seatsHeld('e.event_id', 'e.contact_id')} > 0 then 'yes' else 'no' end as answer
       from event_invited e join orders o on o.id = $2 where e.event_id = $1 and e.contact_id in (o.buyer_contact_id, o.placed_by)) x
     where x.id = i.id and i.answer is distinct from x.answer`,
    [eventId, orderId, w.now],
  );
}
