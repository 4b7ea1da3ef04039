import type { timeContract } from '#contract/time.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, invalid } from '../http/problem.ts';
import type { Runner } from '../jobs/runner.ts';

/** The furthest the clock moves at once, in days. */
const furthestDays = 400;

export const timeHandlers = (runner: () => Runner): Handlers<typeof timeContract> => ({
  'GET /api/clock': async ({ app, now }) => ({ now, movable: app.movable, nextDue: await runner().next() }),

  'POST /api/clock': async ({ app, now, body }) => {
    if (!app.movable)
      throw conflict('clock-not-movable', 'This organization lives by the real clock; it cannot be moved.');
    const to = new Date(body.to).toISOString();
    if (to < now)
      throw invalid([
        { path: 'to', message: 'The clock only goes forward. Start the demonstration afresh to go back.' },
      ]);
    if (Date.parse(to) - Date.parse(now) > furthestDays * 86_400_000)
      throw invalid([{ path: 'to', message: `Move the clock at most ${furthestDays} days at once.` }]);
    const done = await runner().moveTo(to);
    return { now: app.clock.now(), movable: true, nextDue: await runner().next(), done };
  },
});
