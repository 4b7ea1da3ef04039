import type { Application, Call } from '#contract/applying.ts';
import type { Applied } from '#core/crew/against.ts';
import type { ApplicationState, CallAsk, Said } from '#core/crew/applying.ts';
import type { DepositTerms } from '#core/crew/deposit.ts';
import { noLimits } from '#core/crew/limits.ts';
import { onOrAsked } from '#core/crew/states.ts';
import { plusMinutes } from '#core/time/clock.ts';
import type { App } from '../app/app.ts';
import { emailOf } from '../contacts/quiet.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export interface CallRow {
  id: string;
  slug: string;
  eventId: string | null;
  fromOn: string | null;
  untilOn: string | null;
  title: { en: string; fr?: string };
  words: { en: string; fr?: string };
  asks: CallAsk[];
  open: boolean;
  deposit: DepositTerms | null;
  /** What is paid in. */
  currency: string;
  version: number;
  roles: string[];
}

const callColumns = `k.id, k.slug, k.event_id, k.from_on, k.until_on, k.title, k.words, k.asks, k.open, k.deposit, k.version,
  coalesce((select e.currency from events e where e.id = k.event_id), (select g.currency from organization g)) as currency,
  coalesce((select array_agg(x.role_id order by x.position) from call_roles x where x.call_id = k.id), '{}') as roles`;

export async function theCall(tx: Queries, id: string, lock = false): Promise<CallRow> {
  const row = await first<CallRow>(
    tx,
    `select ${callColumns} from calls k where k.id = $1 ${lock ? 'for update' : ''}`,
    [id],
  );
  if (!row) throw notFound('This call');
  return row;
}

/** A call by its address; held until the transaction is over by whoever applies, so that nobody applies twice at once. */
export const callBySlug = (tx: Queries, slug: string, lock = false): Promise<CallRow | null> =>
  first<CallRow>(tx, `select ${callColumns} from calls k where k.slug = $1 ${lock ? 'for update' : ''}`, [
    slug,
  ]);

/** Calls, those of events soonest first, then seasons, then standing ones; of one event where it is said. */
export const readCalls = (
  tx: Queries,
  eventId: string | null,
): Promise<(CallRow & Pick<Call, 'event' | 'counts'>)[]> =>
  tx.query<CallRow & Pick<Call, 'event' | 'counts'>>(
    `select ${callColumns}, e.public_title as event,
       (select jsonb_build_object('invited', count(*) filter (where p.state = 'invited'), 'new', count(*) filter (where p.state = 'new'),
          'accepted', count(*) filter (where p.state = 'accepted'), 'declined', count(*) filter (where p.state = 'declined'),
          'resting', count(*) filter (where p.state = 'resting')) from applications p where p.call_id = k.id) as counts
     from calls k left join events e on e.id = k.event_id
     where $1::uuid is null or k.event_id = $1 order by e.starts_at desc nulls last, k.from_on desc nulls last, k.made_at desc, k.id`,
    [eventId],
  );

export async function saveCallRoles(tx: Queries, callId: string, roles: readonly string[]): Promise<void> {
  await tx.query('delete from call_roles where call_id = $1', [callId]);
  await tx.query(
    'insert into call_roles (call_id, role_id, position) select $1, r.id, r.at from unnest($2::uuid[]) with ordinality as r (id, at)',
    [callId, roles],
  );
}

/** Roles of the register that are offered, with what each asks, in the order they are asked for. */
export const rolesOffered = (
  tx: Queries,
  ids: readonly string[],
): Promise<{ id: string; name: string; brief: string; fromAge: number | null; needs: string[] }[]> =>
  tx.query<{ id: string; name: string; brief: string; fromAge: number | null; needs: string[] }>(
    `select r.id, r.name, r.brief, r.from_age, coalesce((select array_agg(k.name order by k.name) from role_needs n join skills k on k.id = n.skill_id
       where n.role = r.name), '{}') as needs
     from unnest($1::uuid[]) with ordinality as w (id, at) join roles r on r.id = w.id where r.retired_at is null order by w.at`,
    [ids],
  );

/** Every skill that is asked for, certificates first. */
export const skillsAsked = (tx: Queries): Promise<{ id: string; name: string; certificate: boolean }[]> =>
  tx.query<{ id: string; name: string; certificate: boolean }>(
    'select id, name, certificate from skills where retired_at is null order by certificate desc, lower(name)',
  );

