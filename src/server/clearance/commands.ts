import type { EventPlan } from '#contract/events.ts';
import { dueDates } from '#core/clearance/deadline.ts';
import { factsOf, sameFacts } from '#core/clearance/rules.ts';
import {
  type DecisionWord,
  decideStep,
  handOver,
  isOpenForDecision,
  needsWords,
  type StepState,
  standingOf,
} from '#core/clearance/steps.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { workingDaysAfter } from '#core/time/workingDays.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { moveOn } from '../events/moving.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import {
  deadlineOf,
  endClearances,
  eventOfStep,
  neededSteps,
  readClearance,
  readSteps,
  sentBySame,
} from './steps.ts';

/** Sends a plan for clearance: its steps go to their approvers. A plan that needs none is cleared at once. */
export async function submit(w: Work, eventId: string): Promise<void> {
  const { tx, app, now } = w;
  const event = await readEvent(tx, eventId, true);
  if (event.state !== 'draft') throw refused('not-a-draft', { state: event.state });
  const { zone, holidays } = await theOrganization(tx);
  const today = dateOf(now, zone);
  const offers = await readOffers(tx, eventId);
  const stops = lacksOfEvent(event, offers, today).filter((l) => l.stops);
  if (stops.length) throw invalid(stops.map(({ code, params }) => ({ path: 'plan', code, params })));
  const { steps } = await neededSteps(tx, event, offers);
  const deadline = await deadlineOf(tx, event, steps, now);
  await endClearances(tx, eventId);
  const clearanceId = app.ids.id();
  await insert(tx, 'clearances', {
    id: clearanceId,
    eventId,
    submittedAt: now,
    submittedBy: w.actor.staffId,
    lateByDays: Math.max(0, -(deadline?.daysLeft ?? 0)),
    current: true,
  });
  const dates = dueDates(steps, today, holidays);
  const waiting = steps.map(({ rule, because }, at) => ({
    id: app.ids.id(),
    clearanceId,
    step: rule.step,
    approves: rule.approves,
    order: rule.order,
    asks: rule.asks,
    because,
    workingDays: rule.workingDays,
    dueOn: dates[at]!,
    state: 'waiting' as StepState,
  }));
  await insert(
    tx,
    'clearance_steps',
    handOver(waiting).map(({ order, ...s }) => ({ ...s, stepOrder: order })),
  );
  await record(w, 'plan sent', { eventId, steps: waiting.map((s) => s.step) });
  await moveOn(w, eventId, waiting.length ? 'in clearance' : 'cleared', '');
}

/**
 * After a plan was changed: steps whose reasons changed are opened again, steps newly needed are added. Answers their
 * names. A cleared plan goes back into clearance; an open one stays open and is shown as needing a decision.
 */
export async function reopenChanged(
  w: Work,
  eventId: string,
  before: EventPlan,
  after: EventPlan,
): Promise<string[]> {
  const sent = await readClearance(w.tx, eventId);
  if (!sent) return [];
  const highest = (plan: EventPlan) => Math.max(0, ...plan.offers.map((o) => o.price));
  const facts = (plan: EventPlan) =>
    JSON.stringify(factsOf({ flags: plan.flags, capacity: plan.capacity, highestPrice: highest(plan) }));
  if (facts(before) === facts(after)) return [];
  const event = await readEvent(w.tx, eventId);
  const { steps: needed } = await neededSteps(w.tx, event, after.offers);
  const existing = await readSteps(w.tx, eventId);
  const { zone, holidays } = await theOrganization(w.tx);
  const reopened: string[] = [];
  for (const { rule, because } of needed) {
    const step = existing.find((s) => s.step === rule.step);
    const dueOn = workingDaysAfter(dateOf(w.now, zone), rule.workingDays, holidays);
    if (!step) {
      await insert(w.tx, 'clearance_steps', {
        id: w.app.ids.id(),
        clearanceId: sent.id,
        step: rule.step,
        approves: rule.approves,
        stepOrder: rule.order,
        asks: rule.asks,
        because,
        workingDays: rule.workingDays,
        dueOn,
        state: 'with approver',
      });
      reopened.push(rule.step);
    } else if (
      !sameFacts(step.because, because) &&
      (step.state === 'cleared' || step.state === 'cleared with conditions')
    ) {
      await update(w.tx, 'clearance_steps', step.id, {
        state: 'reopened',
        because,
        dueOn,
        decidedAt: null,
        decidedBy: null,
      });
      reopened.push(rule.step);
    }
  }
  if (reopened.length && event.state === 'cleared')
    await moveOn(w, eventId, 'in clearance', `reopened: ${reopened.join(', ')}`);
  return reopened;
}

/** Decides a step that waits for somebody. What follows for the others and for the event is done with it. Answers the event. */
export async function decide(
  w: Work,
  staff: SignedIn,
  stepId: string,
  body: { decision: DecisionWord; words: string },
): Promise<string> {
  const { tx, now } = w;
  const eventId = await eventOfStep(tx, stepId);
  if (!eventId) throw notFound('This step');
  const steps = await readSteps(tx, eventId);
  const step = steps.find((s) => s.id === stepId)!;
  if (!staff.approves.includes(step.approves))
    throw refused('not-your-step', { step: step.step, word: step.approves }, 403);
  if (await sentBySame(tx, eventId, staff.id)) throw refused('own-plan', {}, 403);
  if (!isOpenForDecision(step.state)) throw refused('step-state', { state: step.state });
  if (needsWords(body.decision) && body.words.length < 3)
    throw invalid([
      {
        path: 'words',
        code: body.decision === 'clear with conditions' ? 'condition-needed' : 'why-sent-back',
      },
    ]);
  await update(tx, 'clearance_steps', step.id, { decidedAt: now, decidedBy: staff.id, words: body.words });
  const after = decideStep(steps, step.id, body.decision);
  const { zone, holidays } = await theOrganization(tx);
  for (const s of after) {
    if (s.state === steps.find((b) => b.id === s.id)!.state) continue;
    // A step that was waiting begins now, sooner or later than it was reckoned with.
    const begins = s.state === 'with approver';
    await update(tx, 'clearance_steps', s.id, {
      state: s.state,
      ...(begins ? { dueOn: workingDaysAfter(dateOf(now, zone), s.workingDays, holidays) } : {}),
    });
  }
  await record(w, 'step decided', {
    eventId,
    step: step.step,
    decision: body.decision,
    words: body.words,
  });
  const standing = standingOf(after);
  const event = await readEvent(tx, eventId);
  if (event.state === 'in clearance') {
    if (standing === 'cleared') await moveOn(w, eventId, 'cleared', body.words);
    else if (standing !== 'under way') await moveOn(w, eventId, 'draft', `${step.step}: ${body.words}`);
  }
  return eventId;
}
