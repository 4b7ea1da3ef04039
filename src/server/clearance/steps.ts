import type { Fact, Looked, Meanwhile, StepDocument } from '#core/clearance/rules.ts';
import { lastDayToSend, timeOf } from '#core/clearance/schedule.ts';
import { type Step, standingOf } from '#core/clearance/steps.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { byOwner, first, type Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { type OrganizationRow, theOrganization } from '../staff/store.ts';
import { factPlanOf, type Needed, neededBy, theBook } from './book.ts';

export interface ConditionRow {
  id: string;
  what: string;
  dueOn: string | null;
  blocks: boolean;
  met: boolean;
}

export interface StepRow extends Step {
  clearanceId: string;
  ruleId: string | null;
  step: string;
  approves: string | null;
  approverId: string | null;
  orphaned: boolean;
  /** The name of the one person who decides. */
  approver: string | null;
  asks: string;
  because: Fact[];
  looked: Looked;
  documents: StepDocument[];
  meanwhile: Meanwhile;
  workingDays: number;
  dueOn: string;
  /** How often whoever has it was reminded. */
  nudges: number;
  decidedAt: string | null;
  decidedBy: string | null;
  decidedById: string | null;
  words: string;
  conditions: ConditionRow[];
  /** By how many days the plan was sent late, while it waits for a coordinator's word about that; else 0. */
  asksLateBy: number;
}

const stepColumns = `s.id, s.clearance_id, s.rule_id, s.step, s.approves, s.approver_id, a.name as approver,
  case when s.approver_id is not null then a.resting else not exists (select 1 from staff t where not t.resting and s.approves = any(t.approves)
    and t.roles && array['approver', 'coordinator']) end as orphaned, s.after, s.asks, s.because, s.looked, s.documents,
  s.meanwhile, s.working_days, s.due_on, s.nudges, case when c.granted_at is null then c.late_by_days else 0 end as asks_late_by, s.state, s.decided_at, p.name as decided_by, s.decided_by as decided_by_id, s.words,
  coalesce((select jsonb_agg(jsonb_build_object('id', k.id, 'what', k.what, 'dueOn', k.due_on, 'blocks', k.blocks, 'met', k.met_at is not null)
     order by k.created_at, k.id) from clearance_conditions k where k.step_id = s.id), '[]') as conditions`;

/** The steps of the current clearance of each of some events. */
export async function readStepsOf(
  tx: Queries,
  eventIds: readonly string[],
): Promise<ReadonlyMap<string, StepRow[]>> {
  const rows = await tx.query<StepRow & { eventId: string }>(
    `select c.event_id, ${stepColumns} from clearance_steps s join clearances c on c.id = s.clearance_id
       left join staff p on p.id = s.decided_by left join staff a on a.id = s.approver_id
     where c.event_id = any($1) and c.current order by s.step_order, s.step`,
    [eventIds],
  );
  return byOwner(eventIds, rows, (row) => row.eventId);
}

/** The same of one event. */
export const readSteps = async (tx: Queries, eventId: string): Promise<StepRow[]> =>
  (await readStepsOf(tx, [eventId])).get(eventId)!;

export interface ClearanceRow {
  id: string;
  submittedAt: string;
  lateByDays: number;
  lateReason: string;
  grantedAt: string | null;
  grantedBy: string | null;
  closedForIt: boolean;
  /** It was sent for every date of its series that is alike. */
  coversSeries: boolean;
  /** The event whose clearance covers this one; null where it has its own. */
  coveredBy: { id: string; startsLocal: string | null } | null;
}

export const readClearance = (tx: Queries, eventId: string): Promise<ClearanceRow | null> =>
  first<ClearanceRow>(
    tx,
    `select c.id, c.submitted_at, c.late_by_days, c.late_reason, c.granted_at, g.name as granted_by, c.closed_for_it, c.covers_series,
       (select jsonb_build_object('id', e.id, 'startsLocal', to_char(e.starts_local, 'YYYY-MM-DD"T"HH24:MI')) from clearances k
          join events e on e.id = k.event_id where k.id = c.covered_by) as covered_by
     from clearances c left join staff g on g.id = c.granted_by where c.event_id = $1 and c.current`,
    [eventId],
  );

/** True of a plan that was sent late and that no coordinator let be yet. */
export const asksLate = (sent: Pick<ClearanceRow, 'lateByDays' | 'grantedAt'>): boolean =>
  sent.lateByDays > 0 && sent.grantedAt === null;

/** Conditions that keep an event from being opened. */
const blocking = (steps: readonly StepRow[]): ConditionRow[] =>
  steps.flatMap((s) => (s.state === 'not needed' ? [] : s.conditions.filter((c) => c.blocks && !c.met)));

/** Whether the plan was sent and every step it needs is cleared, and what still keeps it from being opened. */
export async function clearedOf(
  tx: Queries,
  eventId: string,
): Promise<{ cleared: boolean; blocked: string[] }> {
  if ((await readClearance(tx, eventId)) === null) return { cleared: false, blocked: [] };
  const steps = await readSteps(tx, eventId);
  return { cleared: standingOf(steps) === 'cleared', blocked: blocking(steps).map((c) => c.what) };
}

/** The steps a plan would need now, with the facts they follow from. */
export const neededSteps = async (tx: Queries, event: EventRow, offers: readonly { price: number }[]) =>
  neededBy(await theBook(tx), factPlanOf(event, offers));

/** The last day to send a plan that takes so many working days; null without a date. */
export const deadlineBy = (
  { minimumNoticeDays, holidays, zone }: OrganizationRow,
  event: EventRow,
  working: number,
  now: string,
) =>
  event.startsLocal
    ? lastDayToSend(event.startsLocal.slice(0, 10), working, minimumNoticeDays, holidays, dateOf(now, zone))
    : null;

/** The same of what it needs. */
export async function deadlineOf(tx: Queries, event: EventRow, needed: Needed, now: string) {
  const organization = await theOrganization(tx);
  const today = dateOf(now, organization.zone);
  return deadlineBy(organization, event, timeOf(needed.timed, today, organization.holidays).working, now);
}

/** True when the current clearance was sent by this account, or by another one of the same person. */
export async function sentBySame(tx: Queries, eventId: string, staffId: string): Promise<boolean> {
  const row = await first(
    tx,
    `select 1 as x from clearances k join staff s on s.id = k.submitted_by join staff me on me.id = $2
     where k.event_id = $1 and k.current and (s.id = me.id or (s.contact_id is not null and s.contact_id = me.contact_id))`,
    [eventId, staffId],
  );
  return row !== null;
}

/** The event whose clearance has a step. */
export const eventOfStep = async (tx: Queries, stepId: string): Promise<string | null> =>
  (
    await first<{ eventId: string }>(
      tx,
      'select c.event_id from clearance_steps s join clearances c on c.id = s.clearance_id where s.id = $1 and c.current',
      [stepId],
    )
  )?.eventId ?? null;
