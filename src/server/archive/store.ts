import type { EventReach } from '#core/access/stages.ts';
import { emailOf, whyQuiet } from '../contacts/quiet.ts';
import { first, type Queries } from '../db/database.ts';
import { endSql } from '../events/end.ts';

/** An event of the archive as it is read, with the version of its seats. */
export interface KeptEvent {
  id: string;
  title: string;
  kind: string;
  unitId: string | null;
  startsLocal: string;
  startsOn: string;
  over: boolean;
  capacity: number | null;
  version: string;
}

/** Every event that took place or is to, in the order of time. */
export const readKept = (tx: Queries, now: string): Promise<KeptEvent[]> =>
  tx.query<KeptEvent>(
    `select e.id, e.public_title as title, coalesce(e.first_of, e.id) as kind, e.unit_id, e.starts_local, to_char(e.starts_local, 'YYYY-MM-DD') as starts_on,
       ${endSql('e')} <= $1 as over, e.capacity, coalesce(t.version::text, '') as version
     from events e left join event_touched t on t.event_id = e.id
     where e.starts_at is not null and not e.is_template and e.state not in ('draft', 'in clearance', 'cleared', 'called off', 'shelved')
     order by e.starts_at, e.id`,
    [now],
  );

/** A seat of nobody on record. */
const nobody = "'\\x00000000000000000000000000000000'::bytea";

/** The seats of some events, each packed into one row: sixteen bytes a person, a letter a state, two bytes for each of the days before. */
export const readPacked = (tx: Queries, eventIds: readonly string[]) =>
  tx.query<{ eventId: string; people: string; states: string; booked: string; ended: string }>(
    `select x.event_id, encode(string_agg(x.person, '' order by x.id), 'base64') as people, string_agg(x.state, '' order by x.id) as states,
       encode(string_agg(int2send(x.booked), '' order by x.id), 'base64') as booked, encode(string_agg(int2send(x.ended), '' order by x.id), 'base64') as ended
     from (select r.id, r.event_id, coalesce(uuid_send(r.contact_id), ${nobody}) as person,
         case when r.state = 'confirmed' and r.walk_in and a.state in ('arrived', 'left') then 'i'
           when r.state = 'confirmed' and a.state in ('arrived', 'left') then 'c' when r.state = 'confirmed' and a.state = 'missed' then 'm'
           when r.state = 'confirmed' then 'e' when r.state = 'withdrawn' and r.confirmed_at is not null then 'w' else 'o' end as state,
         greatest(-30000, least(30000, e.starts_local::date - (r.created_at at time zone e.zone)::date))::int2 as booked,
         greatest(-30000, least(30000, e.starts_local::date - (coalesce(r.ended_at, r.created_at) at time zone e.zone)::date))::int2 as ended
       from registrations r join events e on e.id = r.event_id left join attendance a on a.registration_id = r.id
       where r.event_id = any($1)) x group by x.event_id`,
    [eventIds],
  );

const daysSql = {
  gifts: {
    mark: "select count(*) || ' ' || coalesce(max(at)::text, '') || ' ' || coalesce(sum(amount), 0) || ' ' || coalesce(sum(hashtext(contact_id::text)), 0) as mark from donations",
    rows: "select contact_id, (at::date - date '1970-01-01')::int as day from donations where contact_id is not null and amount > 0 order by at",
  },
  served: {
    mark: "select count(*) || ' ' || coalesce(max(made_at)::text, '') || ' ' || coalesce(sum(hashtext(contact_id::text)), 0) as mark from assignments where state = 'served'",
    rows: "select a.contact_id, (s.starts_at::date - date '1970-01-01')::int as day from assignments a join shifts s on s.id = a.shift_id where a.state = 'served' and a.contact_id is not null order by s.starts_at",
  },
} as const;

/** The days on which people gave or served; null where nothing changed since a mark. */
export async function readDays(
  tx: Queries,
  what: keyof typeof daysSql,
  since: string,
): Promise<{ mark: string; rows: { contactId: string; day: number }[] | null }> {
  const { mark } = (await first<{ mark: string }>(tx, daysSql[what].mark))!;
  if (mark === since) return { mark, rows: null };
  return { mark, rows: await tx.query<{ contactId: string; day: number }>(daysSql[what].rows) };
}

