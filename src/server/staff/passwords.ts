import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';

const cost = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

const derive = (password: string, salt: Buffer): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    scrypt(password.normalize('NFKC'), salt, 32, cost, (error, key) =>
      error ? reject(error) : resolve(key),
    ),
  );

/** Hashes a password with scrypt (RFC 7914) at N = 2^15, r = 8, p = 1. */
export async function hashPassword(password: string, salt: Buffer = randomBytes(16)): Promise<string> {
  return `scrypt$${salt.toString('base64')}$${(await derive(password, salt)).toString('base64')}`;
}

/** True when the password is the hashed one. Takes as long for a wrong one. */
export async function checkPassword(password: string, hash: string): Promise<boolean> {
  const [, salt, key] = hash.split('$');
  const derived = await derive(password, Buffer.from(salt ?? '', 'base64'));
  const expected = Buffer.from(key ?? '', 'base64');
  return expected.length === derived.length && timingSafeEqual(expected, derived);
}

/** Compared with when nobody has the email, so that the answer takes as long. */
export const nobodysHash = `scrypt$${Buffer.alloc(16).toString('base64')}$${Buffer.alloc(32).toString('base64')}`;
