import { createHash, createHmac, randomBytes } from 'node:crypto';
import { codeOf } from '#core/contacts/codes.ts';
import type { Clock } from '#core/time/clock.ts';

/** Where ids and tokens come from. `bytes` can be replaced by a seeded source, so that a generated organization is the same everywhere. */
export interface Ids {
  /** A UUIDv7 (RFC 9562 section 5.7): sorts by the clock's time, then by the order it was made in. */
  id(): string;
  /** A UUIDv4, for what must not show when it was made. */
  unordered(): string;
  bytes(count: number): Uint8Array;
}

const asUuid = (hex: string): string =>
  `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20, 32)}`;

/** Makes ids by a clock. Within one millisecond a 12-bit counter keeps the order (RFC 9562 section 6.2, method 1). */
export function makeIds(clock: Clock, bytes: (count: number) => Uint8Array = randomBytes): Ids {
  let last = 0;
  let counter = 0;
  return {
    bytes,
    unordered() {
      const random = Buffer.from(bytes(16));
      random[6] = (random[6]! & 0x0f) | 0x40;
      random[8] = (random[8]! & 0x3f) | 0x80;
      return asUuid(random.toString('hex'));
    },
    id() {
      const now = Date.parse(clock.now());
      if (now !== last) {
        last = now;
        counter = 0;
      } else counter += 1;
      // More than 4,096 in one millisecond borrow from the future, as the standard allows.
      const time = last + Math.floor(counter / 4096);
      const random = Buffer.from(bytes(8));
      random[0] = (random[0]! & 0x3f) | 0x80;
      const hex =
        time.toString(16).padStart(12, '0') +
        `7${(counter % 4096).toString(16).padStart(3, '0')}` +
        random.toString('hex');
      return asUuid(hex);
    },
  };
}

/** SHA-256 as lower-case hex. */
export const sha256 = (text: string | Uint8Array): string => createHash('sha256').update(text).digest('hex');

/** A hash that only this server can make, so that what goes in cannot be found by trying. */
export const keyedHash = (secret: string, text: string): string =>
  createHmac('sha256', secret).update(text).digest('hex').slice(0, 32);

/**
 * The token of a public link, 160 bits. It is derived from the server's secret, so that the same link can be put into
 * a later message although the database only keeps its hash. Each renewal gives another one.
 */
export const linkToken = (secret: string, kind: string, subjectId: string, renewals = 0): string =>
  createHmac('sha256', secret)
    .update(`${kind}:${subjectId}${renewals ? `:${renewals}` : ''}`)
    .digest()
    .subarray(0, 20)
    .toString('base64url');

/** How many characters a token of `linkToken` has. */
const linkLength = 27;

/**
 * A token as it stands in a mail: whoever opens it reads what is sent to that address, which whoever was given the token on a page may
 * not.
 */
export const mailedToken = (secret: string, token: string): string =>
  `${token}${createHmac('sha256', secret).update(`mailed:${token}`).digest().subarray(0, 9).toString('base64url')}`;

/** True of a token that came by mail. */
export const cameByMail = (secret: string, token: string): boolean =>
  token.length > linkLength && mailedToken(secret, token.slice(0, linkLength)) === token;

/** The code by which somebody signs in, derived so that the database does not hold it. */
export const codeFor = (secret: string, id: string): string =>
  codeOf(createHmac('sha256', secret).update(`code:${id}`).digest());

/** What makes the address for replies to a message its own: its id, and that only this server can have said it. In small letters. */
export const replyToken = (secret: string, messageId: string): string =>
  `${messageId.replace(/-/gu, '')}.${keyedHash(secret, `reply:${messageId}`).slice(0, 16)}`;
