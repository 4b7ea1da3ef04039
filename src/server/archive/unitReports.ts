import type { z } from 'zod';
import type { archiveContract } from '#contract/archive.ts';
import { seesStageEverywhere } from '#core/access/stages.ts';
import { unitYears } from '#core/archive/units.ts';
import { totalOf } from '#core/outcomes/tally.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { measuresById } from '../outcomes/measures.ts';
import { readCounted } from '../outcomes/tallyStore.ts';
import { theOrganization } from '../staff/store.ts';
import type { Opened } from './archive.ts';
import { moneyOf, noMoney, shown } from './eventFigures.ts';
import { readHours, readUnits } from './store.ts';

type Report = z.output<(typeof archiveContract)['GET /api/records/units']['response']>[number];

/** What the events of each unit came to, year by year. Whoever leads one unit reads of that one. */
export async function unitReports(
  c: Asker & { tx: Queries },
  { archive, visits }: Opened,
): Promise<Report[]> {
  const everything = seesStageEverywhere(c.staff, 'wrap-up');
  const rows = unitYears(archive, visits).filter(
    (r) => everything || (r.unitId && r.unitId === c.staff.unitId),
  );
  const ids = rows.flatMap((r) => r.eventIds);
  const units = new Map((await readUnits(c.tx)).map((u) => [u.id, u.name]));
  const hours = new Map((await readHours(c.tx, ids)).map((h) => [h.eventId, h.hours]));
  const money = await moneyOf(c.tx, ids);
  const tallies = await readCounted(c.tx, ids);
  const measures = await measuresById(c.tx, [...new Set(tallies.map((t) => t.measureId))]);
  const { currency } = await theOrganization(c.tx);
  const together = (eventIds: readonly string[]) =>
    eventIds
      .map((id) => money.get(id) ?? noMoney)
      .reduce(
        (a, b) => ({
          seats: a.seats + b.seats,
          extras: a.extras + b.extras,
          gifts: a.gifts + b.gifts,
          costs: a.costs + b.costs,
        }),
        noMoney,
      );
  return rows.map(({ eventIds, ...row }) => {
    const of = new Set(eventIds);
    const counted = tallies.filter((t) => of.has(t.eventId));
    return {
      ...row,
      unit: (row.unitId && units.get(row.unitId)) ?? '',
      hours: eventIds.reduce((n, id) => n + (hours.get(id) ?? 0), 0),
      money: together(eventIds),
      currency,
      outcomes: measures.flatMap((m) => {
        const own = counted.filter((t) => t.measureId === m.id);
        const total = own.length ? totalOf(m.kind, own) : null;
        return total === null ? [] : [shown(m, total)];
      }),
    };
  });
}
