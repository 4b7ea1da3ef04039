import type { MergeField } from '#contract/pairs.ts';
import { type AttributeKey, attributeKeys, attributes, type Texts } from '#core/contacts/attributes.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { onOrAsked } from '#core/crew/states.ts';
import { sayAttribute } from '#core/words/attributes.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { columnKey, ownColumns } from './columns.ts';
import { refreshFound } from './keys.ts';
import { dropPairsOf } from './pairs.ts';

/** Every column that says whose something is. What is missing here would be lost from the record by a merge. */
export const belongings = [
  { table: 'contact_emails', column: 'contact_id' },
  { table: 'contact_phones', column: 'contact_id' },
  { table: 'contact_notes', column: 'contact_id' },
  { table: 'relationships', column: 'from_contact' },
  { table: 'relationships', column: 'to_contact' },
  { table: 'memberships', column: 'contact_id' },
  { table: 'unit_people', column: 'contact_id' },
  { table: 'affiliations', column: 'contact_id' },
  { table: 'affiliations', column: 'organization_id' },
  { table: 'consents', column: 'contact_id' },
  { table: 'incoming', column: 'contact_id' },
  { table: 'staff', column: 'contact_id' },
  { table: 'orders', column: 'buyer_contact_id' },
  { table: 'orders', column: 'placed_by' },
  { table: 'registrations', column: 'contact_id' },
  { table: 'attendance', column: 'contact_id', id: 'registration_id' },
  { table: 'payments', column: 'contact_id' },
  { table: 'donations', column: 'contact_id' },
  { table: 'gifts', column: 'contact_id' },
  { table: 'pledges', column: 'contact_id' },
  { table: 'receipts', column: 'contact_id' },
  { table: 'signatures', column: 'contact_id' },
  { table: 'signatures', column: 'signer_id' },
  { table: 'assignments', column: 'contact_id' },
  { table: 'shifts', column: 'lead_id' },
  { table: 'applications', column: 'contact_id' },
  { table: 'deposits', column: 'contact_id' },
  { table: 'shift_waits', column: 'contact_id' },
  { table: 'step_in_asks', column: 'contact_id' },
  { table: 'crew_pairs', column: 'contact_id' },
  { table: 'crew_pairs', column: 'other_id' },
  { table: 'messages', column: 'contact_id' },
  { table: 'survey_asks', column: 'contact_id' },
  { table: 'survey_responses', column: 'contact_id' },
  { table: 'tallies', column: 'contact_id' },
  { table: 'proposals', column: 'contact_id' },
  { table: 'proposals', column: 'other_contact_id' },
  { table: 'speakers', column: 'contact_id' },
  { table: 'sponsors', column: 'contact_id' },
  { table: 'session_proposals', column: 'contact_id' },
  { table: 'event_proposals', column: 'contact_id' },
  { table: 'event_invited', column: 'contact_id' },
  { table: 'followers', column: 'contact_id' },
  { table: 'guest_list_people', column: 'contact_id' },
  { table: 'care_reads', column: 'contact_id' },
  { table: 'audit', column: 'subject_id' },
] as const satisfies readonly { table: string; column: string; id?: string }[];
type Belonging = { table: string; column: string; id?: string };

const idOf = (b: Belonging): string => b.id ?? 'id';
const nameOf = (b: Belonging): string => `${b.table}.${b.column}`;

