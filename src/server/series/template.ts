import { stagesOf } from '#core/access/stages.ts';
import { carryRows, type RowsApart, rowsApart } from '#core/series/carry.ts';
import type { Asker, Work } from '../app/app.ts';
import { changePlan } from '../changes/changing.ts';
import { first, type Queries } from '../db/database.ts';
import { readPlan } from '../events/plan.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { refused } from '../http/problem.ts';

/** The template an event was made from, as far as somebody sees it; null of none, and of a date, which goes by its series. */
async function templateOf(c: Asker & { tx: Queries }, event: EventRow): Promise<EventRow | null> {
  if (event.seriesId) return null;
  const row = await first<{ id: string }>(
    c.tx,
    'select t.id from events e join events t on t.id = e.copied_from and t.is_template where e.id = $1',
    [event.id],
  );
  const template = row && (await readEvent(c.tx, row.id));
  return template && stagesOf(c.staff, template, c.now).has('plan') ? template : null;
}

/** How the lines of an event stand to those of the template it was made from; null of none. */
export async function besideTemplate(
  c: Asker & { tx: Queries },
  event: EventRow,
): Promise<(RowsApart & { title: string }) | null> {
  const template = await templateOf(c, event);
  if (!template) return null;
  const [there, here] = [await readPlan(c.tx, template), await readPlan(c.tx, event)];
  return { title: template.publicTitle, ...rowsApart(there, here, 'messages')! };
}

/** Takes lines as the template has them, by their ids here, or there where they are missing here. */
export async function takeFromTemplate(
  w: Work & Asker,
  event: EventRow,
  rows: readonly string[],
): Promise<void> {
  const template = await templateOf(w, event);
  if (!template) throw refused('not-from-template');
  const [there, here] = [await readPlan(w.tx, template), await readPlan(w.tx, event)];
  const change = carryRows(there, here, 'messages', rows, () => w.app.ids.id());
  await changePlan(w, event.id, event.version, change);
}
