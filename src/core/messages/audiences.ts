import type { Instant } from '#core/time/clock.ts';
import type { ReasonCode } from '#core/words/reasons.ts';
import { say, words } from '#core/words/spoken.ts';

/** Whom a line of a message plan is for. */
interface AudienceRule {
  /** Whose people they are: an event’s, or the organization’s all year round. */
  of: 'event' | 'organization';
  /** Who gets one copy: everybody under their own key, or every address once. */
  copies: 'each' | 'address';
  /** Why somebody gets nothing who came to be among them after the moment had passed. */
  after: ReasonCode;
  /** By what some of them can be chosen: by the seats they have, by all they ask for or had, by their shifts; null where by nothing. */
  narrowedBy: 'confirmed seats' | 'all seats' | 'shifts' | null;
}

/** Every audience there is. A new one is an entry here, and who is in it in `server/messages/audiences.ts`. */
export const audiences = {
  orders: { of: 'event', copies: 'each', after: 'registered after', narrowedBy: 'confirmed seats' },
  attendees: { of: 'event', copies: 'address', after: 'registered after', narrowedBy: 'confirmed seats' },
  /** Those who look after the children who come; whoever booked, where nobody is known to. */
  guardians: { of: 'event', copies: 'address', after: 'registered after', narrowedBy: 'confirmed seats' },
  /** Those on seats that have a seat at a session of the agenda; each session for itself. */
  sessions: { of: 'event', copies: 'each', after: 'chose after', narrowedBy: 'confirmed seats' },
  crew: { of: 'event', copies: 'each', after: 'signed up after', narrowedBy: 'shifts' },
  waiting: { of: 'event', copies: 'each', after: 'waitlisted after', narrowedBy: 'all seats' },
  accepted: { of: 'event', copies: 'each', after: 'registered after', narrowedBy: 'all seats' },
  offered: { of: 'event', copies: 'each', after: 'registered after', narrowedBy: 'all seats' },
  'given up': { of: 'event', copies: 'each', after: 'registered after', narrowedBy: 'all seats' },
  /** Those who want to hear of it without a seat. */
  following: { of: 'event', copies: 'address', after: 'followed after', narrowedBy: null },
  /** Those whose membership has a last day; each membership for itself. */
  members: { of: 'organization', copies: 'each', after: 'joined after', narrowedBy: null },
  /** Those who gave something; each gift for itself, of monthly ones the first. */
  givers: { of: 'organization', copies: 'each', after: 'gave after', narrowedBy: null },
  /** Those whose monthly gift stood still because no card worked; each time for itself. */
  pledgers: { of: 'organization', copies: 'each', after: 'missed after', narrowedBy: null },
  /** Those who have a certificate with a last day; each certificate for itself. */
  certified: { of: 'organization', copies: 'each', after: 'certified after', narrowedBy: null },
} as const satisfies Record<string, AudienceRule>;

export const sayAudience = (audience: Audience): string => say(words().audiences[audience]);

export type Audience = keyof typeof audiences;
/** Those an event has, and those the organization has. */
type AudienceOf<Owner extends AudienceRule['of']> = {
  [A in Audience]: (typeof audiences)[A]['of'] extends Owner ? A : never;
}[Audience];
export type EventAudience = AudienceOf<'event'>;
export type YearAudience = AudienceOf<'organization'>;
const isOfEvent = (audience: Audience): audience is EventAudience => audiences[audience].of === 'event';
const names = Object.keys(audiences) as Audience[];
export const audienceNames = names.filter(isOfEvent) as [EventAudience, ...EventAudience[]];

/** What a message to somebody is about, in an audience. */
export type About =
  | { of: 'order'; id: string }
  | { of: 'seat'; id: string }
  /** The buyer of an order who does not come: the copies for those without an address. */
  | { of: 'buyer'; id: string }
  | { of: 'shift'; id: string }
  | { of: 'follower'; id: string }
  /** Somebody who looks after whoever sits on a seat. */
  | { of: 'guardian'; id: string; contactId: string }
  /** Somebody's seat at a session of the agenda. */
  | { of: 'session'; id: string; sessionId: string }
  /** Something that can happen to an order more than once, each time for itself. */
  | { of: 'occasion'; id: string; at: Instant };

const guardianKey = /^guardian (\S+) (\S+)$/u;
const sessionKey = /^session (\S+) (\S+)$/u;
const orderKey = /^order (\S+)(?: (\S+))?$/u;

/** The key under which somebody is a recipient: unique within a line, so that nothing is planned twice. */
export function keyOf(about: About): string {
  if (about.of === 'guardian') return `guardian ${about.id} ${about.contactId}`;
  if (about.of === 'session') return `session ${about.id} ${about.sessionId}`;
  if (about.of === 'buyer') return `order ${about.id}`;
  return about.of === 'occasion' ? `order ${about.id} ${about.at}` : about.id;
}

/** What a key of an audience is about. */
export function aboutOf(audience: EventAudience, key: string): About {
  if (audience === 'crew') return { of: 'shift', id: key };
  if (audience === 'following') return { of: 'follower', id: key };
  const [, seat, contactId] = guardianKey.exec(key) ?? [];
  if (seat && contactId) return { of: 'guardian', id: seat, contactId };
  const [, chosen, sessionId] = sessionKey.exec(key) ?? [];
  if (chosen && sessionId) return { of: 'session', id: chosen, sessionId };
  const [, id, at] = orderKey.exec(key) ?? [];
  if (id) return at ? { of: 'occasion', id, at } : { of: 'buyer', id };
  return audience === 'attendees' ? { of: 'seat', id: key } : { of: 'order', id: key };
}