/** What would stand twice if it came over: it stays with the merged contact, and comes back with it. */
const clash: Record<string, string> = {
  'followers.contact_id':
    'exists (select 1 from followers k where k.contact_id = $1 and coalesce(k.event_id, k.series_id) = coalesce(t.event_id, t.series_id))',
  'event_invited.contact_id':
    'exists (select 1 from event_invited k where k.contact_id = $1 and k.event_id = t.event_id)',
  'contact_emails.contact_id':
    'exists (select 1 from contact_emails k where k.contact_id = $1 and k.email_key = t.email_key)',
  'contact_phones.contact_id':
    'exists (select 1 from contact_phones k where k.contact_id = $1 and k.phone = t.phone)',
  'relationships.from_contact': `t.to_contact = $1 or exists (select 1 from relationships k
     where k.kind = t.kind and k.from_contact = $1 and k.to_contact = t.to_contact)`,
  'relationships.to_contact': `t.from_contact = $1 or exists (select 1 from relationships k
     where k.kind = t.kind and k.to_contact = $1 and k.from_contact = t.from_contact)`,
  'unit_people.contact_id': `t.until is null and exists (select 1 from unit_people k
     where k.contact_id = $1 and k.unit_id = t.unit_id and lower(k.role) = lower(t.role) and k.until is null)`,
  'affiliations.contact_id': `t.organization_id = $1 or t.until is null and exists (select 1 from affiliations k
     where k.contact_id = $1 and k.organization_id = t.organization_id and lower(k.role) = lower(t.role) and k.until is null)`,
  'affiliations.organization_id': `t.contact_id = $1 or t.until is null and exists (select 1 from affiliations k
     where k.organization_id = $1 and k.contact_id = t.contact_id and lower(k.role) = lower(t.role) and k.until is null)`,
  'proposals.contact_id':
    "t.state = 'open' and exists (select 1 from proposals k where k.contact_id = $1 and k.field = t.field and k.membership_id is not distinct from t.membership_id and k.other_contact_id is not distinct from t.other_contact_id and k.field_id is not distinct from t.field_id and (k.field not in ('email', 'phone') or k.after = t.after) and k.state = 'open')",
  'proposals.other_contact_id':
    "t.state = 'open' and (t.contact_id = $1 or exists (select 1 from proposals k where k.contact_id = t.contact_id and k.other_contact_id = $1 and k.state = 'open'))",
  'applications.contact_id':
    'exists (select 1 from applications k where k.contact_id = $1 and k.call_id = t.call_id)',
  'shift_waits.contact_id':
    'exists (select 1 from shift_waits k where k.contact_id = $1 and k.shift_id = t.shift_id)',
  'step_in_asks.contact_id':
    "t.state = 'asked' and exists (select 1 from step_in_asks k where k.contact_id = $1 and k.shift_id = t.shift_id and k.state = 'asked')",
  'crew_pairs.contact_id':
    't.other_id = $1 or exists (select 1 from crew_pairs k where $1 in (k.contact_id, k.other_id) and t.other_id in (k.contact_id, k.other_id))',
  'crew_pairs.other_id':
    't.contact_id = $1 or exists (select 1 from crew_pairs k where $1 in (k.contact_id, k.other_id) and t.contact_id in (k.contact_id, k.other_id))',
  'survey_asks.contact_id':
    'exists (select 1 from survey_asks k where k.contact_id = $1 and k.survey_id = t.survey_id)',
};

/**
 * What a contact has once under a key: the one that stays gets what it lacks, the other keeps its own. `same` tells that
 * it was not changed since (`k` the kept contact's, `m` the merged one's).
 */
export const copies = [
  { table: 'contact_tags', key: 'tag', columns: 'tag, at', same: 'true' },
  { table: 'segment_members', key: 'segment_id', columns: 'segment_id', same: 'true' },
  {
    table: 'held_skills',
    key: 'skill_id',
    columns: 'skill_id, number, until, seen_by, seen_at, file_id, said_at',
    same: 'k.number = m.number and k.until is not distinct from m.until and k.seen_at is not distinct from m.seen_at',
  },
  { table: 'custom_values', key: 'field_id', columns: 'field_id, value', same: 'k.value = m.value' },
  {
    table: 'contact_photos',
    key: 'media_type',
    columns: 'media_type, content, at',
    same: 'k.at = m.at',
  },
] as const;

interface Own extends Texts {
  kind: 'person' | 'organization';
  givenName: string;
  familyName: string;
  birthDate: string | null;
  street: string | null;
  postalCode: string | null;
  movedOn: string | null;
  language: string;
  languages: string[];
  zone: string | null;
  doNotContact: boolean;
  deceasedOn: string | null;
  householdId: string | null;
}
const ownSql = `select kind, ${ownColumns('contacts')} from contacts where id = $1 and merged_into is null for update`;

interface Moved {
  /** Ids of the rows that came over, by table and column. */
  rows: Record<string, string[]>;
  /** Keys of what was copied, by table. */
  copied: Record<string, string[]>;
  /** Shifts both were down for: one of the two assignments was dropped, and was this before. */
  shifts: { id: string; state: string }[];
}

