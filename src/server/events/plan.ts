import type { EventPlan } from '#contract/plan.ts';
import type { Consequences } from '#core/events/consequences.ts';
import { clashing, type PlanField, type PlanPart, partsOf } from '#core/events/parts.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import { update } from '../db/database.ts';
import { invalid, refused } from '../http/problem.ts';
import { keepHistory } from './history.ts';
import type { Saving } from './lists.ts';
import { partRules } from './parts.ts';
import {
  type EventRow,
  plainPlan,
  readEvent,
  readMessageLines,
  readProgramme,
  readQuestions,
  readSold,
  readSurveys,
} from './store.ts';

/** The whole plan of an event as it can be edited. */
export async function readPlan(tx: Queries, event: EventRow): Promise<EventPlan> {
  return {
    ...plainPlan(event),
    ...(await readProgramme(tx, event.id)),
    ...(await readSold(tx, event.id)),
    questions: await readQuestions(tx, event.id),
    messages: (await readMessageLines(tx, event.id)).map(({ addedAt: _, sentByHandAt: __, ...line }) => line),
    surveys: (await readSurveys(tx, event.id)).map(({ retired: _, reworded: __, ...survey }) => survey),
  };
}

export interface Saved {
  /** The version of the plan, and of the parts that were saved. */
  version: number;
  /** What followed. */
  followed: Consequences;
}

/** When each part of a plan was saved last, as the version the plan had by then, and by whom. */
const readParts = (tx: Queries, eventId: string) =>
  tx.query<{ part: PlanPart; version: number; savedBy: string }>(
    'select part, version, saved_by from plan_parts where event_id = $1',
    [eventId],
  );

/** Keeps that parts of a plan say something else from a version on, so that whoever wrote on the one before is told. */
export async function savedParts(
  { tx, now, actor }: Pick<Work, 'tx' | 'now' | 'actor'>,
  eventId: string,
  parts: readonly PlanPart[],
  version: number,
): Promise<void> {
  await tx.query(
    `insert into plan_parts (event_id, part, version, saved_at, saved_by) select $1, unnest($2::text[]), $3, $4, $5
     on conflict (event_id, part) do update set version = excluded.version, saved_at = excluded.saved_at, saved_by = excluded.saved_by`,
    [eventId, parts, version, now, actor.name],
  );
}

/**
 * Saves parts of a plan, all of them or none. `seen` is the version of the plan that the change was written on; a part that
 * somebody else saved since is refused. What follows (shifts and messages that move, steps that are decided again, seats
 * that came free) is done by the words it concerns, in the same transaction.
 */
export async function savePlan(
  w: Work,
  eventId: string,
  seen: number,
  change: Partial<EventPlan>,
  /** The change of the plan's history that this takes back. */
  undoes: string | null = null,
  /** The change is that of its series. */
  carried = false,
): Promise<Saved> {
  const { tx, now } = w;
  const event = await readEvent(tx, eventId, true);
  if (seen > event.version) throw refused('no-such-version');
  const fields = Object.keys(change) as PlanField[];
  const touched = partsOf(fields);
  const saved = await readParts(tx, eventId);
  const [clash] = clashing(touched, Object.fromEntries(saved.map((p) => [p.part, p.version])), seen);
  if (clash) throw refused('changed-meanwhile', { who: saved.find((p) => p.part === clash)!.savedBy });
  if (['wrapped', 'called off'].includes(event.state)) throw refused('event-over', { state: event.state });
  const before = await readPlan(tx, event);
  const saving: Saving = { w, event, before, after: { ...before, ...change }, change };
  const problems = (await Promise.all(touched.map((part) => partRules[part].check(saving)))).flat();
  if (problems.length) throw invalid(problems);
  for (const part of touched) await partRules[part].save(saving);
  const version = event.version + 1;
  await update(tx, 'events', eventId, { version, updatedAt: now });
  await savedParts(w, eventId, touched, version);
  await keepHistory(w, eventId, before, saving.after, fields, undoes);
  const followed = await record(w, 'plan saved', {
    eventId,
    fields,
    before,
    after: saving.after,
    carried,
  });
  return { version, followed };
}
