import type { LifelineEntry } from '#contract/contacts.ts';
import type { Money } from '#contract/endpoint.ts';
import type { LifelineKind, LifeSaid } from '#core/contacts/lifeline.ts';
import { shownToPublic } from '#core/events/states.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';

export interface LifelineRow extends Omit<LifelineEntry, 'detail' | 'text'> {
  said: LifeSaid;
  detail: LifeSaid | null;
  amount: Money | null;
}

/** What is said as SQL: a code, which may be an expression, and what its words are filled in with; what is null is left out. */
const said = (code: string, params: Record<string, string> = {}): string =>
  `jsonb_build_object('code', ${code}, 'params', jsonb_strip_nulls(jsonb_build_object(${Object.entries(params)
    .map(([name, value]) => `'${name}', ${value}`)
    .join(', ')})))`;
const asWritten = (words: string): string =>
  `case when ${words} <> '' then ${said("'as written'", { words })} end`;

/** Everything kept about one person, newest first. One union, so that nothing about a person can be left out of order. */
export const readLifeline = (
  tx: Queries,
  contactId: string,
  kinds: readonly LifelineKind[],
  limit: number,
  offset: number,
  /** Only what happened at events of this unit. */
  unitId: string | null = null,
): Promise<LifelineRow[]> =>
  tx.query<LifelineRow>(
    `select l.at, l.kind, l.said, l.detail, l.amount, e.id as event_id, e.public_title as event_title
     from (
       select s.at, 'registration' as kind, ${said('s.state')} as said, ${asWritten('s.reason')} as detail,
              null::jsonb as amount, r.event_id
         from registrations r join registration_states s on s.registration_id = r.id where r.contact_id = $1
       union all
       select o.placed_at, 'registration', ${said("'booked'", { seats: 'o.seats' })}, ${said("'order'", { number: 'o.number::text' })},
              null, o.event_id
         from orders o where o.buyer_contact_id = $1
       union all
       select coalesce(a.arrived_at, e.ends_at, e.starts_at), 'attendance', ${said('a.state')}, null, null, a.event_id
         from attendance a join events e on e.id = a.event_id where a.contact_id = $1 and a.state <> 'expected'
       union all
       select p.at, 'money',
              ${said("case when p.amount < 0 then 'refund' when p.kind = 'donation' then 'donation' else 'payment' end")},
              ${said("'paid by'", {
                method: said('p.method'),
                more: "coalesce(', ' || f.name, '') || coalesce(', ' || nullif(p.reason, ''), '')",
              })}, jsonb_build_object('amount', p.amount, 'currency', p.currency), p.event_id
         from payments p left join donations d on d.payment_id = p.id left join funds f on f.id = d.fund_id where p.contact_id = $1
       union all
       select r.issued_at, 'money', ${said("case r.state when 'void' then 'receipt void' else 'receipt' end", { number: 'r.number' })},
              ${asWritten('r.void_why')}, jsonb_build_object('amount', r.eligible, 'currency', r.currency), null
         from receipts r where r.contact_id = $1
       union all
       select g.began_at, 'money', ${said("'monthly gift'", { how: said('g.state') })}, ${asWritten('f.name')},
              jsonb_build_object('amount', g.amount, 'currency', g.currency), null
         from pledges g join funds f on f.id = g.fund_id where g.contact_id = $1 and g.state <> 'begun'
       union all
       select coalesce(e.starts_at, e.created_at), 'session', ${said("'sponsor'")}, ${asWritten('s.level')}, null, s.event_id
         from sponsors s join events e on e.id = s.event_id
         where s.contact_id = $1 and s.removed_at is null and e.state in ${among(shownToPublic)}
       union all
       select coalesce(case when a.state in ('served', 'missed') then s.ends_at end, a.made_at), 'shift', ${said('a.state')},
              ${said("case when a.hours is null then 'as role' else 'as role for' end", { role: 's.role', hours: 'a.hours' })},
              null, s.event_id
         from assignments a join shifts s on s.id = a.shift_id where a.contact_id = $1
       union all
       select g.at, 'waiver', ${said("case when g.relation = 'guardian' then 'signed by a guardian' else 'signed' end")},
              ${said("'signature'", { title: 'w.title', version: 'v.version', name: 'g.typed_name' })}, null, g.event_id
         from signatures g join waivers w on w.id = g.waiver_id join waiver_versions v on v.id = g.version_id where g.contact_id = $1
       union all
       select coalesce(m.sent_at, m.planned_for, m.created_at), 'message', ${said('m.state')},
              ${asWritten('coalesce(m.subject, m.reason)')}, null, m.event_id
         from messages m where m.contact_id = $1 and m.state in ('sent', 'failed', 'bounced')
       union all
       select i.came_at, 'message', ${said("case when i.automatic then 'answered by a machine' else 'wrote back' end")},
              ${asWritten('left(i.words, 300)')}, null, i.event_id
         from incoming i where i.contact_id = $1
       union all
       select x.answered_on::timestamptz, 'survey', ${said("'answered'")}, ${asWritten("coalesce(v.title->>'en', '')")}, null, v.event_id
         from survey_responses x join surveys v on v.id = x.survey_id where x.contact_id = $1
       union all
       select t.counted_at, 'survey', ${said("'counted'")},
              ${said("'tally'", { measure: "m.name->>'en'", figure: "coalesce(t.value::float8::text || ' ' || (m.unit->>'en'), t.thing)" })}, null, t.event_id
         from tallies t join measures m on m.id = t.measure_id where t.contact_id = $1 and t.state = 'counted'
       union all
       select coalesce(e.starts_at, e.created_at), 'session', ${said("'speaker'")},
              ${asWritten(`coalesce((select string_agg(x.title->>'en', ', ' order by x.day, x.begins) from agenda_sessions x
                where x.event_id = s.event_id and x.removed_at is null and s.id = any(x.speaker_ids)), '')`)}, null, s.event_id
         from speakers s join events e on e.id = s.event_id
         where s.contact_id = $1 and s.removed_at is null and e.state in ${among(shownToPublic)}
       union all
       select p.proposed_at, 'session', ${said("'proposed a session'")}, ${asWritten('p.title')}, null, p.event_id
         from session_proposals p where p.contact_id = $1
       union all
       select p.proposed_at, 'session', ${said("'proposed an event'")}, ${asWritten('e.public_title')}, null, p.event_id
         from event_proposals p join events e on e.id = p.event_id where p.contact_id = $1
       union all
       select t.at, 'session', ${said("'chose a session'")}, ${asWritten("x.title->>'en'")}, null, r.event_id
         from session_seats t join registrations r on r.id = t.registration_id join agenda_sessions x on x.id = t.session_id
         where r.contact_id = $1 and x.removed_at is null
       union all
       select n.at, 'note', ${said("'as written'", { words: 'n.text' })},
              ${said(
                "'written by' || case when n.due_on is null then '' else ', due' end || case when n.done_at is null then '' else ', done' end",
                { author: 'n.author', date: "jsonb_build_object('date', n.due_on)" },
              )}, null, null
         from contact_notes n where n.contact_id = $1
       union all
       select k.submitted_at, 'clearance', ${said("'plan sent'")},
              case when k.late_by_days > 0 then ${said("'late'", { days: 'k.late_by_days' })} end, null, k.event_id
         from clearances k join staff s on s.id = k.submitted_by where s.contact_id = $1
       union all
       select p.decided_at, 'clearance', ${said('p.state')},
              ${said("'step'", { step: 'p.step', words: "coalesce(', ' || nullif(p.words, ''), '')" })}, null, k.event_id
         from clearance_steps p join clearances k on k.id = p.clearance_id join staff s on s.id = p.decided_by
         where s.contact_id = $1 and p.decided_at is not null
       union all
       select i.applied_at, 'record', ${said("'changed by import'")},
              ${said("case when c.fields is null then 'line' else 'line, fields' end", {
                file: 'i.file_name',
                line: 'r.line::text',
                fields: 'c.fields',
              })}, null, null
         from import_rows r join imports i on i.id = r.import_id
         cross join lateral (select string_agg(c->>'field', ', ') as fields from jsonb_array_elements(r.changes) c
                             where (c->>'applied')::boolean) c
         where r.contact_id = $1 and r.applied ? 'changes' and i.state = 'applied'
       union all
       select c.created_at, 'record', ${said("'became a contact'")}, ${asWritten('c.source')}, null, null from contacts c where c.id = $1
       union all
       select u.at, 'record', ${said("'as written'", { words: 'u.action' })}, ${said("'by'", { name: 'u.actor' })}, null, null
         from audit u where u.subject_kind = 'contact' and u.subject_id = $1
     ) l left join events e on e.id = l.event_id
     where l.kind = any($2) and ($5::uuid is null or e.unit_id = $5)
     order by l.at desc, l.kind, l.said::text limit $3 offset $4`,
    [contactId, kinds, limit, offset, unitId],
  );