export type Chosen = Partial<Record<MergeField, 'kept' | 'merged'>>;

/**
 * Merges a contact into another, in the caller's transaction: everything that was its own comes over, its old links
 * lead to the one that stays, and all of it is written down so that it can be taken apart again. Consent is never
 * made wider: a no of either counts.
 */
export async function mergeContacts(
  w: Work,
  keptId: string,
  mergedId: string,
  chosen: Chosen = {},
): Promise<string> {
  const { tx, app, now } = w;
  if (keptId === mergedId) throw refused('merge-itself');
  const kept = await first<Own>(tx, ownSql, [keptId]);
  const merged = await first<Own>(tx, ownSql, [mergedId]);
  if (!kept || !merged) throw notFound('One of the two contacts');
  if (kept.kind !== merged.kind) throw refused('merge-kinds');
  const after = joined(kept, merged, chosen);
  const moved: Moved = { rows: {}, copied: {}, shifts: [] };
  moved.shifts = await dropDoubleShifts(tx, keptId, mergedId);
  for (const b of belongings) {
    const rows = await tx.query<{ id: string }>(
      `update ${b.table} t set ${b.column} = $1 where ${b.column} = $2
         ${b.table === 'audit' ? "and subject_kind = 'contact'" : ''}
         and not (${clash[nameOf(b)] ?? 'false'}) returning ${idOf(b)} as id`,
      [keptId, mergedId],
    );
    if (rows.length) moved.rows[nameOf(b)] = rows.map((r) => r.id);
  }
  for (const { table, key, columns } of copies)
    moved.copied[table] = (
      await tx.query<{ key: string }>(
        `insert into ${table} (contact_id, ${columns}) select $1, ${columns} from ${table} where contact_id = $2
         on conflict do nothing returning ${key} as key`,
        [keptId, mergedId],
      )
    ).map((r) => r.key);
  await update(tx, 'contacts', keptId, { ...after, updatedAt: now });
  await update(tx, 'contacts', mergedId, { mergedInto: keptId, updatedAt: now });
  await carryDecisions(w, keptId, mergedId);
  await dropPairsOf(tx, mergedId);
  await refreshFound(tx, [keptId, mergedId]);
  const id = app.ids.id();
  await insert(tx, 'merges', {
    id,
    kept: keptId,
    merged: mergedId,
    at: now,
    actor: w.actor.name,
    before: kept,
    after,
    moved,
  });
  await record(w, 'contact changed', {
    contactId: keptId,
    how: `merged ${fullName({ given: merged.givenName, family: merged.familyName })} into this contact`,
    detail: { mergeId: id, merged: mergedId },
  });
  return id;
}

/** What the contact that stays has afterwards of each value: as somebody chose, else by the rule of the attribute. */
function joined(kept: Own, merged: Own, chosen: Chosen): Own {
  const pick = (field: string) => chosen[field as MergeField];
  const from = (field: MergeField) => (chosen[field] === 'merged' ? merged : kept);
  const address = chosen.address
    ? from('address')
    : kept.street || kept.postalCode
      ? {
          street: kept.street ?? (kept.postalCode === merged.postalCode ? merged.street : null),
          postalCode: kept.postalCode ?? (kept.street === merged.street ? merged.postalCode : null),
          movedOn: kept.movedOn,
        }
      : merged;
  const together = { name: from('name'), address };
  const one = (key: AttributeKey): unknown => {
    const column = columnKey(key) as keyof Own;
    const [ours, theirs] = [kept[column], merged[column]];
    const rule = attributes[key].merge;
    if (typeof rule === 'object') return (together[rule.together] as Own)[column];
    if (rule === 'either') return ours || theirs;
    if (rule === 'all') return [...new Set([...(ours as string[]), ...(theirs as string[])])];
    if (pick(key)) return pick(key) === 'merged' ? theirs : ours;
    return rule === 'first' ? (ours ?? theirs) : ours;
  };
  return {
    kind: kept.kind,
    ...Object.fromEntries(attributeKeys.map((key) => [columnKey(key), one(key)])),
  } as Own;
}

