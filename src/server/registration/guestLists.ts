import type { GuestList, guestListsContract } from '#contract/guestLists.ts';
import { asDescribed } from '#core/contacts/match.ts';
import { readReach } from '#core/contacts/reach.ts';
import { TableProblem } from '#core/exchange/table.ts';
import type { Answering } from '#core/questions/answering.ts';
import { standing } from '#core/registration/states.ts';
import { type Asker, inTransaction, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { Arrivals } from '../contacts/arriving.ts';
import { linkArrival } from '../contacts/linking.ts';
import { emailOf } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound } from '../http/problem.ts';
import { answeringAt, theOrganization } from '../staff/store.ts';
import type { Guest } from '../threads/tasks.ts';
import { inThread } from '../threads/threads.ts';

/** The guest lists of an event, with who is on each and whether they hold a seat. */
const readLists = (tx: Queries, eventId: string): Promise<GuestList[]> =>
  tx.query<GuestList>(
    `select l.id, l.name, l.free, l.over_capacity,
       coalesce((select jsonb_agg(jsonb_build_object('id', p.id, 'contactId', c.id, 'name', trim(c.given_name || ' ' || c.family_name),
           'email', ${emailOf('c.id')}, 'registered', exists (select 1 from registrations r where r.event_id = l.event_id and r.contact_id = c.id
             and r.state in ${among(standing)})) order by c.family_name, c.given_name, c.id)
         from guest_list_people p join contacts c on c.id = p.contact_id where p.list_id = l.id), '[]') as people
     from guest_lists l where l.event_id = $1 order by l.created_at, l.id`,
    [eventId],
  );

/** The event of a guest list that somebody may change; 404 where there is no such list. */
async function listToChange(c: Asker & { tx: Queries }, id: string) {
  const list = await first<{ eventId: string; name: string }>(
    c.tx,
    'select event_id, name from guest_lists where id = $1 for update',
    [id],
  );
  if (!list) throw notFound('This guest list');
  await eventFor(c, list.eventId, 'registration', 'change');
  return list;
}

const changed = (w: Work, eventId: string, how: string, detail: object) =>
  record(w, 'team changed', { eventId, how, detail });

/** Puts contacts on a list; whoever is on it already, or is not on record any more, is passed over. Answers how many were new. */
async function putOn(w: Work, listId: string, contactIds: readonly string[]): Promise<number> {
  const ids = contactIds.map(() => w.app.ids.id());
  const added = await w.tx.query(
    `insert into guest_list_people (id, list_id, contact_id, added_at)
     select n.id, $1, c.id, $4 from unnest($2::uuid[], $3::uuid[]) as n (id, contact) join contacts c on c.id = n.contact
     where c.merged_into is null and c.erased_at is null on conflict (list_id, contact_id) do nothing returning id`,
    [listId, ids, contactIds, w.now],
  );
  return added.length;
}

/** Links everybody of a table to the contact they are, as any import does; who is new is made one. */
export async function linkGuests(
  w: Work,
  guests: readonly Guest[],
  source: string,
): Promise<{ contactIds: string[]; made: number }> {
  const { country } = await theOrganization(w.tx);
  const people = guests.map((g) => {
    const { email, phone } = readReach({ email: g.email, phone: g.phone }, country);
    return { given: g.given, family: g.family, birthDate: g.birthDate, email, phone };
  });
  const arrivals = new Arrivals(w);
  await arrivals.lookUp(people.map((p) => asDescribed(p)));
  const contactIds: string[] = [];
  let made = 0;
  for (const person of people) {
    const linked = await linkArrival(w, arrivals, person, source, 'staff');
    contactIds.push(linked.contactId);
    if (linked.created) made += 1;
  }
  await arrivals.write();
  return { contactIds, made };
}

/** Reads a table of people; refused at `content` where it is none. */
export async function readGuests(content: string, at: Answering) {
  try {
    return await inThread('read guests', {
      bytes: Buffer.from(content, 'base64'),
      ...at,
    });
  } catch (error) {
    if (error instanceof TableProblem) throw invalid([{ path: 'content', ...error.said }]);
    throw error;
  }
}

export const guestListHandlers: Handlers<typeof guestListsContract> = {
  'GET /api/events/:id/guest-lists': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'see');
    return readLists(c.tx, event.id);
  },

  'POST /api/events/:id/guest-lists': async (c) => {
    const event = await eventFor(c, c.params.id, 'registration', 'change', true);
    const id = c.app.ids.id();
    await insert(c.tx, 'guest_lists', { id, eventId: event.id, ...c.body, createdAt: c.now });
    await changed(c, event.id, 'began a guest list', { name: c.body.name });
    return { id };
  },

  'PATCH /api/guest-lists/:id': async (c) => {
    const list = await listToChange(c, c.params.id);
    await update(c.tx, 'guest_lists', c.params.id, c.body);
    await changed(c, list.eventId, 'changed a guest list', { name: c.body.name });
    return { done: true };
  },

  'DELETE /api/guest-lists/:id': async (c) => {
    const list = await listToChange(c, c.params.id);
    await c.tx.query('delete from guest_lists where id = $1', [c.params.id]);
    await changed(c, list.eventId, 'removed a guest list', { name: list.name });
    return { done: true };
  },

  'POST /api/guest-lists/:id/people': async (c) => {
    const { app, actor, params, body } = c;
    const at = await answeringAt(app.db, c.now);
    await inTransaction(app, actor, (w) => listToChange({ ...c, tx: w.tx }, params.id));
    // Reading a file holds nobody up: it is done before anything is written, and apart.
    const read = body.content ? await readGuests(body.content, at) : { people: [], rejected: [] };
    return inTransaction(app, actor, async (w) => {
      const list = await listToChange({ ...c, tx: w.tx }, params.id);
      const { contactIds, made } = await linkGuests(w, read.people, `on the guest list ${list.name}`);
      const all = [...contactIds, ...body.contactIds];
      const added = await putOn(w, params.id, [...new Set(all)]);
      await changed(w, list.eventId, 'put people on a guest list', { name: list.name, people: added });
      return { added, already: all.length - added, made, rejected: read.rejected.slice(0, 50) };
    });
  },

  'DELETE /api/guest-lists/:id/people/:person': async (c) => {
    const list = await listToChange(c, c.params.id);
    const gone = await c.tx.query(
      'delete from guest_list_people where id = $1 and list_id = $2 returning id',
      [c.params.person, c.params.id],
    );
    if (!gone.length) throw notFound('This guest');
    await changed(c, list.eventId, 'took somebody off a guest list', { name: list.name });
    return { done: true };
  },
};
