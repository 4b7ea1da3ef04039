import type { z } from 'zod';
import type { initiativesContract } from '#contract/initiatives.ts';
import { stagesOf } from '#core/access/stages.ts';
import { byDay, standingByDay, trendOf } from '#core/outcomes/days.ts';
import type { Measure } from '#core/outcomes/measure.ts';
import { type Tally, totalOf } from '#core/outcomes/tally.ts';
import type { DayFigure, Goal } from '#core/outcomes/trend.ts';
import type { CalendarDate, Zone } from '#core/time/clock.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import { followLink, liveLink, openAnew, stopLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { type FieldProblem, invalid, notFound, refused } from '../http/problem.ts';
import { demandBooks } from '../money/access.ts';
import { theOrganization } from '../staff/store.ts';
import {
  type GoalRow,
  isFund,
  readEventsOf,
  readGiftsOf,
  readGoals,
  readHoursOf,
  readInitiative,
  readInitiatives,
  readTalliesOf,
} from './initiativeStore.ts';
import { measuresById } from './measures.ts';

type GoalShown = z.output<
  (typeof initiativesContract)['GET /api/initiatives']['response']
>[number]['goals'][number];

/** What a goal counts, as a measure is. */
type Counted = Pick<Measure, 'name' | 'unit' | 'kind' | 'direction' | 'decimals'>;

const hours: Counted = {
  name: { en: 'Volunteer hours', fr: 'Heures de bénévolat' },
  unit: { en: 'h' },
  kind: 'sum',
  direction: 'more',
  decimals: 1,
};
const gifts = (currency: string): Counted => ({
  name: { en: 'Gifts', fr: 'Dons' },
  unit: { en: currency },
  kind: 'sum',
  direction: 'more',
  decimals: 0,
});

/** A figure on a day, of an event where it is of one. */
interface Brought extends Tally {
  eventId: string | null;
}

/** What came in for an initiative towards one goal, as tallies. */
async function broughtTo(
  tx: Queries,
  initiativeId: string,
  goal: Pick<GoalRow, 'of' | 'measureId'>,
  currency: string,
): Promise<Brought[]> {
  const plain = (r: { eventId: string | null; at: string; value: number }): Brought => ({
    eventId: r.eventId,
    measureId: goal.of,
    value: r.value,
    thing: '',
    countedAt: r.at,
    enteredAt: r.at,
  });
  if (goal.of === 'hours') return (await readHoursOf(tx, initiativeId)).map(plain);
  if (goal.of === 'gifts') return (await readGiftsOf(tx, initiativeId, currency)).map(plain);
  return readTalliesOf(tx, initiativeId, goal.measureId!);
}

/** A goal with what came in for it, by day and by event. */
interface GoalStanding {
  shown: GoalShown;
  days: DayFigure[];
  brought: readonly Brought[];
  kind: Measure['kind'];
}

interface Around {
  today: CalendarDate;
  zone: Zone;
  currency: string;
}

async function standingOf(
  tx: Queries,
  goal: GoalRow,
  { today, zone, currency }: Around,
): Promise<GoalStanding> {
  const counted =
    goal.of === 'hours'
      ? hours
      : goal.of === 'gifts'
        ? gifts(currency)
        : (await measuresById(tx, [goal.measureId!]))[0]!;
  const { name, unit, kind, direction, decimals } = counted;
  const wanted: Goal = { direction, target: goal.target, from: goal.from, by: goal.by };
  const brought = (await broughtTo(tx, goal.initiativeId, goal, currency)).filter((b) => {
    const on = dateOf(b.countedAt, zone);
    return on >= goal.from && on <= goal.by;
  });
  const days = byDay(kind, brought, zone);
  const { id, of, measureId, target, from, by } = goal;
  return {
    shown: {
      ...{ id, of, measureId, name, unit, kind, direction, decimals, target, from, by },
      ...trendOf(kind, wanted, days, today),
    },
    days: standingByDay(kind, wanted, days, today),
    brought,
    kind,
  };
}

const around = async ({ tx, now }: Pick<Work, 'tx' | 'now'>): Promise<Around> => {
  const { zone, currency } = await theOrganization(tx);
  return { today: dateOf(now, zone), zone, currency };
};

/** The goals of an initiative, as they stand. */
export async function goalsOf(w: Pick<Work, 'tx' | 'now'>, initiativeId: string): Promise<GoalShown[]> {
  const at = await around(w);
  const shown: GoalShown[] = [];
  for (const goal of await readGoals(w.tx, [initiativeId]))
    shown.push((await standingOf(w.tx, goal, at)).shown);
  return shown;
}

/** Where the progress of an initiative is shown for other pages; null where it is not. */
async function widgetOf(w: Pick<Work, 'app' | 'tx'>, id: string): Promise<string | null> {
  const link = await liveLink(w, 'widget', id);
  return link && `${w.app.origin}/widget/${link}`;
}