/** The days on which an event and its shifts are, and the hours of the day they fill; null without a date. */
export const daysOf = (
  tx: Queries,
  eventId: string,
): Promise<{ first: string | null; last: string | null; from: number | null; to: number | null } | null> =>
  first<{ first: string | null; last: string | null; from: number | null; to: number | null }>(
    tx,
    `with spans as (
       select starts_local as f, coalesce(ends_local, starts_local) as t from events where id = $1 and starts_local is not null
       union all select starts_local, ends_local from shifts where event_id = $1 and removed_at is null)
     select min(f)::date as first, max(t)::date as last,
       case when bool_or(t::date > f::date) then 0 else min(extract(hour from f))::int end as from,
       case when bool_or(t::date > f::date) then 24 else max(ceil(extract(epoch from t::time) / 3600))::int end as to from spans`,
    [eventId],
  );

export interface ApplicationRow {
  id: string;
  callId: string;
  contactId: string;
  state: ApplicationState;
  said: Said | null;
  again: Said | null;
  question: string;
  answer: string;
  language: 'en' | 'fr';
  version: number;
}
const applicationColumns =
  'p.id, p.call_id, p.contact_id, p.state, p.said, p.again, p.question, p.answer, p.language, p.version';

export async function theApplication(tx: Queries, id: string, lock = false): Promise<ApplicationRow> {
  const row = await first<ApplicationRow>(
    tx,
    `select ${applicationColumns} from applications p where p.id = $1 ${lock ? 'for update' : ''}`,
    [id],
  );
  if (!row) throw notFound('This application');
  return row;
}

export const applicationOf = (
  tx: Queries,
  callId: string,
  contactId: string,
): Promise<ApplicationRow | null> =>
  first<ApplicationRow>(
    tx,
    `select ${applicationColumns} from applications p where p.call_id = $1 and p.contact_id = $2 for update`,
    [callId, contactId],
  );

/** Several, held in one order. */
export const applicationsOf = (tx: Queries, ids: readonly string[]): Promise<ApplicationRow[]> =>
  tx.query<ApplicationRow>(
    `select ${applicationColumns} from applications p where p.id = any($1) order by p.id for update`,
    [ids],
  );

/** What somebody said last, to any call. */
export const saidLast = async (tx: Queries, contactId: string): Promise<Said | null> =>
  (
    await first<{ said: Said }>(
      tx,
      'select said from applications where contact_id = $1 and said is not null order by changed_at desc, id limit 1',
      [contactId],
    )
  )?.said ?? null;

/** Who applied to a call, the newest first, with what is on record of them. `day` is the first day it is about. */
export const readApplications = (
  tx: Queries,
  call: CallRow,
  day: string,
): Promise<Omit<Application, 'deposit'>[]> =>
  tx.query<Omit<Application, 'deposit'>>(
    `select p.id, p.contact_id, trim(c.given_name || ' ' || c.family_name) as name, ${emailOf('c.id')} as email, p.state, p.said, p.again,
       coalesce((select jsonb_agg(jsonb_build_object('id', f.id, 'name', f.name) order by f.at, f.id) from application_files f where f.application_id = p.id), '[]') as files,
       extract(year from age($2::date, coalesce((p.said ->> 'birthDate')::date, c.birth_date)))::int as age,
       p.question, p.answer, p.applied_at, p.changed_at, p.decided_at, p.decided_by, p.version,
       coalesce((select jsonb_agg(jsonb_build_object('skillId', h.skill_id, 'until', h.until, 'seen', h.seen_at is not null) order by h.skill_id)
         from held_skills h where h.contact_id = c.id), '[]') as held,
       coalesce((select jsonb_agg(jsonb_build_object('id', w.id, 'contactId', o.id, 'name', trim(o.given_name || ' ' || o.family_name), 'kind', w.kind) order by w.said_at, w.id)
         from crew_pairs w join contacts o on o.id = case when w.contact_id = c.id then w.other_id else w.contact_id end
         where c.id in (w.contact_id, w.other_id)), '[]') as pairs,
       l.shifts, l.hours
     from applications p join contacts c on c.id = p.contact_id
       cross join lateral (select count(*)::int as shifts, coalesce(sum(extract(epoch from s.ends_at - s.starts_at) / 3600), 0)::float8 as hours
         from assignments a join shifts s on s.id = a.shift_id where a.contact_id = c.id and a.state in ${among(onOrAsked)}
           and ${inScope('s', '$3', '$4', '$5')}) l
     where p.call_id = $1 and c.merged_into is null and c.erased_at is null order by p.changed_at desc, p.id`,
    [call.id, day, call.eventId, call.fromOn, call.untilOn],
  );

