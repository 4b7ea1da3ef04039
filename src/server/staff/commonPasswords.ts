import { dictionary } from '@zxcvbn-ts/language-common';
import { type PasswordOwner, problemWithPassword } from '#core/staff/password.ts';
import type { Queries } from '../db/database.ts';
import { invalid } from '../http/problem.ts';
import { theOrganization } from './store.ts';

/** Passwords that are tried first: some 49,000 that were found in use most often, and the words of dice lists. */
const common: ReadonlySet<string> = new Set([
  ...(dictionary['passwords-common'] as string[]),
  ...(dictionary['diceware-common'] as string[]).filter((w) => w.length >= 6),
]);

/** Throws what is wrong with a password somebody chooses, beside its field. */
export async function demandPassword(
  tx: Queries,
  password: string,
  owner: Omit<PasswordOwner, 'organization'> & { organization?: string },
  path = 'password',
): Promise<void> {
  const organization = owner.organization ?? (await theOrganization(tx)).name;
  const wrong = problemWithPassword(password, { ...owner, organization }, common);
  if (wrong) throw invalid([{ path, ...wrong }]);
}
