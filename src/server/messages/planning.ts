import type { MessageStepPlan } from '#contract/events.ts';
import type { Consequences } from '#core/events/consequences.ts';
import { silentStates } from '#core/events/states.ts';
import { type LeftOut, type PlannedMessage, type PlanStep, planStep } from '#core/messages/plan.ts';
import { because, type Reason } from '#core/words/reasons.ts';
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
 * Answers how many moved, and how many do not go out.
 */
export async function replan(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  eventId: string,
  orderId: string | null = null,
): Promise<Pick<Consequences, 'messagesMoved' | 'messagesHeldBack'>> {
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
  for (const step of steps) {
    const { planned, leftOut, languages } = over
      ? { planned: [], leftOut: [], languages: new Map() }
      : await planFor(tx, event, step, orderId, people);
    const ofStep = rows.filter((r) => r.stepId === step.id);
    const existing = new Map(ofStep.map((r) => [r.recipientKey, r]));
    const wanted = new Set<string>();
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
      else if ((row.state === 'planned' && row.plannedFor !== at) || (row.state === 'held back' && at > now))
        moved.push({ id: row.id, at, address: recipient.email, reason });
    }
    for (const row of ofStep)
      if (row.state === 'planned' && !wanted.has(row.recipientKey))
        gone.push({
          id: row.id,
          why: over
            ? because('event ended', { state: event.state })
            : (leftOut.find((l) => l.recipient.key === row.recipientKey)?.why ?? because('not taking part')),
        });
  }
  await putOut(w, fresh);
  await movePlanned(tx, moved);
  await holdBack(tx, gone);
  const removed = orderId ? 0 : await holdBackRemoved(tx, eventId);
  return { messagesMoved: moved.length, messagesHeldBack: gone.length + removed };
}
