import { escalates, nextNudge } from '#core/clearance/nudging.ts';
import { isOpenForDecision } from '#core/clearance/steps.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { nudgeAt } from './sending.ts';
import { eventOfStep, readSteps } from './steps.ts';

/** The step somebody is reminded of next. */
export const nextNudgeSql =
  'select nudge_at as at, id from clearance_steps where nudge_at is not null order by nudge_at, id limit 1';

/** Reminds whoever has a step, where it still waits for them; with the second reminder coordinators hear of it too. */
export async function nudge(w: Work, stepId: string): Promise<void> {
  const eventId = await eventOfStep(w.tx, stepId);
  const step = eventId === null ? undefined : (await readSteps(w.tx, eventId)).find((s) => s.id === stepId);
  const event = eventId === null ? null : await readEvent(w.tx, eventId);
  const waits =
    step &&
    isOpenForDecision(step.state) &&
    event &&
    !['called off', 'shelved', 'wrapped'].includes(event.state);
  if (!step || !waits) {
    await update(w.tx, 'clearance_steps', stepId, { nudgeAt: null });
    return;
  }
  const { zone, holidays } = await theOrganization(w.tx);
  const next = nextNudge(step.dueOn, step.nudges + 1, holidays);
  await update(w.tx, 'clearance_steps', stepId, {
    nudges: step.nudges + 1,
    nudgeAt: next && nudgeAt(next, zone, w.now),
  });
  await record(w, 'step reminded of', {
    eventId: event.id,
    stepId,
    step: step.step,
    escalated: escalates(step.nudges),
  });
}
