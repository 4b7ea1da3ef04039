import type { MessageStepPlan } from '#contract/plan.ts';
import type { Consequences, MessagesChanged } from '#core/events/consequences.ts';
import { silentStates } from '#core/events/states.ts';
import { isAhead } from '#core/messages/conditions.ts';
import { type LeftOut, type PlannedMessage, type PlanStep, planStep } from '#core/messages/plan.ts';
import { because, type Reason, sayReason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { type EventRow, readEvent, readMessageSteps } from '../events/store.ts';
import { type People, peopleOf, recipientsOf } from './audiences.ts';
import { type Outgoing, putOut } from './outbox.ts';
import { holdBack, holdBackRemoved, type Moved, movePlanned, readPlanned } from './store.ts';

/** Works a whole step out: who gets it when, and who does not and why. */
export async function planFor(
  tx: Queries,
  event: EventRow,
  step: MessageStepPlan,
  orderId: string | null = null,
  people: People = peopleOf(tx, event, orderId),
): Promise<{ planned: PlannedMessage[]; leftOut: LeftOut[]; languages: Map<string, 'en' | 'fr'> }> {
  const recipients = await recipientsOf(people, step);
  const plan: PlanStep = {
    id: step.id,
    name: step.name,
    moment: step.moment,
    offset: { days: step.offsetDays, minutes: step.offsetMinutes },
    audience: step.audience,
  };
  return {
    ...planStep(plan, event, recipients),
    languages: new Map(recipients.map((r) => [r.key, r.language])),
  };
}

/**
 * Brings the planned rows of an event, or of one order in it, to what the plan says now: missing ones are added,
 * those that have not gone out move, those that no longer apply are held back with the reason. What was sent stays.
 * Answers, step by step, how many moved and how many do not go out. What a date that moved leaves behind in the past falls away.
 */
export async function replan(
  w: Pick<Work, 'tx' | 'app' | 'now' | 'change'>,
  eventId: string,
  orderId: string | null = null,
): Promise<Pick<Consequences, 'messages'>> {
  const { tx, now } = w;
  const event = await readEvent(tx, eventId);
  const over = silentStates.includes(event.state);
  const people = peopleOf(tx, event, orderId);
  const steps = (await readMessageSteps(tx, eventId)).filter((s) => !orderId || s.audience !== 'crew');
  const rows = await readPlanned(
    tx,
    eventId,
    steps.map((s) => s.id),
    orderId,
  );
  const fresh: Outgoing[] = [];
  const moved: Moved[] = [];
  const gone: { id: string; why: Reason }[] = [];
  const followed: MessagesChanged[] = [];
  for (const step of steps) {
    const { planned, leftOut, languages } = over
      ? { planned: [], leftOut: [], languages: new Map() }
      : await planFor(tx, event, step, orderId, people);
    const ofStep = rows.filter((r) => r.stepId === step.id);
    const existing = new Map(ofStep.map((r) => [r.recipientKey, r]));
    const wanted = new Set<string>();
    const goneBefore = gone.length;
    const times = { moved: [] as (string | null)[], to: [] as string[], held: [] as (string | null)[] };
    const hold = (row: (typeof ofStep)[number], why: Reason) => {
      gone.push({ id: row.id, why });
      times.held.push(row.plannedFor);
    };
    for (const { recipient, at, reason } of planned) {
      wanted.add(recipient.key);
      const row = existing.get(recipient.key);
      if (!row)
        fresh.push({
          eventId,
          stepId: step.id,
          recipientKey: recipient.key,
          kind: step.kind,
          contactId: recipient.contactId,
          name: recipient.name,
          address: recipient.email,
          language: languages.get(recipient.key) ?? 'en',
          reason,
          at,
        });
      else if (row.state === 'planned' && row.plannedFor !== at && at < now && isAhead(step.kind))
        hold(row, because('moment passed'));
      else if (
        (row.state === 'planned' && row.plannedFor !== at) ||
        (row.state === 'held back' && at > now)
      ) {
        moved.push({ id: row.id, at, address: recipient.email, reason });
        times.moved.push(row.state === 'planned' ? row.plannedFor : null);
        times.to.push(at);
      }
    }
    for (const row of ofStep)
      if (row.state === 'planned' && !wanted.has(row.recipientKey))
        hold(
          row,
          over
            ? because('event ended', { state: event.state })
            : (leftOut.find((l) => l.recipient.key === row.recipientKey)?.why ?? because('not taking part')),
        );
    if (times.to.length)
      followed.push({
        step: step.name,
        fate: 'moved',
        count: times.to.length,
        from: earliest(times.moved),
        to: earliest(times.to),
        why: null,
      });
    if (times.held.length)
      followed.push({
        step: step.name,
        fate: 'held back',
        count: times.held.length,
        from: earliest(times.held),
        to: null,
        why: sayReason(gone[goneBefore]!.why),
      });
  }
  // What is only tried is taken back at once: thousands of rows are not written for that.
  if (!w.change?.trying) {
    await putOut(w, fresh);
    await movePlanned(tx, moved);
    await holdBack(tx, gone);
  }
  for (const { step, count, from } of orderId ? [] : await holdBackRemoved(tx, eventId))
    followed.push({
      step,
      fate: 'held back',
      count,
      from,
      to: null,
      why: sayReason(because('step removed')),
    });
  return { messages: followed };
}

/** The first of some moments. */
const earliest = (moments: readonly (string | null)[]): string | null =>
  moments.reduce((first, at) => (at !== null && (first === null || at < first) ? at : first), null);
