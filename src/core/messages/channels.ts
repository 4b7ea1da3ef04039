import { emailKey, isEmail } from '#core/contacts/reach.ts';
import type { ReasonCode } from '#core/words/reasons.ts';

/** By which way a message reaches somebody. */
interface ChannelRule {
  /** The same for every way of writing one address; null where nothing can be sent to it. */
  keyOf(address: string): string | null;
  /** Why somebody gets nothing who has no such address. */
  none: ReasonCode;
}

const e164 = /^\+[1-9]\d{6,14}$/u;

const rules = {
  email: { keyOf: (address) => (isEmail(address) ? emailKey(address) : null), none: 'no address' },
  // Numbers are kept as E.164.
  'text message': { keyOf: (address) => (e164.test(address) ? address : null), none: 'no mobile number' },
} as const satisfies Record<string, ChannelRule>;

export type Channel = keyof typeof rules;
export const channels = Object.keys(rules) as [Channel, ...Channel[]];
export const channelRule = (channel: Channel): ChannelRule => rules[channel];
