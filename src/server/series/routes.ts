import type { SettledTogether } from '#contract/changes.ts';
import type { Answered } from '#contract/endpoint.ts';
import type { RecurrencePlan, SeriesDate, seriesContract } from '#contract/series.ts';
import { shiftAlong } from '#core/events/dated.ts';
import { silentStates } from '#core/events/states.ts';
import { rowsApart } from '#core/series/carry.ts';
import { readRule } from '#core/series/rule.ts';
import { sayRule } from '#core/series/saying.ts';
import { nextSlots } from '#core/series/slots.ts';
import { later } from '#core/time/clock.ts';
import { instantOf, wallOf } from '#core/time/wallTime.ts';
import { type Asker, inTransaction, whatIf } from '../app/app.ts';
import { nothingSettled } from '../changes/changing.ts';
import { demandSettling } from '../changes/settling.ts';
import type { Queries } from '../db/database.ts';
import { demandLead, eventFor } from '../events/access.ts';
import { readPlan } from '../events/plan.ts';
import { seasonFor } from '../events/season.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { theOrganization } from '../staff/store.ts';
import { carries, carryFields, putBack } from './carrying.ts';
import { callOffSeries, changeSeries } from './changing.ts';
import { beginSeries, checkRecurrence, leave } from './commands.ts';
import { recurrenceOf } from './making.ts';
import { differing, planAround, readPattern } from './pattern.ts';
import { type DateRow, readDates, readSeries, type SeriesRow } from './store.ts';
import { besideTemplate, takeFromTemplate } from './template.ts';

const sayOf = (of: Pick<SeriesRow, 'rule' | 'startsLocal'>): string => {
  const read = of.rule === null ? null : readRule(of.rule);
  return sayRule(read && 'rule' in read ? read.rule : null, of.startsLocal);
};

const shownDate = (
  { id, slot, startsLocal, title, state, people, own, startsAt }: DateRow,
  now: string,
): SeriesDate => ({
  id,
  slot,
  startsLocal,
  title,
  state,
  people,
  own,
  coming: startsAt === null || startsAt > now,
});

/** A series of which somebody leads the events; its pattern says whose they are. */
async function seriesFor(c: Asker & { tx: Queries }, id: string): Promise<SeriesRow> {
  const series = await readSeries(c.tx, id);
  await eventFor(c, series.patternId, 'plan', 'see');
  return series;
}
async function seriesToChange(c: Asker & { tx: Queries }, id: string): Promise<SeriesRow> {
  const series = await readSeries(c.tx, id);
  demandLead(c, await eventFor(c, series.patternId, 'plan', 'change'));
  return series;
}

/** What stands in the place of words that will be written, where it is only asked what would follow. */
const unsaid = '…………';

/** What is written to people is for who may do that, and money for gifts goes to a fund that there is. */
const demandLetters = async (
  c: Asker & { tx: Queries },
  series: SeriesRow,
  settle: SettledTogether | undefined,
): Promise<void> =>
  demandSettling(c, await readEvent(c.tx, series.patternId), settle && { ...nothingSettled, ...settle });

/** A date whose series somebody may change: to work on one date is not enough to change the others. */
async function dateToChange(c: Asker & { tx: Queries }, id: string): Promise<EventRow> {
  const event = await eventFor(c, id, 'plan', 'change', true);
  if (event.seriesId) await seriesToChange(c, event.seriesId);
  return event;
}

type Preview = Answered<(typeof seriesContract)['POST /api/series/preview']>;

/** The next dates of a rule with what speaks against them. Of other events whoever asks learns what Season shows them. */
async function previewOf(
  c: Asker & { tx: Queries },
  event: EventRow,
  seriesId: string | null,
  of: RecurrencePlan,
): Promise<Preview> {
  const { zone } = event;
  checkRecurrence(of, zone);
  const { holidays } = await theOrganization(c.tx);
  const here = wallOf(c.now, zone);
  const recurrence = recurrenceOf({ ...of, zone });
  const next = nextSlots(recurrence, later(of.startsLocal, here), 12);
  const dates = seriesId ? await readDates(c.tx, seriesId) : [];
  const others = next.length
    ? (
        await seasonFor(
          c,
          `not e.is_template and e.starts_at is not null and e.starts_at < $1::timestamptz + interval '2 days'
             and coalesce(e.ends_at, e.starts_at) > $2::timestamptz - interval '2 days' and (e.venue_id = $3 or e.unit_id = $4)
             and e.id <> $5 and ($6::uuid is null or e.series_id is distinct from $6)`,
          [
            instantOf(next.at(-1)!.startsLocal, zone),
            instantOf(next[0]!.startsLocal, zone),
            event.venueId,
            event.unitId,
            event.id,
            seriesId,
          ],
        )
      ).filter((e) => !silentStates.includes(e.state))
    : [];
  const times = event.waits ?? event;
  const length = (starts: string): string =>
    times.startsLocal && times.endsLocal ? shiftAlong(times.endsLocal, times.startsLocal, starts) : starts;
  return {
    said: sayOf(of),
    next: next.map(({ slot, startsLocal, endsLocal }) => {
      const ends = endsLocal ?? length(startsLocal);
      return {
        slot,
        startsLocal,
        later: slot !== startsLocal,
        holiday: holidays.includes(startsLocal.slice(0, 10)),
        clashes: others
          .filter((e) => e.startsLocal! < ends && (e.endsLocal ?? e.startsLocal!) > startsLocal)
          .map((e) => e.title),
        made: dates.find((d) => d.slot === slot)?.id ?? (slot === event.startsLocal ? event.id : null),
      };
    }),
  };
}

