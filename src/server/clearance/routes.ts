import type { clearanceContract } from '#contract/clearance.ts';
import { decideStep, isOpenForDecision, needsWords, standingOf } from '#core/clearance/steps.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { workingDaysAfter } from '#core/time/workingDays.ts';
import { record } from '../app/record.ts';
import { first, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { moveOn } from '../events/moving.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, invalid, notFound, Problem } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { clearanceOf, readSteps, sentBySame, submit } from './steps.ts';

export const clearanceHandlers: Handlers<typeof clearanceContract> = {
  'GET /api/events/:id/clearance': async (c) => {
    await eventFor(c, c.params.id, 'clearance', 'see');
    return clearanceOf(c.tx, c.params.id, c.staff, c.now);
  },

  'POST /api/events/:id/clearance': async (c) => {
    await eventFor(c, c.params.id, 'clearance', 'change');
    await submit(c, c.params.id);
    return clearanceOf(c.tx, c.params.id, c.staff, c.now);
  },

  'POST /api/clearance-steps/:id/decision': async (c) => {
    const { tx, params, body, staff, now } = c;
    const row = await first<{ eventId: string }>(
      tx,
      'select c.event_id from clearance_steps s join clearances c on c.id = s.clearance_id where s.id = $1 and c.current',
      [params.id],
    );
    if (!row) throw notFound('This step');
    const steps = await readSteps(tx, row.eventId);
    const step = steps.find((s) => s.id === params.id)!;
    if (!staff.approves.includes(step.approves))
      throw new Problem(
        403,
        'not-your-step',
        `${step.step} is decided by those who approve for ${step.approves}.`,
      );
    if (await sentBySame(tx, row.eventId, staff.id))
      throw new Problem(403, 'own-plan', 'You sent this plan. Somebody else who approves decides it.');
    if (!isOpenForDecision(step.state))
      throw conflict('step-state', `This step is ${step.state}; there is nothing to decide now.`);
    if (needsWords(body.decision) && body.words.length < 3)
      throw invalid([
        {
          path: 'words',
          message:
            body.decision === 'clear with conditions'
              ? 'Say what the condition is.'
              : 'Say why, so that the plan can be mended.',
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
    await record(c, 'step decided', {
      eventId: row.eventId,
      step: step.step,
      decision: body.decision,
      words: body.words,
    });
    const standing = standingOf(after);
    const event = await first<{ state: string }>(tx, 'select state from events where id = $1', [row.eventId]);
    if (event?.state === 'in clearance') {
      if (standing === 'cleared') await moveOn(c, row.eventId, 'cleared', body.words);
      else if (standing !== 'under way') await moveOn(c, row.eventId, 'draft', `${step.step}: ${body.words}`);
    }
    return clearanceOf(tx, row.eventId, staff, now);
  },
};