async function dropDoubleShifts(tx: Queries, keptId: string, mergedId: string): Promise<Moved['shifts']> {
  const rows = await tx.query<{ id: string; state: string }>(
    // Who only asked gives way to who is on it; else the one that stays is the kept contact's.
    `select a.id, a.state from assignments a join assignments o on o.shift_id = a.shift_id and o.contact_id <> a.contact_id
       and o.contact_id in ($1, $2) and o.state in ${among(onOrAsked)}
     where a.contact_id in ($1, $2) and a.state in ${among(onOrAsked)}
       and case when (a.state = 'proposed') = (o.state = 'proposed') then a.contact_id = $2 else a.state = 'proposed' end`,
    [keptId, mergedId],
  );
  await tx.query("update assignments set state = 'dropped' where id = any($1)", [rows.map((r) => r.id)]);
  return rows;
}

/** Who was said to be another person than the merged contact is another than the kept one: nobody is asked again. */
async function carryDecisions(w: Work, keptId: string, mergedId: string): Promise<void> {
  const decided = await w.tx.query<{ other: string; state: string }>(
    `select case when contact_a = $2 then contact_b else contact_a end as other, state from pairs
     where state in ('different', 'household') and (contact_a = $2 or contact_b = $2) and contact_a <> $1 and contact_b <> $1`,
    [keptId, mergedId],
  );
  await insert(
    w.tx,
    'pairs',
    decided.map(({ other, state }) => ({
      id: w.app.ids.id(),
      contactA: other < keptId ? other : keptId,
      contactB: other < keptId ? keptId : other,
      probability: 0,
      outcome: 'look',
      findings: [],
      state,
      foundBy: 'decided before a merge',
      foundAt: w.now,
      decidedBy: w.actor.staffId,
      decidedAt: w.now,
    })),
    'on conflict do nothing',
  );
}

export interface Unmerged {
  contactId: string;
  back: number;
  since: number;
  left: string[];
}

/**
 * Takes a merge apart. Everything that came over goes back, and the kept contact's own fields become what they were
 * unless they were changed since. What came since the merge goes to the one whose given name it carries, when that is
 * not the other's too; all else stays with the kept contact.
 */
export async function unmerge(w: Work, mergeId: string): Promise<Unmerged> {
  const { tx, now } = w;
  const merge = await first<{
    kept: string;
    merged: string;
    at: string;
    before: Own;
    after: Own;
    moved: Moved;
    undoneAt: string | null;
  }>(tx, 'select kept, merged, at, before, after, moved, undone_at from merges where id = $1 for update', [
    mergeId,
  ]);
  if (!merge) throw notFound('This merge');
  if (merge.undoneAt) throw refused('merge-undone');
  const later = await first(
    tx,
    'select 1 as x from merges where undone_at is null and id > $1 and (kept in ($2, $3) or merged in ($2, $3)) and id <> $1',
    [mergeId, merge.kept, merge.merged],
  );
  if (later) throw refused('merge-later');
  const { kept, merged, moved } = merge;
  const left: string[] = [];
  await update(tx, 'contacts', merged, { mergedInto: null, updatedAt: now });
  let back = 0;
  for (const b of belongings) {
    const ids = moved.rows[nameOf(b)];
    if (!ids) continue;
    const rows = await tx.query(
      `update ${b.table} set ${b.column} = $1 where ${idOf(b)} = any($3) and ${b.column} = $2 returning ${idOf(b)}`,
      [merged, kept, ids],
    );
    back += rows.length;
    if (rows.length < ids.length)
      left.push(
        `${ids.length - rows.length} of ${ids.length} in ${b.table.replaceAll('_', ' ')} are no longer there or belong to somebody else by now`,
      );
  }
  for (const { id, state } of moved.shifts)
    await tx.query(
      "update assignments set state = $2, dropped_at = null where id = $1 and state = 'dropped'",
      [id, state],
    );
  for (const { table, key, same } of copies)
    await tx.query(
      `delete from ${table} k using ${table} m where k.contact_id = $1 and m.contact_id = $2
         and k.${key} = m.${key} and k.${key}::text = any($3) and ${same}`,
      [kept, merged, moved.copied[table] ?? []],
    );
  left.push(...(await restoreOwn(tx, kept, merge.before, merge.after, now)));
  const since = await assignSince(tx, kept, merged, merge.before, moved);
  await refreshFound(tx, [kept, merged]);
  await update(tx, 'merges', mergeId, { undoneAt: now });
  // Taken apart by hand: they are two people, and nobody is asked again.
  await tx.query(
    `insert into pairs (id, contact_a, contact_b, probability, outcome, findings, state, found_by, found_at, decided_by, decided_at)
     values ($1, least($2::uuid, $3::uuid), greatest($2::uuid, $3::uuid), 0, 'look', '[]', 'different', 'a merge taken apart', $4, $5, $4)
     on conflict (contact_a, contact_b) do update set state = 'different', decided_by = $5, decided_at = $4`,
    [w.app.ids.id(), kept, merged, now, w.actor.staffId],
  );
  await record(w, 'contact changed', {
    contactId: kept,
    how: 'took a merge apart',
    detail: { mergeId, back, since },
  });
  await record(w, 'contact changed', {
    contactId: merged,
    how: 'became a contact of their own again',
    detail: { mergeId },
  });
  return { contactId: merged, back, since, left };
}

