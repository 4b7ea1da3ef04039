import { fold } from '#core/contacts/names.ts';
import type { Said } from '#core/words/filling.ts';
import type { ProblemCode } from '#core/words/problems.ts';

/** The shortest and longest password, in characters. Length counts; no kinds of characters are asked for (NIST SP 800-63B 5.1.1). */
const passwordLength = { least: 10, most: 200 } as const;

/** Words that a password must not be made of alone: whose account it is. */
export interface PasswordOwner {
  name: string;
  email: string;
  organization: string;
}

/** What is wrong with a password that somebody chooses, or null. `common` holds passwords that are tried first, in lower case. */
export function problemWithPassword(
  password: string,
  owner: PasswordOwner,
  common: ReadonlySet<string>,
): Said<ProblemCode> | null {
  const plain = password.normalize('NFKC');
  if ([...plain].length < passwordLength.least)
    return { code: 'password-short', params: { count: passwordLength.least } };
  if (plain.length > passwordLength.most) return { code: 'too-long', params: { count: passwordLength.most } };
  const lower = plain.toLowerCase();
  if (new Set(lower).size < 4) return { code: 'password-repeats' };
  // A common password with digits or marks around it is tried as soon as the password itself.
  const bare = lower.replace(/^[\d\W_]+|[\d\W_]+$/gu, '');
  if (common.has(lower) || (bare.length >= 6 && lower.length - bare.length <= 4 && common.has(bare)))
    return { code: 'password-listed' };
  if (isRun(lower)) return { code: 'password-row' };
  const own = [owner.organization, owner.name, owner.email.split('@')[0] ?? '', owner.email]
    .flatMap((text) => [fold(text).replace(/\s/gu, ''), ...fold(text).split(' ')])
    .filter((word) => word.length >= 4);
  const folded = fold(plain).replace(/\s/gu, '');
  const left = own.reduce((text, word) => text.replaceAll(word, ''), folded).replace(/[\d\W_]/gu, '');
  if (left.length < 4) return { code: 'password-own' };
  return null;
}

const rows = [
  'qwertyuiopasdfghjklzxcvbnm',
  'abcdefghijklmnopqrstuvwxyz',
  '01234567890123456789',
  'azertyuiopqsdfghjklmwxcvbn',
];

/** True when a text is one run of a row, there or back. */
const isRun = (text: string): boolean =>
  rows.some((row) => row.includes(text) || [...row].reverse().join('').includes(text));
