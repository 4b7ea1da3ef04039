import { because, type Reason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, type Queries } from '../db/database.ts';
import { refused } from '../http/problem.ts';
import { readPlan } from './plan.ts';
import { countShifts, type EventRow } from './store.ts';

/** What keeps an event from being deleted: something happened that has to stay written down. Null where nothing does. */
export async function hindranceTo(tx: Queries, event: EventRow): Promise<Reason | null> {
  if (event.state !== 'draft') return because('deleting: not a draft', { state: event.state });
  if (event.isTemplate && (await first(tx, 'select 1 as x from series where pattern_id = $1', [event.id])))
    return because('deleting: series');
  const row = (await first<Record<'people' | 'money' | 'sent' | 'clearances' | 'signed', boolean>>(
    tx,
    `select exists (select 1 from orders where event_id = $1) or exists (select 1 from attendance where event_id = $1)
         or exists (select 1 from applications p join calls k on k.id = p.call_id where k.event_id = $1)
         or exists (select 1 from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1) as people,
       exists (select 1 from payments where event_id = $1) or exists (select 1 from donations where event_id = $1) as money,
       exists (select 1 from messages where event_id = $1) as sent,
       exists (select 1 from clearances where event_id = $1) as clearances,
       exists (select 1 from signatures where event_id = $1) as signed`,
    [event.id],
  ))!;
  if (row.people) return because('deleting: people');
  if (row.money) return because('deleting: money');
  if (row.signed) return because('deleting: signed');
  if (row.sent) return because('deleting: messages');
  return row.clearances ? because('deleting: clearance') : null;
}

/** What would be lost with an event. */
export async function lostWith(tx: Queries, event: EventRow) {
  const plan = await readPlan(tx, event);
  return {
    offers: plan.offers.length,
    questions: plan.questions.length,
    shifts: event.startsLocal ? await countShifts(tx, event.id) : (event.waits?.shifts.length ?? 0),
    messages: plan.messages.length,
  };
}

/** Deletes a draft or a template for good, with everything that belongs to it alone. What was copied from it stays. */
export async function deleteEvent(w: Work, event: EventRow): Promise<void> {
  if (await hindranceTo(w.tx, event)) throw refused('not-deletable');
  await w.tx.query('update events set copied_from = null where copied_from = $1', [event.id]);
  await w.tx.query('delete from events where id = $1', [event.id]);
  await record(w, 'event deleted', {
    eventId: event.id,
    title: event.publicTitle || event.teamTitle,
    ofSeries: event.seriesId === null ? null : { seriesId: event.seriesId, slot: event.slot! },
  });
}
