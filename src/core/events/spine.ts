import { endOf } from '#core/events/end.ts';
import type { Instant, Zone } from '#core/time/clock.ts';
import { sayDistance, sayTime } from '#core/time/say.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import { type Stage, stages } from './states.ts';

/** One dated thing about an event. */
export interface Pin {
  stage: Stage;
  at: Instant;
  text: string;
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
  /** "today, 30 days before", with the stage and the number of its pins that come before it. */
  today: { text: string; stage: Stage; afterPins: number } | null;
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
  clearance: { at: Instant; text: string }[];
  openedAt: Instant | null;
  registrationClosesAt: Instant | null;
  shiftsUnfilled: number;
  firstShiftAt: Instant | null;
  messages: { at: Instant; text: string; count: number; failed: boolean }[];
  surveyAt: Instant | null;
  surveyAnswers: number;
}

/** Puts everything dated about an event in order along its seven stages and marks today. */
export function spineOf(facts: SpineFacts): Spine {
  const { now, zone } = facts;
  const pins: Pin[] = [];
  const pin = (stage: Stage, at: Instant | null, text: string, late = false) => {
    if (at) pins.push({ stage, at, text, late });
  };
  pin('plan', facts.createdAt, facts.createdFrom ? `from ${facts.createdFrom}` : 'begun');
  if (facts.submittedAt)
    pin('clearance', facts.submittedAt, facts.submittedLate ? 'sent, late' : 'sent', facts.submittedLate);
  else
    pin(
      'clearance',
      facts.lastDayToSubmit,
      'last day to send',
      Boolean(facts.lastDayToSubmit && facts.lastDayToSubmit < now),
    );
  for (const c of facts.clearance) pin('clearance', c.at, c.text);
  pin('registration', facts.openedAt, 'opened');
  pin(
    'registration',
    facts.registrationClosesAt,
    `closes ${facts.registrationClosesAt ? sayTime(wallOf(facts.registrationClosesAt, zone)) : ''}`,
  );
  if (facts.shiftsUnfilled > 0) pin('crew', facts.firstShiftAt, `${facts.shiftsUnfilled} unfilled`, true);
  else pin('crew', facts.firstShiftAt, 'first shift');
  for (const m of facts.messages)
    pin('messages', m.at, `${sayTime(wallOf(m.at, zone))} ${m.text}, ${m.count}`, m.failed);
  pin(
    'doors',
    facts.doorsAt ?? facts.startsAt,
    facts.doorsAt
      ? `${sayTime(wallOf(facts.doorsAt, zone))} doors`
      : sayTime(wallOf(facts.startsAt ?? now, zone)),
  );
  pin('wrap-up', facts.surveyAt, facts.surveyAnswers ? `survey, ${facts.surveyAnswers} answers` : 'survey');
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
      text: facts.startsAt ? sayToday(dateOf(now, zone), dateOf(facts.startsAt, zone)) : 'today',
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

function sayToday(today: string, date: string): string {
  const distance = sayDistance(today, date);
  if (distance === 'today') return 'today, the day itself';
  if (distance === 'tomorrow') return 'today, the day before';
  if (distance === 'yesterday') return 'today, the day after';
  return distance.endsWith('ago')
    ? `today, ${distance.replace('ago', 'after')}`
    : `today, ${distance.slice(3)} before`;
}
