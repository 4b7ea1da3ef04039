import { Secret, TOTP } from 'otpauth';
import type { Queries } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { codeSvg } from '../print/code.ts';

/** Seconds a code stands for, and how many periods a clock may be ahead or behind (RFC 6238 section 5.2). */
const period = 30;
const drift = 1;

const totpOf = (secret: string, label = ''): TOTP =>
  new TOTP({ issuer: 'Acolyte', label, secret: Secret.fromBase32(secret), period, digits: 6 });

export const freshSecret = (bytes: Uint8Array): string => new Secret({ buffer: bytes.slice().buffer }).base32;

/** The address that an authenticator reads, and a picture of it. */
export async function enrolmentOf(secret: string, email: string): Promise<{ uri: string; svg: string }> {
  const uri = totpOf(secret, email).toString();
  return { uri, svg: await codeSvg(uri) };
}

/** The period a code is right for now, or null. `now` in milliseconds. */
export function periodOf(secret: string, code: string, now: number): number | null {
  const token = code.replace(/\s/gu, '');
  if (!/^\d{6}$/u.test(token)) return null;
  const off = totpOf(secret).validate({ token, timestamp: now, window: drift });
  return off === null ? null : Math.floor(now / 1000 / period) + off;
}

/** Recovery codes: ten, used once each, in groups that can be read aloud. Only their hashes are kept. */
export function freshRecovery(bytes: (count: number) => Uint8Array): { codes: string[]; hashes: string[] } {
  const letters = '23456789abcdefghjkmnpqrstuvwxyz';
  const codes = Array.from({ length: 10 }, () => {
    const text = [...bytes(12)].map((b) => letters[b % letters.length]!).join('');
    return `${text.slice(0, 4)}-${text.slice(4, 8)}-${text.slice(8)}`;
  });
  return { codes, hashes: codes.map((c) => sha256(c)) };
}

/**
 * Takes a code of the second step: of the authenticator, each period once, or a recovery code, which is gone then.
 * Answers which it was, or null. Writes within the caller's statement, so that two at once do not both take it.
 */
export async function takeCode(
  tx: Queries,
  staff: { id: string; totpSecret: string | null },
  code: string,
  now: number,
): Promise<'code' | 'recovery' | null> {
  if (!staff.totpSecret) return null;
  const at = periodOf(staff.totpSecret, code, now);
  if (at !== null) {
    const taken = await tx.query(
      'update staff set totp_last = $2 where id = $1 and (totp_last is null or totp_last < $2) returning id',
      [staff.id, at],
    );
    return taken.length ? 'code' : null;
  }
  const hash = sha256(code.trim().toLowerCase());
  const used = await tx.query(
    'update staff set recovery_hashes = array_remove(recovery_hashes, $2) where id = $1 and $2 = any(recovery_hashes) returning id',
    [staff.id, hash],
  );
  return used.length ? 'recovery' : null;
}
