import type { EventFiguresShown } from '#contract/archive.ts';
import { type EventReach, factsOf } from '#core/access/stages.ts';
import { seatFigures } from '#core/archive/figures.ts';
import type { Measure } from '#core/outcomes/measure.ts';
import { totalOf } from '#core/outcomes/tally.ts';
import type { Asker } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { measuresById } from '../outcomes/measures.ts';
import { readCounted } from '../outcomes/tallyStore.ts';
import type { Opened } from './archive.ts';
import { readAround, readHours, readMembers, readMoney, readRecommend } from './store.ts';

/** Everything some events came to, in the order they are asked for; those that are not in the archive are left out. */
export async function figuresOf(
  c: Asker & { tx: Queries },
  { archive, visits }: Opened,
  ids: readonly string[],
): Promise<EventFiguresShown[]> {
  const { tx } = c;
  const places = new Map(archive.events.map((e, at) => [e.id, at]));
  const here = ids.filter((id) => places.has(id));
  const around = new Map((await readAround(tx, here)).map((a) => [a.id, a]));
  const money = await moneyOf(tx, here);
  const hours = new Map((await readHours(tx, here)).map((h) => [h.eventId, h.hours]));
  const members = new Map((await readMembers(tx, here)).map((m) => [m.eventId, m.members]));
  const scores = new Map((await readRecommend(tx, here)).map(({ eventId, ...s }) => [eventId, s]));
  const outcomes = await outcomesOf(tx, here);
  return here.map((id) => {
    const at = places.get(id)!;
    const event = archive.events[at]!;
    const known = around.get(id)!;
    return {
      id,
      title: event.title,
      on: event.startsLocal.slice(0, 10),
      over: event.over,
      unit: known.unit,
      kind: event.kind,
      capacity: event.capacity,
      ...seatFigures(archive, visits, at),
      members: members.get(id) ?? 0,
      money: seesMoney(c, known) ? (money.get(id) ?? noMoney) : null,
      currency: known.currency,
      hours: hours.get(id) ?? 0,
      recommend: scores.get(id) ?? null,
      outcomes: outcomes.get(id) ?? [],
    };
  });
}

const seesMoney = (c: Asker, reach: EventReach): boolean => factsOf(c.staff, reach, c.now).has('money');

type Money = NonNullable<EventFiguresShown['money']>;

export const noMoney: Money = { seats: 0, extras: 0, gifts: 0, costs: 0 };

/** What came in and was spent by kind, event by event, as the books have it: earned is a credit there, below nought. */
export async function moneyOf(tx: Queries, ids: readonly string[]): Promise<Map<string, Money>> {
  const found = new Map<string, Money>();
  for (const { eventId, account, amount } of await readMoney(tx, ids)) {
    const of = found.get(eventId) ?? { ...noMoney };
    found.set(eventId, of);
    if (account === 'extras') of.extras -= amount;
    else if (account === 'gifts') of.gifts -= amount;
    else if (account === 'costs' || account === 'fees' || account === 'written off') of.costs += amount;
    else of.seats -= amount;
  }
  return found;
}

/** What was counted at each event, measure by measure. */
async function outcomesOf(
  tx: Queries,
  ids: readonly string[],
): Promise<Map<string, EventFiguresShown['outcomes']>> {
  const tallies = await readCounted(tx, ids);
  const measures = new Map(
    (await measuresById(tx, [...new Set(tallies.map((t) => t.measureId))])).map((m) => [m.id, m]),
  );
  const byEvent = new Map<string, Map<string, typeof tallies>>();
  for (const t of tallies) {
    const of = byEvent.get(t.eventId) ?? new Map<string, typeof tallies>();
    byEvent.set(t.eventId, of);
    of.set(t.measureId, [...(of.get(t.measureId) ?? []), t]);
  }
  return new Map(
    [...byEvent].map(([eventId, of]) => [
      eventId,
      [...of].flatMap(([measureId, some]) => {
        const measure = measures.get(measureId);
        const total = measure ? totalOf(measure.kind, some) : null;
        return measure && total !== null ? [shown(measure, total)] : [];
      }),
    ]),
  );
}

export const shown = ({ id, name, unit, kind, direction, decimals }: Measure, total: number) => ({
  measureId: id,
  name,
  unit,
  kind,
  direction,
  decimals,
  total,
});
