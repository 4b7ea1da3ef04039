import type { SignedIn } from '#server/app/app.ts';

/** Somebody of the team, signed in as far as a command asks. */
export const asStaff = (
  id: string,
  name: string,
  is: Pick<SignedIn, 'roles'> & Partial<Pick<SignedIn, 'approves'>>,
): SignedIn => ({
  id,
  name,
  email: '',
  approves: [],
  ...is,
  unitId: null,
  duties: [],
  standsFor: [],
  clock: null,
  sessionId: '',
  enrolling: false,
});
