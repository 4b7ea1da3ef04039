import type { Clearance } from '#contract/clearance.ts';
import { lastDayToSubmit } from '#core/clearance/deadline.ts';
import {
  type ClearanceRule,
  type Fact,
  factsOf,
  isFactFlag,
  type NeededStep,
  sayFact,
  stepsFor,
} from '#core/clearance/rules.ts';
import { mayDecideStep, type Step, standingOf } from '#core/clearance/steps.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { sayProblem } from '#core/words/problems.ts';
import { sayReason } from '#core/words/reasons.ts';
import type { SignedIn } from '../app/app.ts';
import { byOwner, first, type Queries } from '../db/database.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { type EventRow, readEvent, readOffers } from '../events/store.ts';
import { type OrganizationRow, theOrganization } from '../staff/store.ts';

export interface StepRow extends Step {
  clearanceId: string;
  step: string;
  approves: string;
  asks: string;
  because: Fact[];
  workingDays: number;
  dueOn: string;
  decidedAt: string | null;
  decidedBy: string | null;
  words: string;
}

const stepColumns = `s.id, s.clearance_id, s.step, s.approves, s.step_order as "order", s.asks, s.because, s.working_days, s.due_on, s.state, s.decided_at,
  p.name as decided_by, s.words`;

/** The steps of the current clearance of each of some events. */
export async function readStepsOf(
  tx: Queries,
  eventIds: readonly string[],
): Promise<ReadonlyMap<string, StepRow[]>> {
  const rows = await tx.query<StepRow & { eventId: string }>(
    `select c.event_id, ${stepColumns} from clearance_steps s join clearances c on c.id = s.clearance_id
       left join staff p on p.id = s.decided_by
     where c.event_id = any($1) and c.current order by s.step_order, s.step`,
    [eventIds],
  );
  return byOwner(eventIds, rows, (row) => row.eventId);
}

/** The same of one event. */
export const readSteps = async (tx: Queries, eventId: string): Promise<StepRow[]> =>
  (await readStepsOf(tx, [eventId])).get(eventId)!;

export const readClearance = (tx: Queries, eventId: string) =>
  first<{ id: string; submittedAt: string; lateByDays: number }>(
    tx,
    'select id, submitted_at, late_by_days from clearances where event_id = $1 and current',
    [eventId],
  );

/** True when the plan was sent and every step it needs is cleared. */
export const isCleared = async (tx: Queries, eventId: string): Promise<boolean> =>
  (await readClearance(tx, eventId)) !== null && standingOf(await readSteps(tx, eventId)) === 'cleared';

/** The organization's rules, in the order their steps are taken. */
export const readRules = (tx: Queries): Promise<ClearanceRule[]> =>
  tx.query<ClearanceRule>(
    'select id, step, approves, any_of, headcount_from, working_days, step_order as "order", asks from clearance_rules order by step_order, step',
  );

/** The steps a plan needs by some rules, with the facts they follow from. */
export function neededBy(
  rules: readonly ClearanceRule[],
  event: EventRow,
  offers: readonly { price: number }[],
) {
  const facts = factsOf({
    flags: event.flags,
    capacity: event.capacity,
    highestPrice: Math.max(0, ...offers.map((o) => o.price)),
  });
  return { facts, steps: stepsFor(facts, rules) };
}

/** The steps a plan would need now, with the facts they follow from. */
export const neededSteps = async (tx: Queries, event: EventRow, offers: readonly { price: number }[]) =>
  neededBy(await readRules(tx), event, offers);

/** The last day to send a plan, from its date, the steps it needs and the organization's calendar. */
export function deadlineBy(
  { minimumNoticeDays, holidays, zone }: OrganizationRow,
  event: EventRow,
  steps: readonly NeededStep[],
  now: string,
) {
  if (!event.startsLocal) return null;
  const today = dateOf(now, zone);
  return lastDayToSubmit(event.startsLocal.slice(0, 10), steps, minimumNoticeDays, holidays, today);
}

/** The same by the organization there is. */
export const deadlineOf = async (tx: Queries, event: EventRow, steps: readonly NeededStep[], now: string) =>
  deadlineBy(await theOrganization(tx), event, steps, now);

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

/** The clearance of an event as somebody sees it: what is needed before it is sent, what was decided afterwards. */
export async function clearanceOf(
  tx: Queries,
  eventId: string,
  staff: SignedIn | null,
  now: string,
): Promise<Clearance> {
  const event = await readEvent(tx, eventId);
  const offers = await readOffers(tx, eventId);
  const { facts, steps: needed } = await neededSteps(tx, event, offers);
  const { zone } = await theOrganization(tx);
  const sent = await readClearance(tx, eventId);
  const steps = sent ? await readSteps(tx, eventId) : [];
  const sentIt = staff !== null && (await sentBySame(tx, eventId, staff.id));
  const mayDecide = (s: StepRow) => mayDecideStep(s, { approves: staff?.approves ?? [], sent: sentIt });
  const deadline = await deadlineOf(tx, event, needed, now);
  return {
    submittedAt: sent?.submittedAt ?? null,
    sentByMe: sentIt,
    lateByDays: sent?.lateByDays ?? 0,
    standing: sent ? standingOf(steps) : needed.length ? 'not sent' : 'not needed',
    deadline: deadline && {
      date: deadline.date,
      daysLeft: deadline.daysLeft,
      stepDays: deadline.stepDays,
      why: sayReason(deadline.why),
    },
    facts: [
      ...(event.capacity ? [sayFact({ code: 'headcount', params: { people: event.capacity } })] : []),
      ...facts.flags.filter(isFactFlag).map((code) => sayFact({ code })),
    ],
    steps: sent
      ? steps.map((s) => ({
          id: s.id,
          step: s.step,
          approves: s.approves,
          order: s.order,
          asks: s.asks,
          because: s.because.map(sayFact),
          dueOn: s.dueOn,
          state: s.state,
          decidedAt: s.decidedAt,
          decidedBy: s.decidedBy,
          words: s.words,
          mayDecide: mayDecide(s),
        }))
      : needed.map(({ rule, because }) => ({
          id: rule.id,
          step: rule.step,
          approves: rule.approves,
          order: rule.order,
          asks: rule.asks,
          because: because.map(sayFact),
          dueOn: null,
          state: 'waiting' as const,
          decidedAt: null,
          decidedBy: null,
          words: '',
          mayDecide: false,
        })),
    lacks: lacksOfEvent(event, offers, dateOf(now, zone))
      .filter((l) => l.stops)
      .map((l) => sayProblem(l.code, l.params)),
  };
}

/** The event whose clearance under way has a step. */
export const eventOfStep = async (tx: Queries, stepId: string): Promise<string | null> =>
  (
    await first<{ eventId: string }>(
      tx,
      'select c.event_id from clearance_steps s join clearances c on c.id = s.clearance_id where s.id = $1 and c.current',
      [stepId],
    )
  )?.eventId ?? null;

/** What was sent before is over: the plan is sent anew. */
export const endClearances = (tx: Queries, eventId: string) =>
  tx.query('update clearances set current = false where event_id = $1', [eventId]);