const ownWords = (column: string): string => {
  const key = attributeKeys.find((k) => columnKey(k) === column);
  return key ? sayAttribute(key) : column;
};

const alike = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

async function restoreOwn(
  tx: Queries,
  kept: string,
  before: Own,
  after: Own,
  now: string,
): Promise<string[]> {
  const current = (await first<Own>(tx, ownSql, [kept]))!;
  const left: string[] = [];
  const back: Partial<Record<keyof Own, unknown>> = {};
  for (const field of Object.keys(before) as (keyof Own)[]) {
    // A merge of an older version says nothing of fields that came later.
    if (!(field in after) || alike(before[field], after[field])) continue;
    if (alike(current[field], after[field])) back[field] = before[field];
    else left.push(`${ownWords(field)} was changed since and stays`);
  }
  await update(tx, 'contacts', kept, { ...back, updatedAt: now });
  return left;
}

/** Gives what came since the merge to the unmerged contact where it carries their given name and not the other's. */
async function assignSince(
  tx: Queries,
  kept: string,
  merged: string,
  keptBefore: Own,
  moved: Moved,
): Promise<number> {
  const other = await first<{ givenName: string }>(tx, 'select given_name from contacts where id = $1', [
    merged,
  ]);
  const theirs = fold(other?.givenName ?? '');
  if (!theirs || theirs === fold(keptBefore.givenName)) return 0;
  const orders = await tx.query<{ id: string; name: string }>(
    `select id, buyer_given as name from orders where buyer_contact_id = $1
       and placed_at >= (select at from merges where kept = $1 and merged = $2 order by id desc limit 1) and not (id = any($3))`,
    [kept, merged, moved.rows['orders.buyer_contact_id'] ?? []],
  );
  const seats = await tx.query<{ id: string; name: string }>(
    `select id, given_name as name from registrations where contact_id = $1
       and created_at >= (select at from merges where kept = $1 and merged = $2 order by id desc limit 1) and not (id = any($3))`,
    [kept, merged, moved.rows['registrations.contact_id'] ?? []],
  );
  const mine = (rows: { id: string; name: string }[]) =>
    rows.filter((r) => fold(r.name) === theirs).map((r) => r.id);
  const orderIds = mine(orders);
  const seatIds = mine(seats);
  await tx.query('update orders set buyer_contact_id = $1 where id = any($2)', [merged, orderIds]);
  await tx.query('update payments set contact_id = $1 where order_id = any($2) and contact_id = $3', [
    merged,
    orderIds,
    kept,
  ]);
  await tx.query('update donations set contact_id = $1 where order_id = any($2) and contact_id = $3', [
    merged,
    orderIds,
    kept,
  ]);
  await tx.query('update registrations set contact_id = $1 where id = any($2)', [merged, seatIds]);
  for (const table of ['attendance', 'signatures'])
    await tx.query(`update ${table} set contact_id = $1 where registration_id = any($2)`, [merged, seatIds]);
  return orderIds.length + seatIds.length;
}
