import type { CalendarDate, Instant, Zone } from '#core/time/clock.ts';
import { sayConsequence } from '#core/time/distance.ts';
import { sayTime, sayZone } from '#core/time/say.ts';
import { instantOf, isZone, laterInstantOf, meaningOf, shiftWall } from '#core/time/wallTime.ts';
import type { Wrong } from '#core/words/problems.ts';
import { say, words } from '#core/words/spoken.ts';
import type { EventTimes } from './dated.ts';

/** When an event is, as somebody types it. Nothing is filled in by default. */
export interface Schedule extends EventTimes {
  zone: Zone;
  /** Of times that a clock change repeats: those meant the second time round. */
  secondTime?: readonly (keyof EventTimes)[];
}

/** The instant of one of its times; null without it. */
export function instantIn(schedule: Schedule, field: keyof EventTimes): Instant | null {
  const wall = schedule[field];
  if (!wall) return null;
  return schedule.secondTime?.includes(field)
    ? laterInstantOf(wall, schedule.zone)
    : instantOf(wall, schedule.zone);
}

export interface ScheduleProblem extends Wrong {
  path: keyof Schedule;
}

/** Says everything that is wrong with a schedule. A wall time that a clock change removes is named with its neighbours. */
export function problemsWithSchedule(schedule: Schedule): ScheduleProblem[] {
  const { startsLocal, endsLocal, doorsLocal, registrationClosesLocal, zone } = schedule;
  if (!isZone(zone)) return [{ path: 'zone', code: 'not-a-zone', params: { zone } }];
  const problems: ScheduleProblem[] = [];
  for (const [path, wall] of [
    ['startsLocal', startsLocal],
    ['endsLocal', endsLocal],
    ['doorsLocal', doorsLocal],
    ['registrationClosesLocal', registrationClosesLocal],
  ] as const) {
    if (!wall) continue;
    const meaning = meaningOf(wall, zone);
    if (meaning.kind === 'gap')
      problems.push({
        path,
        code: 'time-removed',
        params: {
          time: sayTime(wall),
          zone: sayZone(zone),
          before: sayTime(meaning.before),
          after: sayTime(meaning.after),
        },
      });
  }
  if (endsLocal && !startsLocal) problems.push({ path: 'endsLocal', code: 'start-first' });
  if (doorsLocal && !startsLocal) problems.push({ path: 'doorsLocal', code: 'start-first' });
  if (startsLocal && endsLocal && endsLocal <= startsLocal) {
    const nextDay = endsLocal.slice(0, 10) === startsLocal.slice(0, 10);
    problems.push({
      path: 'endsLocal',
      ...(nextDay
        ? { code: 'end-next-day', params: { time: sayTime(endsLocal) } }
        : { code: 'end-before-start' }),
    });
  }
  // By the clock on the wall it is after the start, and yet before it: the night the clocks go back.
  if (startsLocal && endsLocal && endsLocal > startsLocal && !problems.length) {
    const [starts, ends] = [instantIn(schedule, 'startsLocal')!, instantIn(schedule, 'endsLocal')!];
    if (ends <= starts) problems.push({ path: 'endsLocal', code: 'end-before-start' });
  }
  if (startsLocal && endsLocal && endsLocal > shiftWall(startsLocal, { days: 31 }))
    problems.push({ path: 'endsLocal', code: 'end-far' });
  if (
    startsLocal &&
    doorsLocal &&
    (doorsLocal > startsLocal || doorsLocal < shiftWall(startsLocal, { days: -1 }))
  )
    problems.push({
      path: 'doorsLocal',
      code: 'doors-late',
    });
  if (registrationClosesLocal && !startsLocal)
    problems.push({ path: 'registrationClosesLocal', code: 'start-first' });
  if (startsLocal && registrationClosesLocal && registrationClosesLocal > (endsLocal ?? startsLocal))
    problems.push({
      path: 'registrationClosesLocal',
      code: endsLocal ? 'closes-after-end' : 'closes-after-start',
    });
  return problems;
}

/** Remarks a schedule deserves although nothing is wrong: a repeated hour, a date that has passed, the weekday. */
export function remarksOnSchedule(schedule: Schedule, today: CalendarDate): string[] {
  const { startsLocal, endsLocal, zone } = schedule;
  if (!startsLocal || !isZone(zone)) return [];
  const { times } = words();
  const remarks: string[] = [];
  const date = startsLocal.slice(0, 10);
  remarks.push(
    date < today ? say(times.passed, { day: sayConsequence(date, today) }) : sayConsequence(date, today),
  );
  if (
    endsLocal &&
    endsLocal > startsLocal &&
    endsLocal.slice(0, 10) === shiftWall(startsLocal, { days: 1 }).slice(0, 10)
  )
    remarks.push(say(times['ends next day'], { time: sayTime(endsLocal) }));
  for (const wall of [startsLocal, endsLocal])
    if (wall && meaningOf(wall, zone).kind === 'repeated')
      remarks.push(say(times['comes twice'], { time: sayTime(wall) }));
  return remarks;
}
