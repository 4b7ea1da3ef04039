import type { CalendarDate } from '#core/time/clock.ts';
import { problemsWithSchedule, type Schedule } from './schedule.ts';
import type { Stage } from './states.ts';

/** What readiness looks at. */
export interface PlanFacts extends Schedule {
  publicTitle: string;
  slug: string;
  venueName: string | null;
  capacity: number | null;
  venueCapacity: number | null;
  seatsOnOffer: number | null;
  offers: number;
}

/** Something a plan still lacks. `stops` says whether the plan cannot go on without it. */
export interface Lack {
  stage: Stage;
  text: string;
  stops: boolean;
}

/** What a plan still lacks before it can be sent for clearance or opened. */
export function lacksOf(plan: PlanFacts, today: CalendarDate): Lack[] {
  const lacks: Lack[] = [];
  const stop = (text: string) => lacks.push({ stage: 'plan', text, stops: true });
  const note = (text: string) => lacks.push({ stage: 'plan', text, stops: false });
  if (!plan.publicTitle.trim()) stop('It has no public title.');
  if (!plan.slug) stop('It has no public address.');
  if (!plan.startsLocal) stop('It has no date.');
  else if (plan.startsLocal.slice(0, 10) < today) stop('Its date has passed.');
  for (const problem of problemsWithSchedule(plan)) stop(problem.message);
  if (plan.startsLocal && !plan.endsLocal)
    note('It has no end, so the survey and the closing hang on the start.');
  if (!plan.venueName) note('It has no place; the public page says “place told later”.');
  if (plan.offers === 0) stop('Nothing can be registered for: it has no offer.');
  if (plan.capacity !== null && plan.venueCapacity !== null && plan.capacity > plan.venueCapacity)
    stop(`${plan.capacity} seats are more than the ${plan.venueCapacity} the place holds.`);
  if (plan.capacity !== null && plan.seatsOnOffer !== null && plan.seatsOnOffer > plan.capacity)
    note(
      `The offers add up to ${plan.seatsOnOffer} seats, the capacity is ${plan.capacity}; the capacity holds.`,
    );
  return lacks;
}