/** What is wrong with goals: one whose day has passed cannot be set any more, one that was set stays as it was. */
async function problemsWithGoals(
  tx: Queries,
  before: readonly GoalRow[],
  goals: readonly {
    id: string;
    by: CalendarDate;
    from: CalendarDate;
    target: number;
    measureId: string | null;
  }[],
  today: CalendarDate,
): Promise<FieldProblem[]> {
  const there = new Set(
    (
      await measuresById(
        tx,
        goals.flatMap((g) => g.measureId ?? []),
      )
    ).map((m) => m.id),
  );
  return goals.flatMap((g, at) => {
    const was = before.find((b) => b.id === g.id);
    const same = was && was.by === g.by && was.from === g.from && was.target === g.target;
    return [
      ...(g.by <= today && !same ? [wrongAt(`goals.${at}.by`, 'goal-passed')] : []),
      ...(g.measureId && !there.has(g.measureId)
        ? [wrongAt(`goals.${at}.measureId`, 'thing-gone', { what: 'measure' })]
        : []),
    ];
  });
}

/** The progress of an initiative as the public sees it; throws 404 where it is not shown. */
export async function progressOf(
  w: Pick<Work, 'tx' | 'now'>,
  token: string,
): Promise<z.output<(typeof initiativesContract)['GET /api/public/initiatives/:token']['response']>> {
  const id = await followLink(w.tx, 'widget', token);
  const initiative = id && (await readInitiative(w.tx, id));
  if (!initiative) throw notFound('This page');
  const at = await around(w);
  const goals = [];
  for (const goal of await readGoals(w.tx, [initiative.id])) {
    const { of, name, unit, kind, direction, decimals, target, by, state, value } = (
      await standingOf(w.tx, goal, at)
    ).shown;
    goals.push({ of, name, unit, kind, direction, decimals, target, by, state, value });
  }
  return { name: initiative.name, organization: (await theOrganization(w.tx)).name, goals };
}

export const initiativesHandlers: Handlers<typeof initiativesContract> = {
  'GET /api/initiatives': async (c) => {
    const rows = await readInitiatives(c.tx);
    const goals = await readGoals(
      c.tx,
      rows.map((r) => r.id),
    );
    const at = await around(c);
    const answered = [];
    for (const row of rows) {
      const shown: GoalShown[] = [];
      for (const goal of goals.filter((g) => g.initiativeId === row.id))
        shown.push((await standingOf(c.tx, goal, at)).shown);
      answered.push({ ...row, goals: shown });
    }
    return answered;
  },

  'GET /api/initiatives/:id': async (c) => {
    const initiative = await readInitiative(c.tx, c.params.id);
    if (!initiative) throw notFound('This initiative');
    const at = await around(c);
    const standing: GoalStanding[] = [];
    for (const goal of await readGoals(c.tx, [initiative.id]))
      standing.push(await standingOf(c.tx, goal, at));
    // What one event brought is told to who sees its wrap-up; what all of them did, to everybody here.
    const events = (await readEventsOf(c.tx, initiative.id)).filter((e) =>
      stagesOf(c.staff, e, c.now).has('wrap-up'),
    );
    return {
      ...initiative,
      today: at.today,
      currency: at.currency,
      goals: standing.map(({ shown, days }) => ({ ...shown, days })),
      events: events.map(({ id, title, startsAt }) => ({
        id,
        title,
        on: startsAt && dateOf(startsAt, at.zone),
        brought: Object.fromEntries(
          standing.map(({ shown, kind, brought }) => {
            const own = brought.filter((b) => b.eventId === id);
            return [shown.id, own.length ? totalOf(kind, own) : null];
          }),
        ),
      })),
      widget: await widgetOf(c, initiative.id),
    };
  },

  'PUT /api/initiatives/:id': async (c) => {
    await demandBooks(c);
    const { about, fundId, goals, version } = c.body;
    const initiative = await readInitiative(c.tx, c.params.id, true);
    if (!initiative) throw notFound('This initiative');
    if (initiative.version !== version) throw refused('initiative-changed');
    const before = await readGoals(c.tx, [initiative.id]);
    const { today } = await around(c);
    const wrong = [
      ...(fundId && !(await isFund(c.tx, fundId)) ? [wrongAt('fundId', 'thing-gone', { what: 'fund' })] : []),
      ...(await problemsWithGoals(c.tx, before, goals, today)),
    ];
    if (wrong.length) throw invalid(wrong);
    await c.tx.query('delete from initiative_goals where initiative_id = $1', [initiative.id]);
    for (const [position, { from, by, ...goal }] of goals.entries())
      await insert(c.tx, 'initiative_goals', {
        ...goal,
        measureId: goal.of === 'measure' ? goal.measureId : null,
        initiativeId: initiative.id,
        fromOn: from,
        byOn: by,
        position,
      });
    await update(c.tx, 'initiatives', initiative.id, { about, fundId, version: version + 1 });
    await record(c, 'initiative changed', {
      initiativeId: initiative.id,
      name: initiative.name,
      how: 'changed an initiative',
    });
    return { done: true };
  },

  'PUT /api/initiatives/:id/widget': async (c) => {
    await demandBooks(c);
    const initiative = await readInitiative(c.tx, c.params.id, true);
    if (!initiative) throw notFound('This initiative');
    const was = await widgetOf(c, initiative.id);
    await (c.body.on ? openAnew : stopLink)(c, 'widget', initiative.id);
    if (c.body.on !== (was !== null))
      await record(c, 'initiative changed', {
        initiativeId: initiative.id,
        name: initiative.name,
        how: c.body.on
          ? 'shows an initiative on other pages'
          : 'stopped showing an initiative on other pages',
      });
    return { widget: await widgetOf(c, initiative.id) };
  },

  'GET /api/public/initiatives/:token': async (c) => progressOf(c, c.params.token),
};
