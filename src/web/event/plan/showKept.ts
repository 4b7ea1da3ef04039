import { notifyManager, type QueryClient } from '@tanstack/react-query';
import type { EventPage } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import { addressOf } from '#web/api.ts';

/** What the page of an event is kept under. */
export const eventKey = (id: string): readonly [string] => [addressOf('GET /api/events/:id', { id })];

/**
 * Shows what was kept of a plan before the plan is asked anew. An answer still under way may be from before: it must not come in behind,
 * or what is typed next is compared with, and reckoned from, what stood there earlier. Ends once the page has it: what was typed may be let go
 * then and not before, or a row goes in between, and with it what was opened and the focus.
 */
export async function showKept(
  client: QueryClient,
  id: string,
  version: number,
  change: Partial<EventPlan>,
): Promise<void> {
  await client.cancelQueries({ queryKey: eventKey(id) });
  client.setQueryData<EventPage>(eventKey(id), (p) =>
    p ? { ...p, version, plan: { ...p.plan, ...change } } : p,
  );
  await new Promise<void>((done) => notifyManager.schedule(done));
}
