import type { CalendarDate, Zone } from '#core/time/clock.ts';
import { sayConsequence, sayTime, sayZone } from '#core/time/say.ts';
import { isZone, meaningOf, shiftWall } from '#core/time/wallTime.ts';
import type { EventTimes } from './dated.ts';

/** When an event is, as somebody types it. Nothing is filled in by default. */
export interface Schedule extends EventTimes {
  zone: Zone;
}

export interface ScheduleProblem {
  path: keyof Schedule;
  message: string;
}

/** Says everything that is wrong with a schedule. A wall time that a clock change removes is named with its neighbours. */
export function problemsWithSchedule(schedule: Schedule): ScheduleProblem[] {
  const { startsLocal, endsLocal, doorsLocal, registrationClosesLocal, zone } = schedule;
  if (!isZone(zone))
    return [{ path: 'zone', message: `“${zone}” is not a time zone; use a name like America/Halifax.` }];
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
        message: `${sayTime(wall)} does not exist on that date in ${sayZone(zone)}: the clocks go forward. ${sayTime(meaning.before)} or ${sayTime(meaning.after)}?`,
      });
  }
  if (endsLocal && !startsLocal) problems.push({ path: 'endsLocal', message: 'Give the start first.' });
  if (doorsLocal && !startsLocal) problems.push({ path: 'doorsLocal', message: 'Give the start first.' });
  if (startsLocal && endsLocal && endsLocal <= startsLocal) {
    const nextDay = endsLocal.slice(0, 10) === startsLocal.slice(0, 10);
    problems.push({
      path: 'endsLocal',
      message: nextDay
        ? `The end is before the start. If it ends at ${sayTime(endsLocal)} the next day, say so.`
        : 'The end is before the start.',
    });
  }
  if (startsLocal && endsLocal && endsLocal > shiftWall(startsLocal, { days: 31 }))
    problems.push({ path: 'endsLocal', message: 'The end is more than a month after the start.' });
  if (
    startsLocal &&
    doorsLocal &&
    (doorsLocal > startsLocal || doorsLocal < shiftWall(startsLocal, { days: -1 }))
  )
    problems.push({
      path: 'doorsLocal',
      message: 'Doors open before the start, on the same day or the evening before.',
    });
  if (registrationClosesLocal && !startsLocal)
    problems.push({ path: 'registrationClosesLocal', message: 'Give the start first.' });
  if (startsLocal && registrationClosesLocal && registrationClosesLocal > (endsLocal ?? startsLocal))
    problems.push({
      path: 'registrationClosesLocal',
      message: `Registration closes by the ${endsLocal ? 'end' : 'start'} of the event.`,
    });
  return problems;
}

/** Remarks a schedule deserves although nothing is wrong: a repeated hour, a date that has passed, the weekday. */
export function remarksOnSchedule(schedule: Schedule, today: CalendarDate): string[] {
  const { startsLocal, endsLocal, zone } = schedule;
  if (!startsLocal || !isZone(zone)) return [];
  const remarks: string[] = [];
  const date = startsLocal.slice(0, 10);
  remarks.push(
    date < today ? `This date has passed: ${sayConsequence(date, today)}.` : sayConsequence(date, today),
  );
  if (
    endsLocal &&
    endsLocal > startsLocal &&
    endsLocal.slice(0, 10) === shiftWall(startsLocal, { days: 1 }).slice(0, 10)
  )
    remarks.push(`ends at ${sayTime(endsLocal)} the next day`);
  for (const wall of [startsLocal, endsLocal])
    if (wall && meaningOf(wall, zone).kind === 'repeated')
      remarks.push(`${sayTime(wall)} comes twice that night because the clocks go back; the first is meant`);
  return remarks;
}
