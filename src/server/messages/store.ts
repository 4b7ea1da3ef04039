import type { QuietReason } from '#core/contacts/quiet.ts';
import type { AttendanceState } from '#core/doors/attendance.ts';
import type { Recipient } from '#core/messages/plan.ts';
import type { Reason } from '#core/words/reasons.ts';
import { emailOf, orderEmail, whyQuiet } from '../contacts/quiet.ts';
import { first, type Queries } from '../db/database.ts';
import { reasonSql } from '../db/reasons.ts';

/** Somebody a step could go to, with what planning has to know. */
export interface RecipientRow extends Recipient {
  language: 'en' | 'fr';
}

interface OrderRecipientRow {
  orderId: string;
  contactId: string | null;
  name: string;
  email: string | null;
  language: 'en' | 'fr';
  confirmedAt: string;
  quiet: QuietReason | null;
  seats: number;
  /** What is still to be paid; below nought, what goes back. */
  owed: number;
}

/** Orders with a confirmed seat, each with its buyer. */
export const orderRecipients = (
  tx: Queries,
  eventId: string,
  orderId: string | null,
): Promise<OrderRecipientRow[]> =>
  tx.query<OrderRecipientRow>(
    `select o.id as order_id, o.buyer_contact_id as contact_id, o.buyer_given || ' ' || o.buyer_family as name, ${orderEmail('o')} as email, o.language,
       min(r.confirmed_at) as confirmed_at, min(${whyQuiet('c')}) as quiet, count(*)::int as seats, o.balance as owed
     from orders o join registrations r on r.order_id = o.id and r.state = 'confirmed'
       left join contacts c on c.id = o.buyer_contact_id
     where o.event_id = $1 ${orderId ? 'and o.id = $2' : ''} group by o.id order by min(r.confirmed_at), o.id`,
    orderId ? [eventId, orderId] : [eventId],
  );

/** Confirmed seats with the person in each and the buyer who may get the copy for them. */
export const attendeeRecipients = (tx: Queries, eventId: string, orderId: string | null) =>
  tx.query<{
    registrationId: string;
    orderId: string;
    contactId: string | null;
    name: string;
    email: string | null;
    language: 'en' | 'fr';
    confirmedAt: string;
    quiet: QuietReason | null;
    isBuyer: boolean;
    buyerContactId: string | null;
    buyerName: string;
    buyerEmail: string | null;
    buyerQuiet: QuietReason | null;
    attendance: AttendanceState | null;
  }>(
    `select r.id as registration_id, o.id as order_id, r.contact_id, trim(r.given_name || ' ' || r.family_name) as name,
       ${emailOf('r.contact_id')} as email,
       coalesce(c.language, o.language) as language, r.confirmed_at, ${whyQuiet('c')} as quiet,
       (r.contact_id = o.buyer_contact_id) is true as is_buyer, o.buyer_contact_id, o.buyer_given || ' ' || o.buyer_family as buyer_name,
       ${orderEmail('o')} as buyer_email, ${whyQuiet('b')} as buyer_quiet, a.state as attendance
     from registrations r join orders o on o.id = r.order_id left join contacts c on c.id = r.contact_id
       left join contacts b on b.id = o.buyer_contact_id left join attendance a on a.registration_id = r.id
     where r.event_id = $1 and r.state = 'confirmed' ${orderId ? 'and r.order_id = $2' : ''} order by o.placed_at, o.id, r.seat_number`,
    orderId ? [eventId, orderId] : [eventId],
  );

/** Volunteers on the shifts of an event. */
export const crewRecipients = (tx: Queries, eventId: string) =>
  tx.query<{
    assignmentId: string;
    contactId: string;
    name: string;
    email: string | null;
    language: 'en' | 'fr';
    startsAt: string;
    madeAt: string;
    quiet: QuietReason | null;
  }>(
    `select a.id as assignment_id, a.contact_id, trim(c.given_name || ' ' || c.family_name) as name,
       ${emailOf('c.id')} as email,
       c.language, s.starts_at, a.made_at, ${whyQuiet('c')} as quiet
     from assignments a join shifts s on s.id = a.shift_id join contacts c on c.id = a.contact_id
     where s.event_id = $1 and a.state in ('proposed', 'agreed') order by s.starts_at, a.id`,
    [eventId],
  );

