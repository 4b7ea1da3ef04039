import type { EventFiguresShown } from '#contract/archive.ts';
import type { ArchiveEvent } from '#core/archive/archive.ts';
import { differentPeople } from '#core/archive/figures.ts';
import { totalOf } from '#core/outcomes/tally.ts';
import type { Outcome, ReportFigures, Totals } from '#core/reports/report.ts';
import { startingWords } from '#core/reports/starting.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import { dayNumber } from '#core/time/dayRuns.ts';
import { sayShortDate } from '#core/time/say.ts';
import type { App, Asker } from '../app/app.ts';
import { type Opened, openArchive } from '../archive/archive.ts';
import { figuresOf } from '../archive/eventFigures.ts';
import type { Queries } from '../db/database.ts';
import { goalsOf } from '../outcomes/initiatives.ts';
import { readLessons } from '../outcomes/lessonStore.ts';
import { measuresById } from '../outcomes/measures.ts';
import { readCounted } from '../outcomes/tallyStore.ts';
import { theOrganization } from '../staff/store.ts';
import {
  countCalledOff,
  type ReportRow,
  readInitiativesOf,
  readPlanned,
  readPlannedOutcomes,
} from './store.ts';

type Asking = Asker & { app: App; tx: Queries };

/** A report with everything it is put together from. */
export interface Assembled {
  figures: ReportFigures;
  events: EventFiguresShown[];
  /** What stands beside it as the time before. */
  beforeSaid: string;
  /** What the time of the report itself is called. */
  nowSaid: string;
}

/** Which events a report is about, and which it is held against: the same stretch of time a year before, or the last time. */
function eventsOf(
  { archive }: Opened,
  report: ReportRow,
): { now: ArchiveEvent[]; before: ArchiveEvent[]; beforeSaid: string } {
  const ofUnit = (e: ArchiveEvent) => report.unitId === null || e.unitId === report.unitId;
  if (report.eventId) {
    const event = archive.events.find((e) => e.id === report.eventId);
    const last =
      event && archive.events.filter((e) => e.kind === event.kind && e.day < event.day && e.over).at(-1);
    return {
      now: event ? [event] : [],
      before: last ? [last] : [],
      beforeSaid: last ? sayDay(last.startsLocal.slice(0, 10)) : '',
    };
  }
  const [from, until] = [report.from!, report.until!];
  const length = daysBetween(from, until);
  const between = (first: string, last: string) =>
    archive.events.filter(
      (e) => ofUnit(e) && e.over && e.day >= dayNumber(first) && e.day <= dayNumber(last),
    );
  // The same days a year back where it fits into one, else as many days before it.
  const back = (on: string) => (length < 366 ? yearBefore(on) : shiftDate(on, -length - 1));
  const [earlier, later] = [back(from), back(until)];
  return {
    now: between(from, until),
    before: between(earlier, later),
    beforeSaid: saySpan(earlier, later),
  };
}

/** The same day a year before; of a leap day the last of February. */
const yearBefore = (on: string): string =>
  `${Number(on.slice(0, 4)) - 1}${on.slice(4) === '-02-29' ? '-02-28' : on.slice(4)}`;

const sayDay = (on: string): string => `${sayShortDate(on)} ${on.slice(0, 4)}`;

/** A stretch of days: a whole year by its number. */
const saySpan = (from: string, until: string): string =>
  from === until
    ? sayDay(from)
    : from.endsWith('-01-01') && until === `${from.slice(0, 4)}-12-31`
      ? from.slice(0, 4)
      : `${sayDay(from)} – ${sayDay(until)}`;

/** What a report is about, in words. */
export const sayAbout = ({ event, from, until, unit }: ReportRow): string =>
  event ?? [saySpan(from!, until!), unit].filter(Boolean).join(', ');

