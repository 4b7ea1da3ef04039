import type { SegmentChoices } from '#contract/records.ts';
import { attributes, textKeys } from '#core/contacts/attributes.ts';
import { came } from '#core/doors/attendance.ts';
import type { Compiled } from '#core/records/compile.ts';
import type { Facts } from '#core/records/evaluate.ts';
import type { Segment } from '#core/records/segment.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { instantSql as instant } from '../db/instants.ts';
import { notFound } from '../http/problem.ts';

export interface SegmentRow {
  id: string;
  name: string;
  segment: Segment;
  frozenAt: string | null;
  byHand: boolean;
  updatedAt: string;
}
const columns = 'id, name, segment, frozen_at, by_hand, updated_at';

export const readSegments = (tx: Queries): Promise<SegmentRow[]> =>
  tx.query<SegmentRow>(`select ${columns} from segments order by name, id`);

export async function readSegmentRow(tx: Queries, id: string): Promise<SegmentRow> {
  const row = await first<SegmentRow>(tx, `select ${columns} from segments where id = $1`, [id]);
  if (!row) throw notFound('This segment');
  return row;
}

/** What a segment can ask about. A series is what happened at least twice, under the title it had last. */
export async function readChoices(tx: Queries): Promise<SegmentChoices> {
  const named = (sql: string) => tx.query<{ id: string; name: string }>(sql);
  const words = async (sql: string) => (await tx.query<{ x: string }>(sql)).map((r) => r.x);
  return {
    units: await named('select id, name from units order by name'),
    funds: await named('select id, name from funds order by name'),
    waivers: await named('select id, title as name from waivers order by title'),
    fields: await named('select id, name from custom_fields order by position, name'),
    organizations: await named(
      "select id, family_name as name from contacts where kind = 'organization' and merged_into is null and erased_at is null order by family_name, id",
    ),
    series: await tx.query<{ id: string; title: string }>(
      `select first_of as id, (array_agg(public_title order by starts_at desc nulls last))[1] as title from events
       where first_of is not null and not is_template group by first_of having count(*) > 1 order by 2, 1`,
    ),
    categories: await words("select distinct category as x from events where category <> '' order by 1"),
    levels: await words('select distinct level as x from memberships where level is not null order by 1'),
    unitRoles: await words('select min(role) as x from unit_people group by lower(role) order by 1'),
    languages: await words('select distinct unnest(languages) as x from contacts order by 1'),
  };
}

/** Contacts that are there and of whom it is true. */
const whereTrue = (of: Compiled): Compiled => ({
  sql: `c.merged_into is null and c.erased_at is null and ${of.sql}`,
  params: of.params,
});

export const countContacts = async (tx: Queries, of: Compiled): Promise<number> =>
  (await first<{ n: number }>(
    tx,
    `select count(*)::int as n from contacts c where ${whereTrue(of).sql}`,
    of.params,
  ))!.n;

/** How many contacts it is true of, and some of them, in one look. */
export async function countAndSample(
  tx: Queries,
  of: Compiled,
  most: number,
): Promise<{ count: number; sample: string[] }> {
  const rows = await tx.query<{ id: string; n: number }>(
    `select c.id, count(*) over ()::int as n from contacts c where ${whereTrue(of).sql} limit ${most}`,
    of.params,
  );
  return { count: rows[0]?.n ?? 0, sample: rows.map((r) => r.id) };
}

export const idsWhere = async (tx: Queries, of: Compiled): Promise<string[]> =>
  (
    await tx.query<{ id: string }>(`select c.id from contacts c where ${whereTrue(of).sql} order by c.id`, [
      ...of.params,
    ])
  ).map((r) => r.id);

export const deleteSegment = (tx: Queries, id: string) =>
  tx.query('delete from segments where id = $1', [id]);

/** Keeps these contacts, and no others, as those of a frozen segment. */
export async function keepMembers(tx: Queries, id: string, ids: readonly string[]): Promise<void> {
  await tx.query('delete from segment_members where segment_id = $1', [id]);
  await putMembers(tx, id, ids);
}

/** Puts contacts into a frozen segment; answers those who were not in it. Merged ones are put in as who they became. */
export const putMembers = async (tx: Queries, id: string, ids: readonly string[]): Promise<string[]> =>
  (
    await tx.query<{ contactId: string }>(
      `insert into segment_members (segment_id, contact_id)
       select distinct $1::uuid, coalesce(merged_into, id) from contacts where id = any($2) and erased_at is null
       on conflict do nothing returning contact_id`,
      [id, ids],
    )
  ).map((r) => r.contactId);

export const takeMembers = async (tx: Queries, id: string, ids: readonly string[]): Promise<string[]> =>
  (
    await tx.query<{ contactId: string }>(
      'delete from segment_members where segment_id = $1 and contact_id = any($2) returning contact_id',
      [id, ids],
    )
  ).map((r) => r.contactId);