export const seriesHandlers: Handlers<typeof seriesContract> = {
  'POST /api/series/preview': async (c) => {
    const { of, ...recurrence } = c.body;
    const series = of.kind === 'series' ? await readSeries(c.tx, of.id) : null;
    const event = await eventFor(c, series?.patternId ?? of.id, 'plan', 'see');
    return previewOf(c, event, series?.id ?? event.seriesId, recurrence);
  },

  'POST /api/series': async (c) => {
    const { eventId, ...of } = c.body;
    const event = await eventFor(c, eventId, 'plan', 'change', true);
    demandLead(c, event);
    return beginSeries(c, event, of);
  },

  'GET /api/series/:id': async (c) => {
    const series = await seriesFor(c, c.params.id);
    return {
      ...series,
      settling: (await readEvent(c.tx, series.patternId)).settling,
      said: sayOf(series),
      dates: (await readDates(c.tx, series.id)).map((d) => shownDate(d, c.now)),
    };
  },

  'PATCH /api/series/:id': async (c) => {
    const series = await seriesToChange(c, c.params.id);
    await demandLetters(c, series, c.body.settle);
    return changeSeries(c, c, c.params.id, c.body, false);
  },

  'POST /api/series/:id/what-if': async (c) => {
    await inTransaction(c.app, c.actor, (w) => seriesToChange({ ...c, tx: w.tx }, c.params.id));
    return whatIf(c.app, c.actor, (w) =>
      changeSeries(w, c, c.params.id, { ...c.body, words: c.body.words || unsaid }, true),
    );
  },

  'POST /api/series/:id/call-off': async (c) => {
    const series = await seriesToChange(c, c.params.id);
    await demandLetters(c, series, c.body.settle);
    return callOffSeries(c, c, c.params.id, c.body, false);
  },

  'POST /api/series/:id/call-off/what-if': async (c) => {
    const series = await inTransaction(c.app, c.actor, (w) =>
      seriesToChange({ ...c, tx: w.tx }, c.params.id),
    );
    return whatIf(c.app, c.actor, (w) => callOffSeries(w, c, series.id, { ...c.body, words: unsaid }, true));
  },

  'GET /api/events/:id/series': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'see');
    if (!event.seriesId || !event.slot) return null;
    const series = await readSeries(c.tx, event.seriesId);
    const pattern = await readPattern(c.tx, series.patternId);
    const plan = await readPlan(c.tx, event);
    const by = planAround(pattern, series, event.slot, plan.startsLocal);
    return {
      id: series.id,
      said: sayOf(series),
      slot: event.slot,
      dates: (await readDates(c.tx, series.id)).map((d) => shownDate(d, c.now)),
      differs: differing(pattern, series, event.slot, plan).map((field) => ({
        field,
        here: plan[field],
        series: by[field],
        carries: carries(field),
        rows: rowsApart(by, plan, field),
      })),
    };
  },

  'POST /api/events/:id/series/carry': async (c) => {
    const event = await dateToChange(c, c.params.id);
    if (event.seriesId) await demandLetters(c, await readSeries(c.tx, event.seriesId), c.body.settle);
    return carryFields(c, c, event, c.body, false);
  },

  'POST /api/events/:id/series/carry/what-if': async (c) => {
    const { app, actor, params, body } = c;
    return whatIf(app, actor, async (w) => {
      const event = await dateToChange({ ...c, tx: w.tx }, params.id);
      return carryFields(w, c, event, body, true);
    });
  },

  'POST /api/events/:id/series/back': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    await putBack(c, event, c.body.fields, c.body.rows ?? null);
    return { done: true };
  },

  'POST /api/events/:id/series/leave': async (c) => {
    await leave(c, await dateToChange(c, c.params.id));
    return { done: true };
  },

  'GET /api/events/:id/messages/template': async (c) =>
    besideTemplate(c, await eventFor(c, c.params.id, 'messages', 'see')),

  'POST /api/events/:id/messages/template': async (c) => {
    await takeFromTemplate(c, await eventFor(c, c.params.id, 'plan', 'change', true), c.body.rows);
    return { done: true };
  },
};