/** SQL: whether a shift is of what a call is about: its event, its days, or anything where it stands. */
export const inScope = (s: string, event: string, from: string, until: string): string =>
  `(case when ${event}::uuid is not null then ${s}.event_id = ${event} when ${from}::date is not null
     then ${s}.starts_local::date between ${from}::date and ${until}::date else true end)`;

/** What of somebody's application decides about a shift, as the database has it. */
export interface AppliedRow {
  state: ApplicationState;
  said: Said;
  load: { shifts: number; hours: number; days: string[] };
  /** They were asked for a deposit, and it has not come. */
  owesDeposit: boolean;
}

/**
 * SQL: the application that counts for a shift of an event: to the call for the event, else for a season its day lies in, else to a
 * standing one; with what else they have of what it is about. Null where there is none.
 */
export const appliedSql = (contact: string, event: string, day: string, shift: string): string =>
  `(select jsonb_build_object('state', p.state, 'said', p.said,
      'owesDeposit', exists (select 1 from deposits d where d.application_id = p.id and d.state = 'asked'), 'load', (select jsonb_build_object('shifts', count(*),
      'hours', coalesce(sum(extract(epoch from s.ends_at - s.starts_at) / 3600), 0),
      'days', coalesce(jsonb_agg(distinct s.starts_local::date) || jsonb_agg(distinct (s.ends_local::timestamp - interval '1 minute')::date), '[]'))
      from assignments a join shifts s on s.id = a.shift_id where a.contact_id = p.contact_id and a.state in ${among(onOrAsked)}
        and s.id <> ${shift} and ${inScope('s', 'k.event_id', 'k.from_on', 'k.until_on')}))
    from applications p join calls k on k.id = p.call_id
    where p.contact_id = ${contact} and p.state in ('accepted', 'declined', 'resting')
      and (k.event_id = ${event} or k.event_id is null and (k.from_on is null or ${day}::date between k.from_on and k.until_on))
    order by (k.event_id is not null) desc, (k.from_on is not null) desc, p.changed_at desc limit 1)`;

/** The same of one person and one shift. */
export const readApplied = async (
  tx: Queries,
  contactId: string,
  shift: { id: string; eventId: string; startsLocal: string },
): Promise<AppliedRow | null> =>
  (await first<{ applied: AppliedRow | null }>(
    tx,
    `select ${appliedSql('$1::uuid', '$2::uuid', '$3', '$4::uuid')} as applied`,
    [contactId, shift.eventId, shift.startsLocal.slice(0, 10), shift.id],
  ))!.applied;

/** The same as it is judged. What was said is only known of whoever was accepted: a decision says all of the others. */
export const appliedOf = (row: AppliedRow | null): Applied | null =>
  row && {
    state: row.state,
    available: row.state === 'accepted' ? row.said.available : null,
    limits: row.state === 'accepted' ? row.said.limits : noLimits,
    load: row.load,
    owesDeposit: row.state === 'accepted' && row.owesDeposit,
  };

/** How much somebody wants a role, by what they said; 0 where they said nothing of it. */
export const wishOf = (row: AppliedRow | null, roleId: string): number =>
  row?.state === 'accepted'
    ? Math.max(0, ...row.said.wishes.filter((w) => w.roleId === roleId).map((w) => w.weight))
    : 0;

