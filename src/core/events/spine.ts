import { endOf } from '#core/events/end.ts';
import type { CalendarDate, Instant, Zone } from '#core/time/clock.ts';
import { daysBetween } from '#core/time/dates.ts';
import { sayTime } from '#core/time/say.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import type { Params, Said } from '#core/words/filling.ts';
import type { PinCode } from '#core/words/pins.ts';
import { type Stage, stages } from './states.ts';

/** One dated thing about an event. */
export interface Pin {
  stage: Stage;
  at: Instant;
  code: PinCode;
  params: Params;
  late: boolean;
}

export interface SpineStage {
  stage: Stage;
  /** Past stages are done, the one that today falls into is current. */
  standing: 'done' | 'current' | 'ahead';
  pins: Pin[];
}

export interface Spine {
  stages: SpineStage[];
  /** How far today is from the day (“today, 30 days before”), with the stage and the number of its pins before it. */
  today: Said<PinCode> & { stage: Stage; afterPins: number };
}

/** What the spine is made of: the dated facts of one event. Null where there is none. */
export interface SpineFacts {
  zone: Zone;
  now: Instant;
  createdAt: Instant;
  createdFrom: string | null;
  startsAt: Instant | null;
  endsAt: Instant | null;
  doorsAt: Instant | null;
  lastDayToSubmit: Instant | null;
  submittedAt: Instant | null;
  submittedLate: boolean;
  clearance: { at: Instant; step: string; state: string }[];
  /** Steps that are still to be decided, on the day they are due. */
  toDecide: { at: Instant; step: string }[];
  /** Conditions that have a day. */
  conditions: { at: Instant; what: string; met: boolean }[];
  openedAt: Instant | null;
  registrationClosesAt: Instant | null;
  shiftsUnfilled: number;
  firstShiftAt: Instant | null;
  messages: { at: Instant; name: string; count: number; failed: boolean }[];
  surveyAt: Instant | null;
  surveyAnswers: number;
}

/** Puts everything dated about an event in order along its seven stages and marks today. */
export function spineOf(facts: SpineFacts): Spine {
  const { now, zone } = facts;
  const pins: Pin[] = [];
  const pin = (stage: Stage, at: Instant | null, code: PinCode, params: Params = {}, late = false) => {
    if (at) pins.push({ stage, at, code, params, late });
  };
  const time = (at: Instant) => sayTime(wallOf(at, zone));
  if (facts.createdFrom) pin('plan', facts.createdAt, 'begun-from', { event: facts.createdFrom });
  else pin('plan', facts.createdAt, 'begun');
  if (facts.submittedAt)
    pin('clearance', facts.submittedAt, facts.submittedLate ? 'sent-late' : 'sent', {}, facts.submittedLate);
  else if (facts.lastDayToSubmit)
    pin('clearance', facts.lastDayToSubmit, 'last-day-to-send', {}, facts.lastDayToSubmit < now);
  for (const { at, step, state } of facts.clearance) pin('clearance', at, 'decided', { step, state });
  for (const { at, step } of facts.toDecide) pin('clearance', at, 'step-due', { step }, at < now);
  for (const { at, what, met } of facts.conditions)
    pin('clearance', at, met ? 'condition-met' : 'condition-due', { what }, !met && at < now);
  pin('registration', facts.openedAt, 'opened');
  if (facts.registrationClosesAt)
    pin('registration', facts.registrationClosesAt, 'closes', { time: time(facts.registrationClosesAt) });
  if (facts.shiftsUnfilled > 0)
    pin('crew', facts.firstShiftAt, 'unfilled', { places: facts.shiftsUnfilled }, true);
  else pin('crew', facts.firstShiftAt, 'first-shift');
  for (const { at, name, count, failed } of facts.messages)
    pin('messages', at, 'message', { time: time(at), name, count }, failed);
  if (facts.doorsAt) pin('doors', facts.doorsAt, 'doors', { time: time(facts.doorsAt) });
  else if (facts.startsAt) pin('doors', facts.startsAt, 'starts', { time: time(facts.startsAt) });
  if (facts.surveyAnswers) pin('wrap-up', facts.surveyAt, 'survey-answers', { answers: facts.surveyAnswers });
  else pin('wrap-up', facts.surveyAt, 'survey');
  const byStage = stages.map((stage) => ({
    stage,
    pins: pins.filter((p) => p.stage === stage).sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0)),
  }));
  const current = currentStage(facts);
  const currentAt = stages.indexOf(current);
  return {
    stages: byStage.map((s, at) => ({
      ...s,
      standing: at < currentAt ? 'done' : at === currentAt ? 'current' : 'ahead',
    })),
    today: {
      ...(facts.startsAt
        ? todayFrom(dateOf(now, zone), dateOf(facts.startsAt, zone))
        : { code: 'today' as const }),
      stage: current,
      afterPins: byStage[currentAt]!.pins.filter((p) => p.at <= now).length,
    },
  };
}

/** The stage the event has reached: by what happened, then by the calendar. */
function currentStage(f: SpineFacts): Stage {
  const ended = endOf(f);
  if (ended && f.now >= ended) return 'wrap-up';
  const doors = f.doorsAt ?? f.startsAt;
  if (doors && f.now >= doors) return 'doors';
  if (f.openedAt) return 'registration';
  if (f.submittedAt) return 'clearance';
  return 'plan';
}

/** How today lies to the day of the event. */
function todayFrom(today: CalendarDate, date: CalendarDate): Said<PinCode> {
  const days = daysBetween(today, date);
  if (days === 0) return { code: 'the-day-itself' };
  if (days === 1) return { code: 'the-day-before' };
  if (days === -1) return { code: 'the-day-after' };
  return { code: days > 0 ? 'before' : 'after', params: { days: Math.abs(days) } };
}
