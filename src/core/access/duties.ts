import { endOf } from '#core/events/end.ts';
import type { Stage } from '#core/events/states.ts';
import type { Role } from '#core/staff/roles.ts';
import { type Instant, plusMinutes } from '#core/time/clock.ts';

/**
 * What somebody is at one event beyond their roles. A lead and co-organizers do there whatever a unit lead does; a helper
 * works at one stage.
 */
export const dutyParts = ['lead', 'co-organizer', 'helper'] as const;
export type DutyPart = (typeof dutyParts)[number];

export interface Duty {
  eventId: string;
  part: DutyPart;
  /** Of a helper. */
  stage: Stage | null;
}

/** Days after the end of an event for which those who organized it keep what they may; a helper keeps it for one. */
const daysAfter: Record<DutyPart, number> = { lead: 30, 'co-organizer': 30, helper: 1 };

/** True as long as a duty at an event lasts: it ends with the event. Without a date it goes on. */
export function lasts(
  part: DutyPart,
  event: { startsAt: Instant | null; endsAt: Instant | null },
  now: Instant,
): boolean {
  const end = endOf(event);
  return end === null || now < plusMinutes(end, daysAfter[part] * 1440);
}

/** The role that a duty comes to at its event. */
export const roleOf = ({ part, stage }: Pick<Duty, 'part' | 'stage'>): Exclude<Role, 'coordinator'> =>
  part === 'helper' && stage === 'crew'
    ? 'crew lead'
    : part === 'helper' && stage === 'doors'
      ? 'door'
      : 'unit lead';
