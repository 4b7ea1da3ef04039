import { fullName } from '#core/contacts/names.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

/** Who is invited to an event, by name. */
export async function readInvited(
  tx: Queries,
  eventId: string,
): Promise<{ contactId: string; name: string }[]> {
  const rows = await tx.query<{ id: string; givenName: string; familyName: string }>(
    `select c.id, c.given_name, c.family_name from event_invited i join contacts c on c.id = i.contact_id
     where i.event_id = $1 order by c.family_name, c.given_name, c.id`,
    [eventId],
  );
  return rows.map((c) => ({
    contactId: c.id,
    name: fullName({ given: c.givenName, family: c.familyName }),
  }));
}

/** Invites people; who is invited already, or not on record any more, is passed over. Answers how many were added. */
export async function invite(w: Work, eventId: string, contactIds: readonly string[]): Promise<number> {
  const ids = contactIds.map(() => w.app.ids.id());
  const added = await w.tx.query(
    `insert into event_invited (id, event_id, contact_id, at)
     select n.id, $1, c.id, $4 from unnest($2::uuid[], $3::uuid[]) as n (id, contact) join contacts c on c.id = n.contact
     where c.merged_into is null and c.erased_at is null on conflict (event_id, contact_id) do nothing returning id`,
    [eventId, ids, contactIds, w.now],
  );
  if (added.length)
    await record(w, 'team changed', { eventId, how: 'invited people', detail: { people: added.length } });
  return added.length;
}

/** Takes an invitation back. */
export async function uninvite(w: Work, eventId: string, contactId: string): Promise<void> {
  const gone = await w.tx.query(
    'delete from event_invited where event_id = $1 and contact_id = $2 returning id',
    [eventId, contactId],
  );
  if (!gone.length) throw notFound('This invitation');
  await record(w, 'team changed', { eventId, how: 'took an invitation back', detail: { contactId } });
}
