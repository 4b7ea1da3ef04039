import type { EventPlan } from '#contract/plan.ts';
import { goesOn } from '#core/events/history.ts';
import type { PlanField } from '#core/events/parts.ts';
import { sameValue } from '#core/words/canonical.ts';
import type { Work } from '../app/app.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

/** A change of one field of a plan: what it said before, and after. */
export interface PlanChangeRow {
  id: string;
  field: PlanField;
  at: string;
  actor: string;
  staffId: string | null;
  before: unknown;
  after: unknown;
  undoes: string | null;
  undoneBy: string | null;
}

const columns =
  'c.id, c.field, c.at, c.actor, c.staff_id, c.before, c.after, c.undoes, (select u.actor from plan_changes u where u.undoes = c.id limit 1) as undone_by';

/** How many changes of a plan are shown. */
const shown = 100;

export const readHistory = (tx: Queries, eventId: string): Promise<PlanChangeRow[]> =>
  tx.query<PlanChangeRow>(
    `select ${columns} from plan_changes c where c.event_id = $1 order by c.at desc, c.id desc limit ${shown}`,
    [eventId],
  );

/**
 * The last change of somebody's own that was not taken back; null where there is none, or where somebody else wrote in the
 * same field since: theirs would be lost unseen.
 */
export const readUndoable = (
  tx: Queries,
  eventId: string,
  staffId: string,
): Promise<{ change: string; field: PlanField } | null> =>
  first(
    tx,
    `select c.id as change, c.field from plan_changes c where c.event_id = $1 and c.staff_id = $2 and c.undoes is null
       and not exists (select 1 from plan_changes u where u.undoes = c.id)
       and not exists (select 1 from plan_changes o where o.event_id = c.event_id and o.field = c.field
         and o.staff_id is distinct from c.staff_id and (o.at, o.id) > (c.at, c.id)) order by c.at desc, c.id desc limit 1`,
    [eventId, staffId],
  );

/** One change of the plan of an event; throws 404. */
export async function readPlanChange(tx: Queries, eventId: string, id: string): Promise<PlanChangeRow> {
  const row = await first<PlanChangeRow>(
    tx,
    `select ${columns} from plan_changes c where c.event_id = $1 and c.id = $2`,
    [eventId, id],
  );
  if (!row) throw notFound('This change');
  return row;
}

/** The last change of a field; null where it was never changed. */
const lastChange = (tx: Queries, eventId: string, field: PlanField): Promise<PlanChangeRow | null> =>
  first(
    tx,
    `select ${columns} from plan_changes c where c.event_id = $1 and c.field = $2 order by c.at desc, c.id desc limit 1`,
    [eventId, field],
  );

/** True when what somebody saves now goes on with what they typed in the field a moment ago. */
export async function isTypedOn(
  { tx, now, actor }: Pick<Work, 'tx' | 'now' | 'actor'>,
  eventId: string,
  field: PlanField,
): Promise<boolean> {
  const last = await lastChange(tx, eventId, field);
  return (
    last !== null && !last.undoneBy && goesOn(last, { field, at: now, staffId: actor.staffId, undoes: null })
  );
}

/**
 * Keeps what was changed of a plan, a row a field. What one person types on in one field is one change; one that came back
 * to what it was is none.
 */
export async function keepHistory(
  w: Work,
  eventId: string,
  before: EventPlan,
  after: EventPlan,
  fields: readonly PlanField[],
  undoes: string | null,
): Promise<void> {
  for (const field of fields) {
    if (sameValue(before[field], after[field])) continue;
    const change = { field, at: w.now, staffId: w.actor.staffId, undoes };
    const last = await lastChange(w.tx, eventId, field);
    if (!last || last.undoneBy || !goesOn(last, change))
      await insert(w.tx, 'plan_changes', {
        id: w.app.ids.id(),
        eventId,
        ...change,
        actor: w.actor.name,
        before: before[field],
        after: after[field],
      });
    else if (sameValue(last.before, after[field]))
      await w.tx.query('delete from plan_changes where id = $1', [last.id]);
    else
      await w.tx.query('update plan_changes set after = $2::jsonb, at = $3 where id = $1', [
        last.id,
        JSON.stringify(after[field] ?? null),
        w.now,
      ]);
  }
}
