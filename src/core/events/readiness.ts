import type { CalendarDate } from '#core/time/clock.ts';
import type { Params } from '#core/words/filling.ts';
import type { ProblemCode } from '#core/words/problems.ts';
import { problemsWithSchedule, type Schedule } from './schedule.ts';
import type { Stage } from './states.ts';

/** What readiness looks at. */
export interface PlanFacts extends Schedule {
  publicTitle: string;
  slug: string;
  venueName: string | null;
  capacity: number | null;
  venueCapacity: number | null;
  /** Whether another event has its place at that time. */
  placeTaken: boolean;
  /** The room online; null without one. */
  online: object | null;
  seatsOnOffer: number | null;
  offers: number;
  /** Nobody has to register. */
  noReply?: boolean;
  /** Where else people register; null for here. */
  registerAt: string | null;
}

/** Something a plan still lacks. `stops` says whether the plan cannot go on without it. */
export interface Lack {
  stage: Stage;
  code: ProblemCode;
  params?: Params;
  stops: boolean;
}

/** What a plan still lacks before it can be sent for clearance or opened. */
export function lacksOf(plan: PlanFacts, today: CalendarDate): Lack[] {
  const lacks: Lack[] = [];
  const stop = (code: ProblemCode, params?: Params) =>
    lacks.push({ stage: 'plan', code, ...(params && { params }), stops: true });
  const note = (code: ProblemCode, params?: Params) =>
    lacks.push({ stage: 'plan', code, ...(params && { params }), stops: false });
  if (!plan.publicTitle.trim()) stop('no-title');
  if (!plan.slug) stop('no-slug');
  if (!plan.startsLocal) stop('no-date');
  else if (plan.startsLocal.slice(0, 10) < today) stop('date-passed');
  for (const problem of problemsWithSchedule(plan)) stop(problem.code, problem.params);
  if (plan.startsLocal && !plan.endsLocal) note('no-end');
  if (!plan.venueName && !plan.online) note('no-place');
  if (plan.placeTaken) stop('place-taken-then', { place: plan.venueName ?? '' });
  if (plan.offers === 0 && !plan.registerAt && !plan.noReply) stop('no-offer');
  if (plan.capacity !== null && plan.venueCapacity !== null && plan.capacity > plan.venueCapacity)
    stop('over-the-place', { seats: plan.capacity, places: plan.venueCapacity });
  if (plan.capacity !== null && plan.seatsOnOffer !== null && plan.seatsOnOffer > plan.capacity)
    note('over-the-capacity', { seats: plan.seatsOnOffer, capacity: plan.capacity });
  return lacks;
}