/** Who served within some years and can be written to, and has not applied; of those named only, where some are. */
export const whoToInvite = (
  tx: Queries,
  callId: string,
  contactIds: readonly string[],
  helpedSince: string | null,
): Promise<{ contactId: string; name: string; language: string }[]> =>
  tx.query<{ contactId: string; name: string; language: string }>(
    `select c.id as contact_id, trim(c.given_name || ' ' || c.family_name) as name, c.language from contacts c
     where c.merged_into is null and c.erased_at is null and c.deceased_on is null and c.kind = 'person'
       and (c.id = any($2) or $3::timestamptz is not null and exists (select 1 from assignments a join shifts s on s.id = a.shift_id
         where a.contact_id = c.id and a.state in ('agreed', 'served') and s.starts_at > $3))
       and not exists (select 1 from applications p where p.call_id = $1 and p.contact_id = c.id)
     order by name, c.id limit 500`,
    [callId, contactIds, helpedSince],
  );

/** Bytes that wait at one call for applications which may never come. */
export const bytesWaiting = async (tx: Queries, callId: string): Promise<number> =>
  (await first<{ bytes: number }>(
    tx,
    'select coalesce(sum(length(content)), 0)::int as bytes from application_files where application_id is null and call_id = $1',
    [callId],
  ))!.bytes;

export const addCertificate = (
  tx: Queries,
  f: { id: string; callId: string; name: string; mediaType: string; content: Buffer; at: string },
): Promise<unknown> =>
  tx.query(
    `insert into application_files (id, call_id, name, media_type, content, at) values ($1, $2, $3, $4, decode($5, 'base64'), $6)`,
    [f.id, f.callId, f.name, f.mediaType, f.content.toString('base64'), f.at],
  );

/** Gives files to the application that names them; answers how many could be. */
export const claimCertificates = async (
  tx: Queries,
  callId: string,
  applicationId: string,
  ids: readonly string[],
): Promise<number> =>
  (
    await tx.query(
      'update application_files set application_id = $3 where id = any($1) and call_id = $2 and (application_id is null or application_id = $3) returning id',
      [ids, callId, applicationId],
    )
  ).length;

/** Lets go of the files of an application that it names no longer, unless somebody's record has them. */
export const dropUnnamed = (tx: Queries, applicationId: string, ids: readonly string[]): Promise<unknown> =>
  tx.query(
    `delete from application_files f where f.application_id = $1 and not f.id = any($2) and not exists (select 1 from held_skills h where h.file_id = f.id)`,
    [applicationId, ids],
  );

/** The files of an application, without what is in them. */
export const certificatesOf = (tx: Queries, applicationId: string): Promise<{ id: string; name: string }[]> =>
  tx.query<{ id: string; name: string }>(
    'select id, name from application_files where application_id = $1 order by at, id',
    [applicationId],
  );

export async function theCertificate(
  tx: Queries,
  applicationId: string,
  id: string,
): Promise<{ name: string; mediaType: string; content: Uint8Array }> {
  const row = await first<{ name: string; mediaType: string; content: Uint8Array }>(
    tx,
    'select name, media_type, content from application_files where application_id = $1 and id = $2',
    [applicationId, id],
  );
  if (!row) throw notFound('This file');
  return row;
}

/** Minutes a file waits for the application that names it. */
const waitsMinutes = 24 * 60;

/** The next moment at which files that no application named are let go. */
export const nextLooseCertificateSql = `select at + interval '${waitsMinutes} minutes' as at, id from application_files where application_id is null order by at, id limit 1`;

/** Lets go of files that waited long enough. */
export const dropLooseCertificates = async (app: App, now: string): Promise<void> => {
  await app.db.query('delete from application_files where application_id is null and at <= $1', [
    plusMinutes(now, -waitsMinutes),
  ]);
};

export const putPair = (
  tx: Queries,
  p: { id: string; contactId: string; otherId: string; kind: string; by: string; at: string },
): Promise<unknown> =>
  tx.query(
    `insert into crew_pairs (id, contact_id, other_id, kind, said_by, said_at) values ($1, $2, $3, $4, $5, $6)
     on conflict (least(contact_id, other_id), greatest(contact_id, other_id)) do update set kind = excluded.kind, said_by = excluded.said_by, said_at = excluded.said_at`,
    [p.id, p.contactId, p.otherId, p.kind, p.by, p.at],
  );

export const dropPair = async (tx: Queries, id: string, contactId: string): Promise<boolean> =>
  (
    await tx.query('delete from crew_pairs where id = $1 and $2 in (contact_id, other_id) returning id', [
      id,
      contactId,
    ])
  ).length > 0;
