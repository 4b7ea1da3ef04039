import { arrivalCurve, type Before, fewestArrivals } from '#core/doors/arrivals.ts';
import { hasCome } from '#core/doors/attendance.ts';
import { dayAt } from '#core/doors/days.ts';
import { limitsOf } from '#core/registration/capacity.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { isMinor } from '#core/waivers/needs.ts';
import type { Work } from '../app/app.ts';
import type { EventRow } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { arrivalsBefore, arrivalsByDoor } from './attendanceStore.ts';
import { doorDaysOf } from './days.ts';
import { doorRows } from './list.ts';
import { readInside } from './store.ts';

/** How long before the start the curve begins where the doors say no time, in minutes. */
const usuallyBefore = 60;

/** How people came before: to events of the series, else of the kind, else to all; the first of which enough is known. */
async function basisOf({ tx }: Pick<Work, 'tx'>, event: EventRow) {
  const { startsAt } = event;
  if (!startsAt) return null;
  for (const of of ['series', 'kind', 'all'] as const) {
    if (of === 'series' && !event.seriesId) continue;
    const { events, seats, offsets } = await arrivalsBefore(tx, { ...event, startsAt }, of);
    if (offsets.length >= fewestArrivals)
      return { of, events, arrivals: offsets.length, before: { seats, offsets } };
  }
  return null;
}

/** How the doors of an event stand now: how many are inside against what it holds, by door, and how arrivals go against what was to be expected. */
export async function liveOf(w: Pick<Work, 'tx' | 'app' | 'now'>, event: EventRow) {
  const { tx, now } = w;
  const days = await doorDaysOf(tx, event);
  const today = dayAt(days, now);
  const { ageOfMajority } = await theOrganization(tx);
  const rows = await doorRows(w, event, { now });
  const people = await readInside(tx, event.id);
  const date = event.startsLocal?.slice(0, 10) ?? now.slice(0, 10);
  const basis = today?.day === 1 ? await basisOf(w, event) : null;
  const nothing: Before = { offsets: [], seats: 0 };
  const opens =
    today?.day === 1 && event.doorsAt ? event.doorsAt : today && plusMinutes(today.from, -usuallyBefore);
  const dawn = days.filter((d) => d.shut !== null && d.shut <= now).at(-1)?.shut ?? null;
  return {
    now,
    seats: rows.length,
    arrived: rows.filter((r) => hasCome(r.attendance)).length,
    expected: rows.filter((r) => r.attendance === 'expected').length,
    inside: people.filter((p) => p.part === 'seat').length,
    crew: people.filter((p) => p.part === 'crew').length,
    minors: people.filter((p) => p.part === 'seat' && isMinor(p, date, ageOfMajority)).length,
    capacity: limitsOf(event).capacity,
    most: event.doors.most,
    doors: await arrivalsByDoor(tx, event.id, dawn),
    curve:
      today && opens
        ? arrivalCurve({
            arrivals: rows.flatMap((r) => (hasCome(r.attendance) && r.arrivedAt ? [r.arrivedAt] : [])),
            startsAt: today.from,
            from: opens,
            until: today.until,
            now,
            seats: rows.length,
            before: basis?.before ?? nothing,
          })
        : [],
    basis: basis && { of: basis.of, events: basis.events, arrivals: basis.arrivals },
    closedAt: event.absencesAt,
  };
}
