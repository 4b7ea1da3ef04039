import type { Compiled } from '#core/records/compile.ts';
import type { Facts } from '#core/records/evaluate.ts';
import type { Segment } from '#core/records/segment.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export interface SegmentRow {
  id: string;
  name: string;
  segment: Segment;
  frozenAt: string | null;
  updatedAt: string;
}
const columns = 'id, name, segment, frozen_at, updated_at';

export const readSegments = (tx: Queries): Promise<SegmentRow[]> =>
  tx.query<SegmentRow>(`select ${columns} from segments order by name, id`);

export async function readSegmentRow(tx: Queries, id: string): Promise<SegmentRow> {
  const row = await first<SegmentRow>(tx, `select ${columns} from segments where id = $1`, [id]);
  if (!row) throw notFound('This segment');
  return row;
}

/** Contacts that are there and of whom it is true. */
export const whereTrue = (of: Compiled): Compiled => ({
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

export async function freeze(tx: Queries, id: string, of: Compiled): Promise<void> {
  await tx.query('delete from segment_members where segment_id = $1', [id]);
  const at = of.params.length + 1;
  await tx.query(
    `insert into segment_members (segment_id, contact_id) select $${at}::uuid, c.id from contacts c where ${whereTrue(of).sql}`,
    [...of.params, id],
  );
}

/** A condition for those who were in a segment when it was frozen. */
export const frozenMembers = (id: string): Compiled => ({
  sql: 'c.id in (select contact_id from segment_members where segment_id = $1)',
  params: [id],
});

const eventColumns = `jsonb_build_object('eventId', e.id, 'unitId', e.unit_id, 'category', e.category, 'title', e.public_title,
  'startsAt', to_char(e.starts_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;
const instant = (column: string): string =>
  `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

/** Everything about some people that a segment may ask. */
export async function readFacts(tx: Queries, ids: readonly string[]): Promise<Facts[]> {
  const rows = await tx.query<Omit<Facts, 'household'>>(
    `select c.id as contact_id, c.street, c.postal_code, c.birth_date, c.language, c.do_not_contact,
       coalesce((select array_agg(tag) from contact_tags where contact_id = c.id), '{}') as tags,
       (select count(*)::int from contact_emails where contact_id = c.id) as emails,
       (select count(*)::int from contact_phones where contact_id = c.id) as phones,
       (select granted from consents where contact_id = c.id and topic = 'newsletter' and channel = 'email' order by at desc, id desc limit 1) as newsletter,
       coalesce((select jsonb_agg(jsonb_build_object('level', level)) from memberships where contact_id = c.id), '[]') as memberships,
       coalesce((select jsonb_agg(${eventColumns})) from registrations r join events e on e.id = r.event_id
         where r.contact_id = c.id and r.state = 'confirmed'), '[]') as registered,
       coalesce((select jsonb_agg(${eventColumns}, 'arrivedAt', ${instant('a.arrived_at')})) from attendance a join events e on e.id = a.event_id
         where a.contact_id = c.id and a.state in ('arrived', 'left')), '[]') as attended,
       coalesce((select jsonb_agg(${eventColumns})) from attendance a join events e on e.id = a.event_id
         where a.contact_id = c.id and a.state = 'missed'), '[]') as missed,
       coalesce((select jsonb_agg(jsonb_build_object('fundId', fund_id, 'amount', amount, 'at', ${instant('at')}))
         from donations where contact_id = c.id), '[]') as donations,
       coalesce((select jsonb_agg(jsonb_build_object('role', s.role, 'hours', coalesce(a.hours, 0), 'startsAt', ${instant('s.starts_at')}))
         from assignments a join shifts s on s.id = a.shift_id where a.contact_id = c.id and a.state = 'served'), '[]') as served,
       coalesce((select jsonb_agg(jsonb_build_object('waiverId', waiver_id, 'at', ${instant('at')}))
         from signatures where contact_id = c.id and state = 'valid'), '[]') as signed,
       coalesce((select jsonb_agg(jsonb_build_object('answeredOn', answered_on)) from survey_responses where contact_id = c.id), '[]') as surveys
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
