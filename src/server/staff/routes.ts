import type { staffContract } from '#contract/staff.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { isZone } from '#core/time/wallTime.ts';
import { type App, audit, inTransaction, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import type { Handlers } from '../http/handle.ts';
import { conflict, invalid, notFound } from '../http/problem.ts';
import { accountHandlers } from './accounts.ts';
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
    const { tx, body, app, now } = c;
    if (await store.readOrganization(tx))
      throw conflict('already-set-up', 'The organization is set up already. Please sign in.');
    const { zone, currency } = body.organization;
    const fields = [
      ...(isZone(zone)
        ? []
        : [
            {
              path: 'organization.zone',
              message: 'This is not a time zone; use a name like America/Halifax.',
            },
          ]),
      ...(Intl.supportedValuesOf('currency').includes(currency)
        ? []
        : [{ path: 'organization.currency', message: 'This is not a currency in use.' }]),
    ];
    if (fields.length) throw invalid(fields);
    await demandPassword(
      tx,
      body.coordinator.password,
      { ...body.coordinator, organization: body.organization.name },
      'coordinator.password',
    );
    await insert(tx, 'organization', {
      id: 1,
      ...body.organization,
      languages: ['en', 'fr'],
      createdAt: now,
      about: '',
      ageOfMajority: 18,
      minimumNoticeDays: 14,
      holidays: [],
    });
    const staffId = app.ids.id();
    await insert(tx, 'staff', {
      id: staffId,
      contactId: null,
      name: body.coordinator.name,
      email: body.coordinator.email,
      emailKey: emailKey(body.coordinator.email),
      passwordHash: await hashPassword(body.coordinator.password),
      roles: ['coordinator'],
      approves: ['safety', 'finance'],
      resting: false,
      createdAt: now,
    });
    await record(c, 'joined the team', {
      staffId,
      name: body.coordinator.name,
      email: body.coordinator.email,
    });
    await insert(tx, 'funds', { id: app.ids.id(), name: 'General', about: '' });
    await insertSampleRules(c);
    await audit(c, 'set up', { kind: 'organization', id: null });
    return { done: true };
  },

  'POST /api/sign-in': signIn,

  'POST /api/sign-out': async ({ app, request }) => {
    await endSession(app, request, request.res!);
    return { done: true };
  },

  'GET /api/me': async ({ tx, staff, app, now }) => {
    const { holidays: _, sender: __, ...organization } = await store.theOrganization(tx);
    const { sessionId: ___, ...own } = staff;
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
      const { id: invitationId, expiresAt: _, ...rest } = invitation;
      const id = app.ids.id();
      await insert(w.tx, 'staff', {
        id,
        contactId: null,
        ...rest,
        emailKey: emailKey(rest.email),
        passwordHash,
        resting: false,
        createdAt: w.now,
      });
      await record(w, 'joined the team', { staffId: id, name: rest.name, email: rest.email });
      await update(w.tx, 'staff_invitations', invitationId, { acceptedAt: w.now });
      await audit({ ...w, actor: { ...w.actor, name: rest.name, staffId: id } }, 'joined', {
        kind: 'staff',
        id,
      });
      await startSession(app, w.tx, request, id);
      return { done: true as const };
    });
  },
});

/** Two sample rules to begin with, so that clearance works before anybody has set rules. */
export async function insertSampleRules(w: Pick<Work, 'tx'> & { app: Pick<App, 'ids'> }): Promise<void> {
  await insert(w.tx, 'clearance_rules', [
    {
      id: w.app.ids.id(),
      step: 'Safety',
      approves: 'safety',
      anyOf: ['minors', 'boats', 'tools'],
      headcountFrom: 100,
      workingDays: 5,
      stepOrder: 1,
      asks: 'Is there a risk assessment, enough trained leaders, and a plan for weather and emergencies?',
    },
    {
      id: w.app.ids.id(),
      step: 'Finance',
      approves: 'finance',
      anyOf: ['money', 'alcohol'],
      headcountFrom: null,
      workingDays: 3,
      stepOrder: 1,
      asks: 'Are the prices right, and who handles the money?',
    },
  ]);
}
