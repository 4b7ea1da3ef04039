import type { ReasonCode } from '#core/words/reasons.ts';
import { say, words } from '#core/words/spoken.ts';

/** Whom a step of a message plan is for. */
interface AudienceRule {
  /** Who gets one copy: everybody under their own key, or every address once. */
  copies: 'each' | 'address';
  /** Why somebody gets nothing who came to be among them after the moment had passed. */
  after: ReasonCode;
}

/** Every audience there is. A new one is an entry here, and who is in it in `server/messages/audiences.ts`. */
export const audiences = {
  orders: { copies: 'each', after: 'registered after' },
  attendees: { copies: 'address', after: 'registered after' },
  crew: { copies: 'each', after: 'signed up after' },
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
  | { of: 'shift'; id: string };

const buyerKey = /^order (.+)$/u;

/** The key under which somebody is a recipient: unique within a step, so that nothing is planned twice. */
export const keyOf = (about: About): string => (about.of === 'buyer' ? `order ${about.id}` : about.id);

/** What a key of an audience is about. */
export function aboutOf(audience: Audience, key: string): About {
  if (audience === 'orders') return { of: 'order', id: key };
  if (audience === 'crew') return { of: 'shift', id: key };
  const buyer = buyerKey.exec(key)?.[1];
  return buyer ? { of: 'buyer', id: buyer } : { of: 'seat', id: key };
}