/** What is read of an event beside its seats. */
export interface Around extends EventReach {
  unit: string | null;
  currency: string;
}

export const readAround = (tx: Queries, ids: readonly string[]): Promise<Around[]> =>
  tx.query<Around>(
    `select e.id, e.unit_id, e.partner_ids, e.starts_at, e.ends_at, e.doors_at, u.name as unit,
       coalesce(e.currency, (select currency from organization)) as currency
     from events e left join units u on u.id = e.unit_id where e.id = any($1)`,
    [ids],
  );

export const readMoney = (tx: Queries, ids: readonly string[]) =>
  tx.query<{ eventId: string; account: string; amount: number }>(
    `select b.event_id, b.account, sum(b.amount)::bigint as amount from book_sums b join events e on e.id = b.event_id
     where b.event_id = any($1) and b.account in ('seats', 'kept', 'discounts', 'favours', 'extras', 'gifts', 'fees', 'written off', 'costs')
       and b.currency = coalesce(e.currency, (select currency from organization)) group by 1, 2`,
    [ids],
  );

export const readHours = (tx: Queries, ids: readonly string[]) =>
  tx.query<{ eventId: string; hours: number }>(
    `select s.event_id, sum(a.hours)::float8 as hours from shifts s join assignments a on a.shift_id = s.id
     where s.event_id = any($1) and a.state = 'served' and a.hours > 0 group by 1`,
    [ids],
  );

/** How many of those with a seat were members on the day. */
export const readMembers = (tx: Queries, ids: readonly string[]) =>
  tx.query<{ eventId: string; members: number }>(
    `select r.event_id, count(*)::int as members from registrations r join events e on e.id = r.event_id
     where r.event_id = any($1) and r.state = 'confirmed' and not (r.walk_in) and exists (select 1 from memberships m where m.contact_id = r.contact_id
       and coalesce(m.starts_on, '-infinity') <= e.starts_local::date and coalesce(m.ends_on, 'infinity') >= e.starts_local::date)
     group by 1`,
    [ids],
  );

/** What those who came said to whether they would tell a friend; of an anonymous survey only what is shown. */
export const readRecommend = (tx: Queries, ids: readonly string[]) =>
  tx.query<{ eventId: string; would: number; not: number; n: number }>(
    `with q as (select v.id, v.event_id, v.anonymous, q ->> 'id' as question from surveys v, jsonb_array_elements(v.pages) p, jsonb_array_elements(p -> 'questions') q
       where v.event_id = any($1) and v.removed_at is null and v.audience = 'attendees' and v.wave = 1 and p ->> 'per' = 'survey' and q ->> 'kind' = 'recommend'),
     said as (
       select q.event_id, (x.answers ->> q.question)::float8 as score from q join survey_responses x on x.survey_id = q.id where not q.anonymous and x.answers ? q.question
       union all
       select q.event_id, (l.value #>> '{}')::float8 from q join survey_slips l on l.survey_id = q.id and l.question = q.question where q.anonymous and l.shown)
     select event_id, count(*) filter (where score >= 9)::int as would, count(*) filter (where score <= 6)::int as "not", count(*)::int as n from said group by 1`,
    [ids],
  );

/** Who some people are, as far as they can be told of: nobody who was erased or merged. */
export const readPeople = (tx: Queries, ids: readonly string[]) =>
  tx.query<{ id: string; name: string; quiet: boolean }>(
    `select c.id, trim(c.given_name || ' ' || c.family_name) as name, ${whyQuiet('c')} is not null or ${emailOf('c.id')} is null as quiet
     from contacts c where c.id = any($1) and c.merged_into is null and c.erased_at is null and c.deceased_on is null`,
    [ids],
  );

export const readUnits = (tx: Queries) =>
  tx.query<{ id: string; name: string }>('select id, name from units');