/** A condition for those who were in a segment when it was frozen. */
export const frozenMembers = (id: string): Compiled => ({
  sql: 'c.id in (select contact_id from segment_members where segment_id = $1)',
  params: [id],
});

const eventColumns = `jsonb_build_object('eventId', e.id, 'unitId', e.unit_id, 'category', e.category, 'title', e.public_title, 'seriesId', e.first_of,
  'startsAt', to_char(e.starts_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

/** Everything about some people that a segment may ask. */
export async function readFacts(tx: Queries, ids: readonly string[]): Promise<Facts[]> {
  const rows = await tx.query<Omit<Facts, 'household'>>(
    `select c.id as contact_id, c.kind, c.street, c.moved_on, c.postal_code, c.birth_date, c.language, c.languages, c.do_not_contact,
       jsonb_build_object(${textKeys.map((key) => `'${key}', c.${attributes[key].column}`).join(', ')}) as texts,
       coalesce((select array_agg(tag) from contact_tags where contact_id = c.id), '{}') as tags,
       (select count(*)::int from contact_emails where contact_id = c.id and ended_on is null and bounced_at is null) as emails,
       (select count(*)::int from contact_phones where contact_id = c.id and ended_on is null) as phones,
       coalesce((select jsonb_agg(to_jsonb(k)) from (select distinct on (topic, channel) topic, channel, granted from consents
         where contact_id = c.id order by topic, channel, at desc, id desc) k), '[]') as consents,
       coalesce((select jsonb_agg(jsonb_build_object('fieldId', f.id, 'kind', f.kind, 'value', v.value))
         from custom_values v join custom_fields f on f.id = v.field_id where v.contact_id = c.id), '[]') as fields,
       coalesce((select jsonb_agg(jsonb_build_object('level', level, 'from', starts_on, 'until', ends_on))
         from memberships where contact_id = c.id), '[]') as memberships,
       coalesce((select jsonb_agg(jsonb_build_object('unitId', unit_id, 'role', role, 'from', since, 'until', until))
         from unit_people where contact_id = c.id), '[]') as units,
       coalesce((select jsonb_agg(jsonb_build_object('organizationId', a.organization_id, 'name', o.family_name, 'from', a.since, 'until', a.until))
         from affiliations a join contacts o on o.id = a.organization_id where a.contact_id = c.id), '[]') as organizations,
       coalesce((select jsonb_agg(${eventColumns})) from registrations r join events e on e.id = r.event_id
         where r.contact_id = c.id and r.state = 'confirmed'), '[]') as registered,
       coalesce((select jsonb_agg(${eventColumns}, 'arrivedAt', ${instant('a.arrived_at')})) from attendance a join events e on e.id = a.event_id
         where a.contact_id = c.id and a.state in ${among(came)}), '[]') as attended,
       coalesce((select jsonb_agg(${eventColumns})) from attendance a join events e on e.id = a.event_id
         where a.contact_id = c.id and a.state = 'missed'), '[]') as missed,
       coalesce((select jsonb_agg(jsonb_build_object('fundId', fund_id, 'amount', amount, 'at', ${instant('at')}))
         from donations where contact_id = c.id and currency = (select currency from organization)), '[]') as donations,
       coalesce((select jsonb_agg(jsonb_build_object('role', s.role, 'hours', coalesce(a.hours, 0), 'startsAt', ${instant('s.starts_at')}))
         from assignments a join shifts s on s.id = a.shift_id where a.contact_id = c.id and a.state = 'served'), '[]') as served,
       coalesce((select jsonb_agg(jsonb_build_object('waiverId', waiver_id, 'at', ${instant('at')}))
         from signatures where contact_id = c.id and state = 'valid'), '[]') as signed,
       coalesce((select jsonb_agg(${eventColumns}, 'answeredOn', x.answered_on, 'answers', x.said))
         from survey_responses x join surveys v on v.id = x.survey_id join events e on e.id = v.event_id where x.contact_id = c.id), '[]') as surveys
     from contacts c where c.id = any($1) and c.merged_into is null`,
    [ids],
  );
  return rows.map((r) => ({ ...r, household: [] }));
}

/** The same with the facts of everybody in their household. */
export async function readFactsOf(tx: Queries, contactId: string): Promise<Facts | null> {
  const members = await tx.query<{ id: string }>(
    `select o.id from contacts c join contacts o on o.id = c.id or (o.household_id = c.household_id and o.merged_into is null) where c.id = $1`,
    [contactId],
  );
  const all = await readFacts(
    tx,
    members.map((m) => m.id),
  );
  const own = all.find((f) => f.contactId === contactId);
  if (!own) return null;
  const home = await first<{ householdId: string | null }>(
    tx,
    'select household_id from contacts where id = $1',
    [contactId],
  );
  return { ...own, household: home?.householdId ? all : [] };
}
