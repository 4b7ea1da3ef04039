import type { ProblemCode } from '#core/words/problems.ts';
import type { Role } from './roles.ts';

/** Roles that need a second step at sign-in where the organization asks for it: they reach people's records and money. */
const secondStepRoles: readonly Role[] = ['coordinator', 'treasurer'];

/** True when somebody has something to do: a role, or a duty at an event that lasts. */
export const hasPart = (staff: { roles: readonly Role[]; duties: readonly unknown[] }): boolean =>
  staff.roles.length > 0 || staff.duties.length > 0;

/** True when an account must have a second step. */
export const needsSecondStep = (roles: readonly Role[], required: boolean): boolean =>
  required && roles.some((r) => secondStepRoles.includes(r));

export interface Account {
  id: string;
  roles: readonly Role[];
  resting: boolean;
}

/**
 * What stands in the way of changing an account, or null. Somebody has to be left who can change accounts, and nobody
 * puts themselves to rest or gives themselves other rights.
 */
export function problemWithAccountChange(
  change: { roles?: readonly Role[] | undefined; resting?: boolean | undefined },
  account: Account,
  by: string,
  all: readonly Account[],
): ProblemCode | null {
  if (account.id === by && (change.resting || (change.roles && !sameRoles(change.roles, account.roles))))
    return 'own-rights';
  const after = all.map((a) =>
    a.id === account.id ? { ...a, roles: change.roles ?? a.roles, resting: change.resting ?? a.resting } : a,
  );
  if (!after.some((a) => !a.resting && a.roles.includes('coordinator'))) return 'last-coordinator';
  return null;
}

const sameRoles = (a: readonly Role[], b: readonly Role[]): boolean =>
  a.length === b.length && a.every((r) => b.includes(r));
