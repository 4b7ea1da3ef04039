import type { Instant } from '#core/time/clock.ts';
import type { ReasonCode } from '#core/words/reasons.ts';
import { say, words } from '#core/words/spoken.ts';

/** Whom a line of a message plan is for. */
interface AudienceRule {
  /** Who gets one copy: everybody under their own key, or every address once. */
  copies: 'each' | 'address';
  /** Why somebody gets nothing who came to be among them after the moment had passed. */
  after: ReasonCode;
  /** By which of their seats some of them can be chosen: those they have, all they ask for or had; null where they stand on none. */
  seats: 'confirmed' | 'all' | null;
}

/** Every audience there is. A new one is an entry here, and who is in it in `server/messages/audiences.ts`. */
export const audiences = {
  orders: { copies: 'each', after: 'registered after', seats: 'confirmed' },
  attendees: { copies: 'address', after: 'registered after', seats: 'confirmed' },
  crew: { copies: 'each', after: 'signed up after', seats: null },
  waiting: { copies: 'each', after: 'waitlisted after', seats: 'all' },
  accepted: { copies: 'each', after: 'registered after', seats: 'all' },
  offered: { copies: 'each', after: 'registered after', seats: 'all' },
  'given up': { copies: 'each', after: 'registered after', seats: 'all' },
  /** Those who want to hear of it without a seat. */
  following: { copies: 'address', after: 'followed after', seats: null },
} as const satisfies Record<string, AudienceRule>;

export const sayAudience = (audience: Audience): string => say(words().audiences[audience]);

export type Audience = keyof typeof audiences;
export const audienceNames = Object.keys(audiences) as [Audience, ...Audience[]];

/** What a message to somebody is about, in an audience. */
export type About =
  | { of: 'order'; id: string }
  | { of: 'seat'; id: string }
  /** The buyer of an order who does not come: the copies for those without an address. */
  | { of: 'buyer'; id: string }
  | { of: 'shift'; id: string }
  | { of: 'follower'; id: string }
  /** Something that can happen to an order more than once, each time for itself. */
  | { of: 'occasion'; id: string; at: Instant };

const orderKey = /^order (\S+)(?: (\S+))?$/u;

/** The key under which somebody is a recipient: unique within a line, so that nothing is planned twice. */
export function keyOf(about: About): string {
  if (about.of === 'buyer') return `order ${about.id}`;
  return about.of === 'occasion' ? `order ${about.id} ${about.at}` : about.id;
}

/** What a key of an audience is about. */
export function aboutOf(audience: Audience, key: string): About {
  if (audience === 'crew') return { of: 'shift', id: key };
  if (audience === 'following') return { of: 'follower', id: key };
  const [, id, at] = orderKey.exec(key) ?? [];
  if (id) return at ? { of: 'occasion', id, at } : { of: 'buyer', id };
  return audience === 'attendees' ? { of: 'seat', id: key } : { of: 'order', id: key };
}
