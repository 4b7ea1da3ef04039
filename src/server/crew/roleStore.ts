import type { CrewRole, HeldSkill, Skill } from '#contract/roles.ts';
import type { RoleAsks } from '#core/crew/against.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export const readRoles = (tx: Queries, now: string): Promise<CrewRole[]> =>
  tx.query<CrewRole>(
    `select r.id, r.name, r.brief, r.from_age, r.anybody, r.places, r.retired_at is not null as retired,
       coalesce((select array_agg(n.skill_id order by n.skill_id) from role_needs n where n.role = r.name), '{}') as needs,
       (select count(*)::int from shifts s join events e on e.id = s.event_id where s.role = r.name and s.removed_at is null and s.starts_at > $1
          and not e.is_template and e.state not in ('called off', 'shelved')) as shifts
     from roles r order by lower(r.name)`,
    [now],
  );

export const readSkills = (tx: Queries, today: string): Promise<Skill[]> =>
  tx.query<Skill>(
    `select k.id, k.name, k.certificate, count(h.contact_id)::int as held,
       count(h.contact_id) filter (where h.until between $1::date and $1::date + 60)::int as ending
     from skills k left join (held_skills h join contacts c on c.id = h.contact_id and c.merged_into is null and c.erased_at is null) on h.skill_id = k.id
     where k.retired_at is null group by k.id order by k.certificate desc, lower(k.name)`,
    [today],
  );

/** One of them, held until the transaction is over; throws 404. */
export async function theRole(tx: Queries, id: string): Promise<{ name: string }> {
  const row = await first<{ name: string }>(
    tx,
    'select name from roles where id = $1 and retired_at is null for update',
    [id],
  );
  if (!row) throw notFound('This role');
  return row;
}

export async function theSkill(tx: Queries, id: string): Promise<{ name: string; certificate: boolean }> {
  const row = await first<{ name: string; certificate: boolean }>(
    tx,
    'select name, certificate from skills where id = $1 and retired_at is null for update',
    [id],
  );
  if (!row) throw notFound('This skill');
  return row;
}

/** Another role of a name, also one that is offered no longer. */
export const roleNamed = (
  tx: Queries,
  name: string,
  butId: string | null,
): Promise<{ id: string; name: string; retired: boolean } | null> =>
  first<{ id: string; name: string; retired: boolean }>(
    tx,
    'select id, name, retired_at is not null as retired from roles where lower(name) = lower($1) and id is distinct from $2',
    [name, butId],
  );

export const skillTaken = async (tx: Queries, name: string, butId: string | null): Promise<boolean> =>
  (await first(
    tx,
    'select 1 as x from skills where lower(name) = lower($1) and id is distinct from $2 and retired_at is null',
    [name, butId],
  )) !== null;

/** How many of some skills are offered. */
export const countSkills = async (tx: Queries, ids: readonly string[]): Promise<number> =>
  (await first<{ n: number }>(
    tx,
    'select count(*)::int as n from skills where id = any($1) and retired_at is null',
    [ids],
  ))!.n;

type RoleFields = Pick<CrewRole, 'name' | 'brief' | 'fromAge' | 'anybody' | 'places'>;

/** Writes a role anew; its shifts are called by its name, whatever it was. */
export const saveRole = (tx: Queries, id: string, { name, brief, fromAge, anybody, places }: RoleFields) =>
  tx.query(
    'update roles set name = $2, brief = $3, from_age = $4, anybody = $5, places = $6, retired_at = null where id = $1',
    [id, name, brief, fromAge, anybody, places],
  );

/** Lines of messages for whoever has a role go on to those who have it by its new name. */
export const renameInLines = (tx: Queries, before: string, after: string): Promise<unknown> =>
  tx.query(
    `update message_lines set narrowed = (select jsonb_agg(case when c.x ->> 'column' = 'role' and c.x -> 'values' is not null
         then jsonb_set(c.x, '{values}', (select coalesce(jsonb_agg(case when v.x = to_jsonb($1::text) then to_jsonb($2::text) else v.x end order by v.at), '[]')
           from jsonb_array_elements(c.x -> 'values') with ordinality as v (x, at))) else c.x end order by c.at)
       from jsonb_array_elements(narrowed) with ordinality as c (x, at))
     where narrowed @> jsonb_build_array(jsonb_build_object('column', 'role')) and narrowed::text like '%' || to_json($1::text) || '%'`,
    [before, after],
  );

export async function saveNeeds(tx: Queries, role: string, needs: readonly string[]): Promise<void> {
  await tx.query('delete from role_needs where role = $1 and not skill_id = any($2)', [role, needs]);
  await tx.query(
    'insert into role_needs (role, skill_id) select $1, unnest($2::uuid[]) on conflict do nothing',
    [role, needs],
  );
}

export const retireRole = (tx: Queries, id: string, at: string): Promise<unknown> =>
  tx.query('update roles set retired_at = $2 where id = $1', [id, at]);

/** Takes a skill out of the register, and out of what roles need. */
export async function retireSkill(tx: Queries, id: string, at: string): Promise<void> {
  await tx.query('update skills set retired_at = $2 where id = $1', [id, at]);
  await tx.query('delete from role_needs where skill_id = $1', [id]);
}

/** What a role asks of whoever is put on, and whether anybody who has it may take a shift at once. */
export const readRoleAsks = async (
  tx: Queries,
  name: string,
): Promise<RoleAsks & { id: string; anybody: boolean }> =>
  (await first<RoleAsks & { id: string; anybody: boolean }>(
    tx,
    `select r.id, r.name, r.from_age, r.anybody, coalesce((select jsonb_agg(jsonb_build_object('id', k.id, 'name', k.name, 'certificate', k.certificate) order by k.name)
       from role_needs n join skills k on k.id = n.skill_id where n.role = r.name), '[]') as needs from roles r where r.name = $1`,
    [name],
  ))!;

export const readHeldSkills = (tx: Queries, contactId: string): Promise<HeldSkill[]> =>
  tx.query<HeldSkill>(
    `select h.skill_id, k.name, k.certificate, h.number, h.until, h.seen_at is not null as seen, h.seen_by
     from held_skills h join skills k on k.id = h.skill_id where h.contact_id = $1 order by k.certificate desc, lower(k.name)`,
    [contactId],
  );

interface Holding {
  contactId: string;
  skillId: string;
  number: string;
  until: string | null;
  seenBy: string | null;
  seenAt: string | null;
  saidAt: string;
  /** The paper that came with an application. */
  fileId?: string | null;
}

export const holdSkill = (tx: Queries, h: Holding): Promise<unknown> =>
  tx.query(
    `insert into held_skills (contact_id, skill_id, number, until, seen_by, seen_at, file_id, said_at) values ($1, $2, $3, $4, $5, $6, $7, $8)
     on conflict (contact_id, skill_id) do update set
       said_at = case when held_skills.until is distinct from excluded.until then excluded.said_at else held_skills.said_at end, number = excluded.number, until = excluded.until, file_id = coalesce(excluded.file_id, held_skills.file_id),
       seen_by = case when held_skills.seen_at is null or excluded.seen_at is null then excluded.seen_by else held_skills.seen_by end,
       seen_at = case when held_skills.seen_at is null or excluded.seen_at is null then excluded.seen_at else held_skills.seen_at end`,
    [h.contactId, h.skillId, h.number, h.until, h.seenBy, h.seenAt, h.fileId ?? null, h.saidAt],
  );

export const letGoOfSkill = (tx: Queries, contactId: string, skillId: string): Promise<unknown> =>
  tx.query('delete from held_skills where contact_id = $1 and skill_id = $2', [contactId, skillId]);
