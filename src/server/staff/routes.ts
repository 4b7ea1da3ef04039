import type { staffContract } from '#contract/staff.ts';
import { inTransaction } from '../app/app.ts';
import { record } from '../app/record.ts';
import { sha256 } from '../db/ids.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { absenceHandlers } from './absences.ts';
import { accountHandlers } from './accounts.ts';
import { describeOrganization, join, keepQuiet, setUp } from './commands.ts';
import { demandPassword } from './commonPasswords.ts';
import { hashPassword } from './passwords.ts';
import { resetHandlers } from './resets.ts';
import { endSession, startSession } from './sessions.ts';
import { signIn } from './signingIn.ts';
import * as store from './store.ts';
import { teamHandlers } from './team.ts';

/** Sign-ins shown on the sign-in page of a demonstration. */
export interface DemoSignIn {
  name: string;
  email: string;
  does: string;
  password: string;
}

export const staffHandlers = (demoSignIns: readonly DemoSignIn[]): Handlers<typeof staffContract> => ({
  ...accountHandlers,
  ...absenceHandlers,
  ...resetHandlers,
  ...teamHandlers,
  'GET /api/setup': async ({ tx, app }) => {
    const organization = await store.readOrganization(tx);
    return {
      needed: !organization,
      organizationName: organization?.name ?? null,
      signIns: app.movable ? [...demoSignIns] : [],
    };
  },

  'POST /api/setup': async (c) => {
    await setUp(c, c.body);
    return { done: true };
  },

  'POST /api/sign-in': signIn,

  'PUT /api/account/clock': async (c) => {
    await store.setOwnClock(c.tx, c.staff.id, c.body.clock);
    await record(c, 'account changed', { staffId: c.staff.id, how: 'chose a clock' });
    return { done: true };
  },

  'GET /api/organization': async ({ tx }) => {
    const { name, zone, currency, country, sender, quietHours, attendanceDays } =
      await store.theOrganization(tx);
    const currencyUsed = await store.currencyUsed(tx);
    return { name, zone, currency, country, sender, currencyUsed, quietHours, attendanceDays };
  },

  'PUT /api/organization': async (c) => {
    await describeOrganization(c, c.body);
    return { done: true };
  },

  'PUT /api/organization/quiet-hours': async (c) => {
    await keepQuiet(c, c.body.quietHours);
    return { done: true };
  },

  'PUT /api/organization/attendance-days': async (c) => {
    await store.setAttendanceDays(c.tx, c.body.attendanceDays);
    await record(c, 'organization changed', {
      how: `lets attendance be corrected for ${c.body.attendanceDays} days`,
    });
    return { done: true };
  },

  'PUT /api/organization/clock': async (c) => {
    await store.setClock(c.tx, c.body.clock);
    await record(c, 'organization changed', { how: `says times by the ${c.body.clock}-hour clock` });
    c.afterwards(() => {
      c.app.face = c.body.clock;
      c.app.announcer.announce(store.faceChanged);
    });
    return { done: true };
  },

  'POST /api/sign-out': async ({ app, request }) => {
    await endSession(app, request, request.res!);
    return { done: true };
  },

  'GET /api/me': async ({ tx, staff, app, now }) => {
    const { holidays: _, sender: __, ...organization } = await store.theOrganization(tx);
    const { sessionId: ___, duties: ____, ...own } = staff;
    return { staff: own, organization, clock: { now, movable: app.movable } };
  },

  'GET /api/invitations/:token': async ({ tx, params, now }) => {
    const invitation = await store.invitationByToken(tx, sha256(params.token), now);
    if (!invitation) throw notFound('This invitation');
    const { name } = await store.theOrganization(tx);
    return { name: invitation.name, email: invitation.email, organization: name, roles: invitation.roles };
  },

  'POST /api/invitations/:token': async ({ app, params, body, request, actor }) => {
    const open = await store.invitationByToken(app.db, sha256(params.token), app.clock.now());
    if (!open) throw notFound('This invitation');
    await demandPassword(app.db, body.password, open);
    const passwordHash = await hashPassword(body.password);
    return inTransaction(app, actor, async (w) => {
      const invitation = await store.invitationByToken(w.tx, sha256(params.token), w.now);
      if (!invitation) throw notFound('This invitation');
      const id = await join(w, invitation, passwordHash);
      await startSession(app, w.tx, request, id);
      return { done: true as const };
    });
  },
});
