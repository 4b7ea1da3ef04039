import { foundOrganization } from '#demo/organization.ts';
import { makePeople, storePeople } from '#demo/people.ts';
import { makeRandom } from '#demo/random.ts';
import type { Database } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';

/** Founds the organization in a migrated database and gives it that many contacts. The same seed makes the same people. */
export async function foundWith(db: Database, contacts: number, seed: number, now: string) {
  const random = makeRandom(seed);
  const ids = makeIds({ now: () => now }, random.bytes);
  const founded = await db.transaction((tx) => foundOrganization({ tx, now, app: { ids } as never }));
  const units = Object.keys(founded.units);
  const people = makePeople(random, () => ids.id(), contacts, units, '2023-07-01', '2026-06-10');
  await storePeople(db, people, random, ids);
  return { founded, ids };
}

/**
 * Puts seats on every event there is, all at once: `seats` in all, three to an order, taken by the contacts in turn, with who came to
 * those that are over, and a gift of every fourth contact. What triggers keep is written afterwards: one by one it takes a quarter of
 * an hour.
 */
export async function takeSeats(db: Database, seats: number, now: string): Promise<void> {
  const [{ contacts, events }] = (await db.query<{ contacts: number; events: number }>(
    'select (select count(*)::int from contacts) as contacts, (select count(*)::int from events where not is_template) as events',
  )) as [{ contacts: number; events: number }];
  const orders = Math.ceil(seats / 3);
  await db.script(`
    alter table registrations disable trigger user;
    alter table attendance disable trigger user;
    create temp table e as select e.id, e.starts_at, e.ends_at, f.id as offer_id, row_number() over (order by e.starts_at) - 1 as n
      from events e join lateral (select id from offers where event_id = e.id order by position limit 1) f on true where not e.is_template;
    create temp table p as select id, given_name, family_name, row_number() over (order by id) - 1 as n from contacts;
    create index on p (n);
    create temp table o as select gen_random_uuid() as id, g as n, e.id as event_id, e.offer_id, e.starts_at, e.ends_at, p.given_name, p.family_name, p.id as contact_id
      from generate_series(1, ${orders}) g join e on e.n = g % ${events} join p on p.n = (g::bigint * 7368787) % ${contacts};
    create index on o (n);
    insert into orders (id, event_id, currency, buyer_given, buyer_family, buyer_contact_id, due, lines, seats, state, placed_at)
      select id, event_id, 'CAD', given_name, family_name, contact_id, 0, '[]', 3, 'paid', starts_at - interval '20 days' from o;
    insert into registrations (id, order_id, event_id, offer_id, unit_number, seat_number, contact_id, given_name, family_name, state, created_at, confirmed_at)
      select gen_random_uuid(), o.id, o.event_id, o.offer_id, s, s, p.id, p.given_name, p.family_name, 'confirmed', o.starts_at - interval '20 days', o.starts_at - interval '20 days'
      from o cross join generate_series(1, 3) s join p on p.n = (o.n::bigint * 7368787 + (s - 1) * 15485863::bigint) % ${contacts};
    insert into attendance (registration_id, event_id, contact_id, state, arrived_at)
      select r.id, r.event_id, r.contact_id, case when e.ends_at > '${now}' then 'expected' when r.seat_number = 3 then 'missed' else 'arrived' end,
        case when e.ends_at > '${now}' or r.seat_number = 3 then null else e.starts_at end from registrations r join e on e.id = r.event_id;
    insert into donations (id, contact_id, fund_id, currency, amount, at)
      select gen_random_uuid(), p.id, (select id from funds limit 1), 'CAD', 1000 + (p.n % 9) * 500, timestamptz '${now}' - (p.n % 900) * interval '1 day'
      from p where n % 4 = 0;
    insert into participation (contact_id, event_id, registered, attended, missed, last_seen)
      select contact_id, event_id, true, bool_or(state = 'arrived'), bool_or(state = 'missed'), max(arrived_at)
      from attendance group by contact_id, event_id;
    insert into contact_totals (contact_id, registered, attended, missed, last_seen)
      select contact_id, count(*), count(*) filter (where attended), count(*) filter (where missed), max(last_seen)
      from participation group by contact_id;
    insert into event_counts (event_id, confirmed, arrived)
      select event_id, count(*), count(*) filter (where state = 'arrived') from attendance group by event_id
      on conflict (event_id) do update set confirmed = excluded.confirmed, arrived = excluded.arrived;
    alter table registrations enable trigger user;
    alter table attendance enable trigger user;
    drop table e, p, o;
  `);
  await db.script('vacuum analyze');
}
