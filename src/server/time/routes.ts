import type { timeContract } from '#contract/time.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, refused } from '../http/problem.ts';
import type { Runner } from '../jobs/runner.ts';

/** The furthest the clock moves at once, in days. */
const furthestDays = 400;

export const timeHandlers = (runner: () => Runner): Handlers<typeof timeContract> => ({
  'GET /api/clock': async ({ app, now }) => ({ now, movable: app.movable, nextDue: await runner().next() }),

  'POST /api/clock': async ({ app, now, body }) => {
    if (!app.movable) throw refused('clock-not-movable');
    const to = new Date(body.to).toISOString();
    if (to < now) throw invalid([{ path: 'to', code: 'clock-forward-only' }]);
    if (Date.parse(to) - Date.parse(now) > furthestDays * 86_400_000)
      throw invalid([{ path: 'to', code: 'clock-too-far', params: { days: furthestDays } }]);
    const done = await runner().moveTo(to);
    return { now: app.clock.now(), movable: true, nextDue: await runner().next(), done };
  },
});
