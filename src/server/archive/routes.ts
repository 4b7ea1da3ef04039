import type { archiveContract } from '#contract/archive.ts';
import { seesStageEverywhere, stagesOf } from '#core/access/stages.ts';
import { differsMost } from '#core/archive/comparing.ts';
import { conversionsOf } from '#core/archive/conversions.ts';
import { driftingAway } from '#core/archive/drifting.ts';
import { overlapOf } from '#core/archive/overlap.ts';
import { pathsOf } from '#core/archive/paths.ts';
import { returnsOf } from '#core/archive/returns.ts';
import {
  sayConversion,
  sayDateKey,
  sayDates,
  sayDiffers,
  sayDrifting,
  sayOverlap,
  sayReturns,
  saySeries,
  saySteps,
  sayTiming,
} from '#core/archive/saying.ts';
import { seriesOf } from '#core/archive/series.ts';
import { bestDates, timingOf } from '#core/archive/timing.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { say, words } from '#core/words/spoken.ts';
import type { App, Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { openArchive } from './archive.ts';
import { figuresOf } from './eventFigures.ts';
import { readAround, readPeople, readUnits } from './store.ts';
import { unitReports } from './unitReports.ts';

const todayOf = async ({ tx, now }: { tx: Queries; now: string }): Promise<string> =>
  dateOf(now, (await theOrganization(tx)).zone);

/** The events somebody asks for, each of which they see the wrap-up of; throws 403 or 404. */
async function demandSeen(c: Asker & { app: App; tx: Queries }, ids: readonly string[]): Promise<void> {
  const found = await readAround(c.tx, ids);
  if (found.length < ids.length) throw notFound('This event');
  if (found.some((e) => !stagesOf(c.staff, e, c.now).has('wrap-up')))
    throw refused('not-your-event', {}, 403);
}

/** Refuses whoever belongs to one unit what is told of all of them together. */
function demandWhole({ staff }: Asker): void {
  if (!seesStageEverywhere(staff, 'wrap-up') && !seesStageEverywhere(staff, 'crew'))
    throw refused('of-every-unit', {}, 403);
}

/** Most people a list shows at once. */
const mostShown = 500;

export const archiveHandlers: Handlers<typeof archiveContract> = {
  'GET /api/records/events': async (c) => {
    await demandSeen(c, c.query.ids);
    const events = await figuresOf(c, await openArchive(c), c.query.ids);
    // Two of the same name are told apart by their year.
    const titles = events.map((e) => e.title);
    const found = differsMost(
      events
        .filter((e) => e.over)
        .map((e) =>
          titles.filter((t) => t === e.title).length > 1
            ? { ...e, title: `${e.title} ${e.on.slice(0, 4)}` }
            : e,
        ),
    );
    return {
      events,
      differs: found.length
        ? found.map((d) => sayDiffers(d, events.find((e) => e.id === d.eventId)!.currency))
        : events.length > 1
          ? [say(words().archive['nothing differs'])]
          : [],
    };
  },

  'GET /api/records/series': async (c) => {
    demandWhole(c);
    const { archive, visits } = await openArchive(c);
    const units = new Map((await readUnits(c.tx)).map((u) => [u.id, u.name]));
    return seriesOf(archive, visits).map(({ unitId, ...series }) => ({
      ...series,
      unit: (unitId && units.get(unitId)) ?? null,
      finding: saySeries(series.times.map((t) => t.came)),
    }));
  },

  'GET /api/records/returns': async (c) => {
    demandWhole(c);
    const { archive, visits } = await openArchive(c);
    const found = returnsOf(archive, visits, await todayOf(c));
    return { ...found, finding: sayReturns(found) };
  },

  'GET /api/records/paths': async (c) => {
    demandWhole(c);
    const { archive, visits } = await openArchive(c);
    const found = pathsOf(archive, visits);
    return { ...found, finding: saySteps(found.steps) };
  },

  'GET /api/records/audiences': async (c) => {
    demandWhole(c);
    const { archive, visits } = await openArchive(c);
    const { audiences, shared } = overlapOf(archive, visits);
    return {
      audiences,
      shared,
      finding: sayOverlap(audiences, shared),
      conversions: conversionsOf(archive, visits, await todayOf(c)).map((found) => ({
        ...found,
        said: sayConversion(found),
      })),
    };
  },

  'GET /api/records/drifting': async (c) => {
    demandWhole(c);
    const { archive, visits, idOf } = await openArchive(c);
    const all = driftingAway(archive, visits, await todayOf(c));
    const people = new Map(
      (
        await readPeople(
          c.tx,
          all.map((d) => idOf(d.person)),
        )
      ).map((p) => [p.id, p]),
    );
    const told = all.flatMap((d) => {
      const person = people.get(idOf(d.person));
      const last = archive.events[d.lastEvent]!;
      return person
        ? [
            {
              ...person,
              times: d.times,
              lastOn: last.startsLocal.slice(0, 10),
              lastEvent: last.title,
              why: sayDrifting(d),
            },
          ]
        : [];
    });
    return {
      all: told.length,
      reachable: told.filter((p) => !p.quiet).length,
      people: told.slice(0, mostShown),
    };
  },

  'GET /api/records/timing': async (c) => {
    demandWhole(c);
    const { archive } = await openArchive(c);
    const timing = timingOf(archive);
    const dates = bestDates(archive);
    return {
      timing,
      dates: dates.map((d) => ({ ...d, name: sayDateKey(d) })),
      findings: { timing: sayTiming(timing), dates: sayDates(dates) },
    };
  },

  'GET /api/records/units': async (c) => unitReports(c, await openArchive(c)),
};