export async function assemble(c: Asking, report: ReportRow): Promise<Assembled> {
  const { tx } = c;
  const opened = await openArchive(c);
  const { now, before, beforeSaid } = eventsOf(opened, report);
  const events = await figuresOf(
    c,
    opened,
    now.map((e) => e.id),
  );
  const earlier = await figuresOf(
    c,
    opened,
    before.map((e) => e.id),
  );
  const from = report.from ?? events[0]?.on ?? '';
  const until = report.until ?? from;
  const calledOff = report.eventId ? 0 : await countCalledOff(tx, { from, until, unitId: report.unitId });
  const ids = now.map((e) => e.id);
  const initiatives = [];
  for (const initiative of await readInitiativesOf(tx, ids))
    initiatives.push({ name: initiative.name, goals: await goalsOf(c, initiative.id) });
  const lessons = report.eventId ? await readLessons(tx, report.eventId) : [];
  const figures: ReportFigures = {
    event: report.event,
    from,
    until,
    currency: (await theOrganization(tx)).currency as ReportFigures['currency'],
    now: together(opened, now, events, calledOff),
    before: earlier.length ? together(opened, before, earlier, 0) : null,
    planned: await readPlanned(tx, ids),
    outcomes: await outcomesOf(
      tx,
      ids,
      before.map((e) => e.id),
    ),
    initiatives,
    lessons: lessons.map((l) => l.text),
  };
  return { figures, events, beforeSaid, nowSaid: from ? saySpan(from, until) : '' };
}

/** Adds events up. People are counted once, whatever they came to. */
function together(
  { archive }: Opened,
  of: readonly ArchiveEvent[],
  events: readonly EventFiguresShown[],
  calledOff: number,
): Totals {
  const sum = (pick: (e: EventFiguresShown) => number) => events.reduce((n, e) => n + pick(e), 0);
  return {
    events: events.length,
    calledOff,
    registered: sum((e) => e.registered),
    came: sum((e) => e.came),
    missed: sum((e) => e.missed),
    firstTimers: sum((e) => e.firstTimers),
    people: differentPeople(archive, of),
    hours: sum((e) => e.hours),
    money: {
      seats: sum((e) => e.money?.seats ?? 0),
      extras: sum((e) => e.money?.extras ?? 0),
      gifts: sum((e) => e.money?.gifts ?? 0),
      costs: sum((e) => e.money?.costs ?? 0),
    },
    recommend: {
      would: sum((e) => e.recommend?.would ?? 0),
      not: sum((e) => e.recommend?.not ?? 0),
      n: sum((e) => e.recommend?.n ?? 0),
    },
  };
}

/** What was counted at some events, beside what was planned and what was counted at those before. */
async function outcomesOf(
  tx: Queries,
  ids: readonly string[],
  before: readonly string[],
): Promise<Outcome[]> {
  const planned = new Map((await readPlannedOutcomes(tx, ids)).map((p) => [p.measureId, p.planned]));
  const counted = await readCounted(tx, ids);
  const earlier = await readCounted(tx, before);
  const measures = await measuresById(tx, [
    ...new Set([...planned.keys(), ...counted.map((t) => t.measureId)]),
  ]);
  return measures
    .sort((a, b) => (a.name.en < b.name.en ? -1 : 1))
    .map(({ id, name, unit, kind, direction, decimals }) => {
      const of = (some: typeof counted) => some.filter((t) => t.measureId === id);
      return {
        measureId: id,
        ...{ name, unit, kind, direction, decimals },
        // What is measured again and again, and what is named, is not planned for several events by adding up.
        planned: kind === 'sum' || kind === 'count' || ids.length === 1 ? (planned.get(id) ?? null) : null,
        total: totalOf(kind, of(counted)) ?? 0,
        before: of(earlier).length ? totalOf(kind, of(earlier)) : null,
      };
    });
}

/** What a report says: as somebody wrote it, or from the figures. */
export const wordsOf = (report: ReportRow, figures: ReportFigures) => ({
  ...startingWords(figures),
  ...report.words,
});
