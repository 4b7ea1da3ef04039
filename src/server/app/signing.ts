import { createHmac, timingSafeEqual } from 'node:crypto';

/** Seconds by which the time of a notification may differ from ours. */
const tolerance = 300;

/** A notification with its number and the time it was sent, in seconds since 1970. */
export interface Signed {
  id: string;
  sentAt: number;
  body: string;
}

/**
 * The signature of a notification as the open standard for webhooks has it (standardwebhooks.com, symmetric, version 1): HMAC-SHA256
 * over number, time and body, in base64.
 */
export const signatureOf = (secret: Buffer, { id, sentAt, body }: Signed): string =>
  `v1,${createHmac('sha256', secret).update(`${id}.${sentAt}.${body}`).digest('base64')}`;

/** True where one of the signatures, put side by side, is right, and it was sent within the last minutes. `now` in seconds. */
export function isSigned(secret: Buffer, signed: Signed, signatures: string, now: number): boolean {
  if (!Number.isSafeInteger(signed.sentAt) || Math.abs(now - signed.sentAt) > tolerance) return false;
  const right = Buffer.from(signatureOf(secret, signed));
  return signatures.split(' ').some((s) => {
    const given = Buffer.from(s);
    return given.length === right.length && timingSafeEqual(given, right);
  });
}
