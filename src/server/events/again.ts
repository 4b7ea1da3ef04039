import type { Answered } from '#contract/endpoint.ts';
import type { eventsContract } from '#contract/events.ts';
import { datesAgain } from '#core/events/again.ts';
import { silentStates } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { demand } from './access.ts';
import { readPlan } from './plan.ts';
import { seasonFor } from './season.ts';
import { countShifts, readEvent } from './store.ts';

/** When an event could take place again, and what a copy of it would bring along. A template is everybody's. */
export async function againOf(
  c: Asker & { tx: Queries },
  id: string,
): Promise<Answered<(typeof eventsContract)['GET /api/events/:id/again']>> {
  const { tx, now } = c;
  const event = await readEvent(tx, id);
  if (!event.isTemplate) demand(c, event, 'plan', 'see');
  const plan = await readPlan(tx, event);
  const start = event.startsLocal ?? event.waits?.startsLocal ?? null;
  const today = dateOf(now, event.zone);
  // Of what else takes place there, whoever asks learns as much as Season shows them: no drafts of other units.
  const others = event.venueId
    ? await seasonFor(c, 'e.venue_id = $1 and e.id <> $2 and e.starts_local >= $3 and not e.is_template', [
        event.venueId,
        id,
        `${today}T00:00`,
      ])
    : [];
  const taken = others.filter((e) => !silentStates.includes(e.state)).map((e) => e.startsLocal!.slice(0, 10));
  return {
    title: event.publicTitle,
    startsLocal: start,
    proposals: start ? datesAgain(start.slice(0, 10), today, new Set(taken)) : [],
    brings: {
      offers: plan.offers.length,
      questions: plan.questions.length,
      shifts: event.startsLocal ? await countShifts(tx, id) : (event.waits?.shifts.length ?? 0),
      messages: plan.messages.length,
    },
  };
}
