import { notCovered } from '#core/clearance/cover.ts';
import { standingOf } from '#core/clearance/steps.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries } from '../db/database.ts';
import { moveOn } from '../events/moving.ts';
import { type EventRow, readEvent, readOffers } from '../events/store.ts';
import { factPlanOf, neededBy, theBook } from './book.ts';
import { readConditions } from './conditions.ts';
import { lacksForSending } from './sending.ts';
import { readClearance, readSteps } from './steps.ts';

/** Dates of a series that are still to come and wait as drafts, of the same unit: those that one clearance may cover. */
const waitingDates = (tx: Queries, event: EventRow, now: string): Promise<{ id: string }[]> =>
  tx.query<{ id: string }>(
    `select id from events where series_id = $1 and id <> $2 and state = 'draft' and starts_at > $3
       and unit_id is not distinct from $4 and not is_template order by starts_at`,
    [event.seriesId, event.id, now, event.unitId],
  );

/** How one clearance would do for the other dates of its series: how many are alike, and which are not, with the steps that differ. */
export async function coverageOf(
  w: Pick<Work, 'tx' | 'now'>,
  event: EventRow,
): Promise<{ alike: number; differs: { id: string; startsLocal: string | null; steps: string[] }[] } | null> {
  if (!event.seriesId) return null;
  const dates = await waitingDates(w.tx, event, w.now);
  const book = await theBook(w.tx);
  const own = neededBy(book, factPlanOf(event, await readOffers(w.tx, event.id))).needed;
  // As if every step of this one were cleared.
  const decided = own.steps.map((s) => ({
    ruleId: s.rule.id,
    state: 'cleared' as const,
    looked: s.looked,
  }));
  const differs: { id: string; startsLocal: string | null; steps: string[] }[] = [];
  for (const { id } of dates) {
    const date = await readEvent(w.tx, id);
    const { needed } = neededBy(book, factPlanOf(date, await readOffers(w.tx, id)));
    const steps = notCovered(decided, needed.steps);
    if (steps.length) differs.push({ id, startsLocal: date.startsLocal, steps });
  }
  return { alike: dates.length - differs.length, differs };
}

/** A plan was cleared that was sent for its whole series: the dates that are alike are cleared with it. */
export async function coverDates(w: Work, eventId: string): Promise<void> {
  const sent = await readClearance(w.tx, eventId);
  if (!sent?.coversSeries) return;
  const event = await readEvent(w.tx, eventId);
  if (!event.seriesId) return;
  for (const { id } of await waitingDates(w.tx, event, w.now)) await cover(w, event, sent.id, id);
}

/** A date of a series was made: where another one was cleared for the whole of it and this one is alike, it is cleared too. */
export async function coverNew(w: Work, eventId: string): Promise<void> {
  const date = await readEvent(w.tx, eventId);
  const lead = await first<{ eventId: string; clearanceId: string }>(
    w.tx,
    `select e.id as event_id, c.id as clearance_id from clearances c join events e on e.id = c.event_id
     where e.series_id = $1 and c.current and c.covers_series and e.state not in ('draft', 'in clearance', 'called off', 'shelved')
       and e.unit_id is not distinct from $2 order by c.submitted_at desc limit 1`,
    [date.seriesId, date.unitId],
  );
  if (!lead || date.state !== 'draft') return;
  const event = await readEvent(w.tx, lead.eventId);
  if (standingOf(await readSteps(w.tx, lead.eventId)) !== 'cleared') return;
  await cover(w, event, lead.clearanceId, eventId);
}

/** Clears a date as another one was, where it is alike and lacks nothing. Conditions come along, as long before it as there. */
async function cover(w: Work, lead: EventRow, clearanceId: string, dateId: string): Promise<void> {
  const { tx, app, now } = w;
  const date = await readEvent(tx, dateId, true);
  const offers = await readOffers(tx, dateId);
  const { needed } = neededBy(await theBook(tx), factPlanOf(date, offers));
  const steps = (await readSteps(tx, lead.id)).filter((s) => s.state !== 'not needed');
  if (notCovered(steps, needed.steps).length) return;
  if ((await lacksForSending(w, date, offers)).some((l) => !('code' in l && askedOfLead.includes(l.code))))
    return;
  if (await readClearance(tx, dateId)) return;
  const sent = await first<{ submittedBy: string | null }>(
    tx,
    'select submitted_by from clearances where id = $1',
    [clearanceId],
  );
  const own = app.ids.id();
  await insert(tx, 'clearances', {
    id: own,
    eventId: dateId,
    current: true,
    submittedAt: now,
    submittedBy: sent?.submittedBy ?? null,
    lateByDays: 0,
    lateReason: '',
    coveredBy: clearanceId,
  });
  const idOf = new Map(steps.map((s) => [s.id, app.ids.id()]));
  const wanted = steps.filter((s) => needed.steps.some((n) => n.rule.id === s.ruleId));
  await insert(
    tx,
    'clearance_steps',
    wanted.map((s, at) => ({
      id: idOf.get(s.id)!,
      clearanceId: own,
      ruleId: s.ruleId,
      step: s.step,
      approves: s.approves,
      approverId: s.approverId,
      stepOrder: at,
      after: s.after.flatMap((id) => idOf.get(id) ?? []),
      asks: s.asks,
      because: s.because,
      looked: needed.steps.find((n) => n.rule.id === s.ruleId)!.looked,
      documents: s.documents,
      meanwhile: s.meanwhile,
      workingDays: s.workingDays,
      dueOn: s.dueOn,
      state: s.state,
      decidedAt: s.decidedAt,
      decidedBy: s.decidedById,
      words: s.words,
    })),
  );
  const days =
    lead.startsLocal && date.startsLocal
      ? daysBetween(lead.startsLocal.slice(0, 10), date.startsLocal.slice(0, 10))
      : 0;
  await insert(
    tx,
    'clearance_conditions',
    (await readConditions(tx, lead.id))
      .filter((c) => wanted.some((s) => s.id === c.stepId))
      .map((c) => ({
        id: app.ids.id(),
        eventId: dateId,
        stepId: idOf.get(c.stepId)!,
        what: c.what,
        ownerId: c.ownerId,
        dueOn: c.dueOn && shiftDate(c.dueOn, days),
        blocks: c.blocks,
        createdAt: now,
        metAt: null,
        metBy: null,
        metWords: '',
      })),
  );
  await record(w, 'clearance spoken of', {
    eventId: dateId,
    how: 'cleared with its series',
    detail: { by: lead.id },
  });
  await moveOn(w, dateId, 'cleared', '');
}

/** What was settled for the date that was sent, and is asked of no other. */
const askedOfLead: readonly string[] = ['papers-missing', 'questions-open'];
