import type { DepositState, DepositWhy, Duty } from '#core/crew/deposit.ts';
import { first, type Queries } from '../db/database.ts';
import { endSql } from '../events/end.ts';
import { type CallRow, inScope } from './applyingStore.ts';

export interface KeptDeposit {
  id: string;
  callId: string;
  applicationId: string | null;
  contactId: string;
  amount: number;
  currency: string;
  back: 'every' | 'any' | 'share';
  noticeHours: number;
  state: DepositState;
  received: number;
  kept: number;
  settledAt: string | null;
  settledBy: string | null;
  why: DepositWhy | { words: string } | null;
  /** How the last charge for it stands. */
  attempt: string | null;
}

const columns = `d.id, d.call_id, d.application_id, d.contact_id, d.amount, d.currency, d.back, d.notice_hours, d.state, d.received, d.kept, d.settled_at, d.settled_by, d.why,
  (select a.state from payment_attempts a where a.deposit_id = d.id order by a.asked_at desc, a.id desc limit 1) as attempt`;

export const depositOf = (tx: Queries, applicationId: string): Promise<KeptDeposit | null> =>
  first<KeptDeposit>(tx, `select ${columns} from deposits d where d.application_id = $1`, [applicationId]);

export const depositsOf = (tx: Queries, callId: string): Promise<KeptDeposit[]> =>
  tx.query<KeptDeposit>(`select ${columns} from deposits d where d.call_id = $1 order by d.asked_at, d.id`, [
    callId,
  ]);

export const depositNumbered = (tx: Queries, id: string): Promise<KeptDeposit | null> =>
  first<KeptDeposit>(tx, `select ${columns} from deposits d where d.id = $1`, [id]);

/** Deposits of somebody that are not settled, whatever they were asked for. */
export const openDepositsOf = (tx: Queries, contactId: string): Promise<KeptDeposit[]> =>
  tx.query<KeptDeposit>(
    `select ${columns} from deposits d where d.contact_id = $1 and d.state in ('asked', 'held') order by d.asked_at, d.id`,
    [contactId],
  );

/** The shifts each of some people had of what a call is about, as far as they count for a deposit. */
export const readDuties = (
  tx: Queries,
  call: Pick<CallRow, 'eventId' | 'fromOn' | 'untilOn'>,
  contactIds: readonly string[],
  now: string,
): Promise<(Duty & { contactId: string })[]> =>
  tx.query<Duty & { contactId: string }>(
    `select a.contact_id, (extract(epoch from s.ends_at - s.starts_at) / 3600)::float8 as hours, a.state,
       case when a.state = 'dropped' then (extract(epoch from s.starts_at - coalesce(a.dropped_at, a.made_at)) / 3600)::float8 end as notice_hours
     from assignments a join shifts s on s.id = a.shift_id
     where a.contact_id = any($1) and s.removed_at is null and ${inScope('s', '$2', '$3', '$4')}
       and (a.state in ('served', 'missed') or a.state = 'agreed' and s.ends_at <= $5 or a.state = 'dropped' and (a.agreed_at is not null or a.source = 'staff'))
     order by s.starts_at, a.id`,
    [contactIds, call.eventId, call.fromOn, call.untilOn, now],
  );

/** Accepted people of a call who were not asked for its deposit yet. */
export const notAskedYet = (tx: Queries, callId: string): Promise<{ id: string; contactId: string }[]> =>
  tx.query<{ id: string; contactId: string }>(
    `select p.id, p.contact_id from applications p join contacts c on c.id = p.contact_id
     where p.call_id = $1 and p.state = 'accepted' and c.merged_into is null and c.erased_at is null and c.deceased_on is null
       and not exists (select 1 from deposits d where d.application_id = p.id) order by p.id for update of p`,
    [callId],
  );

/** Days after the end of what a call is about, until which hours are put right. */
const settleDays = 3;

/** The next deposit that is settled by its rule: of an event or a season that is over, or an event that was called off. Standing calls have no end. */
export const nextDepositSql = `select due.at, due.id from (
    select d.id, case when e.state = 'called off' then d.asked_at else
      coalesce(${endSql('e')}, (k.until_on + 1)::timestamp at time zone (select zone from organization)) + interval '${settleDays} days' end as at
    from deposits d join calls k on k.id = d.call_id left join events e on e.id = k.event_id
    where d.settled_at is null and d.state in ('asked', 'held')) due
  where due.at is not null order by due.at, due.id limit 1`;
