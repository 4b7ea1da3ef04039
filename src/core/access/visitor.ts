import { holdsOn, type Span } from '#core/contacts/membership.ts';
import type { CalendarDate } from '#core/time/clock.ts';

/** Who may see an event on the public side, from the widest to the narrowest. */
export const visibilities = ['everyone', 'members', 'units', 'invited', 'link'] as const;
export type Visibility = (typeof visibilities)[number];

/** Somebody of the public who is signed in, as far as that decides what they see. */
export interface Visitor {
  contactId: string;
  /** Their memberships; one without a unit is of the organization. */
  memberships: readonly (Span & { unitId: string | null })[];
  /** Events they are invited to. */
  invitedTo: ReadonlySet<string>;
  /** Events they have to do with already: they hold a seat or a shift, booked, or speak there. */
  partOf: ReadonlySet<string>;
  /** Known by a link that may have been passed on, and not signed in: nobody else is told of, and nothing but their name and address. */
  byLink?: true;
}

/** What of an event decides who of the public sees it. */
export interface Seen {
  id: string;
  visibility: Visibility;
  unitId: string | null;
  partnerIds: readonly string[];
}

/**
 * Whether somebody may see an event. Whoever has the link sees what is for those with the link; members are those whose membership
 * holds today. Who has to do with an event already sees it, however narrow it becomes.
 */
export function maySee(event: Seen, visitor: Visitor | null, today: CalendarDate): boolean {
  if (event.visibility === 'everyone' || event.visibility === 'link') return true;
  if (!visitor) return false;
  if (visitor.partOf.has(event.id) || visitor.invitedTo.has(event.id)) return true;
  const holding = visitor.memberships.filter((m) => holdsOn(m, today));
  if (event.visibility === 'members') return holding.length > 0;
  const units = new Set([event.unitId, ...event.partnerIds].filter((u) => u !== null));
  return event.visibility === 'units' && holding.some((m) => m.unitId !== null && units.has(m.unitId));
}

/** Whether an event stands in the listing of somebody: what is for those with the link never does. */
export const isListedFor = (
  event: Seen & { listed: boolean },
  visitor: Visitor | null,
  today: CalendarDate,
): boolean => event.listed && event.visibility !== 'link' && maySee(event, visitor, today);