/** Every key that messages about one order can be planned under. */
const aboutOrder = `and recipient_key = any (array(
  select $3::text union all select 'order ' || $3::text union all select id::text from registrations where order_id = $3::uuid))`;

/** Messages already planned or gone for some steps, only those about one order when given. */
export const readPlanned = (
  tx: Queries,
  eventId: string,
  stepIds: readonly string[],
  orderId: string | null,
) =>
  tx.query<{
    id: string;
    stepId: string;
    recipientKey: string;
    state: string;
    plannedFor: string | null;
  }>(
    `select id, step_id, recipient_key, state, planned_for from messages
     where event_id = $1 and step_id = any($2) ${orderId ? aboutOrder : ''}`,
    orderId ? [eventId, stepIds, orderId] : [eventId, stepIds],
  );

/** A planned message that goes out at another moment, or to another address. */
export interface Moved {
  id: string;
  at: string;
  address: string | null;
  reason: string;
}

/** Plans messages anew for their new moments. */
export async function movePlanned(tx: Queries, moved: readonly Moved[]): Promise<void> {
  if (moved.length)
    await tx.query(
      `update messages m set state = 'planned', planned_for = r.at, next_try_at = r.at, address = r.address,
         reason = r.reason, why_not = null
       from jsonb_to_recordset($1::jsonb) as r(id uuid, at timestamptz, address text, reason text) where m.id = r.id`,
      [JSON.stringify(moved)],
    );
}

/** Holds back what was planned by steps that are no longer in the plan. What went out stays. Answers how many of each. */
export const holdBackRemoved = (
  tx: Queries,
  eventId: string,
): Promise<{ step: string; count: number; from: string | null }[]> =>
  tx.query<{ step: string; count: number; from: string | null }>(
    `with held as (update messages m set state = 'held back', why_not = ${reasonSql('step removed')}, next_try_at = null
     where event_id = $1 and (state = 'planned' or (state = 'failed' and next_try_at is not null))
       and step_id in (select id from message_steps where event_id = $1 and removed_at is not null) returning step_id, planned_for)
     select s.name as step, count(*)::int as count, min(h.planned_for) as "from" from held h join message_steps s on s.id = h.step_id
     group by s.name, s.position order by s.position, s.name`,
    [eventId],
  );

/** Holds back what was to tell a guest of a seat and has not left: it would hand the link on to whoever was asked before. */
export const holdBackGuest = (tx: Queries, registrationId: string): Promise<unknown> =>
  tx.query(
    `update messages m set state = 'held back', why_not = ${reasonSql('to another address')}, next_try_at = null
     where event_id = (select event_id from registrations where id = $1::uuid) and recipient_key like 'your seat:' || $1::text || ':%' and (state = 'planned' or (state = 'failed' and next_try_at is not null))`,
    [registrationId],
  );

/** Holds planned messages back, each with its reason. */
export async function holdBack(tx: Queries, gone: readonly { id: string; why: Reason }[]): Promise<void> {
  if (gone.length)
    await tx.query(
      `update messages m set state = 'held back', why_not = r.why, next_try_at = null
       from jsonb_to_recordset($1::jsonb) as r(id uuid, why jsonb) where m.id = r.id`,
      [JSON.stringify(gone)],
    );
}

/** Whether something is still to be asked for what an order owes. */
export const isAskedFor = async (tx: Queries, eventId: string, orderId: string): Promise<boolean> =>
  (await first(
    tx,
    "select 1 as x from messages where event_id = $1 and recipient_key = $2 and kind = 'balance' and state = 'planned' limit 1",
    [eventId, orderId],
  )) !== null;
