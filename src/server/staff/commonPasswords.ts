import { dictionary } from '@zxcvbn-ts/language-common';
import { type PasswordOwner, problemWithPassword } from '#core/staff/password.ts';
import type { Wrong } from '#core/words/problems.ts';
import type { Queries } from '../db/database.ts';
import { invalid } from '../http/problem.ts';
import { theOrganization } from './store.ts';

/** Passwords that are tried first: some 49,000 that were found in use most often, and the words of dice lists. */
const common: ReadonlySet<string> = new Set([
  ...(dictionary['passwords-common'] as string[]),
  ...(dictionary['diceware-common'] as string[]).filter((w) => w.length >= 6),
]);

/** What is wrong with a password somebody chooses, at a field of that path. */
export function wrongPassword(password: string, owner: PasswordOwner, path: string): Wrong[] {
  const wrong = problemWithPassword(password, owner, common);
  return wrong ? [{ path, ...wrong }] : [];
}

/** Throws what is wrong with a password somebody of the organization chooses, beside its field. */
export async function demandPassword(
  tx: Queries,
  password: string,
  owner: Omit<PasswordOwner, 'organization'>,
): Promise<void> {
  const organization = (await theOrganization(tx)).name;
  const wrong = wrongPassword(password, { ...owner, organization }, 'password');
  if (wrong.length) throw invalid(wrong);
}
