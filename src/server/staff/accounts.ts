import type { staffContract } from '#contract/staff.ts';
import { needsSecondStep } from '#core/staff/accounts.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { update } from '../db/database.ts';
import type { Call, Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { demandPassword } from './commonPasswords.ts';
import { checkPassword, hashPassword } from './passwords.ts';
import { enrolmentOf, freshRecovery, freshSecret, periodOf } from './secondStep.ts';
import { endSessions } from './sessions.ts';
import { type StaffRow, theOrganization, theStaff } from './store.ts';

type AccountKeys =
  | 'GET /api/account'
  | 'POST /api/account/password'
  | 'DELETE /api/account/sessions'
  | 'DELETE /api/account/sessions/:id'
  | 'POST /api/account/second-step'
  | 'PUT /api/account/second-step'
  | 'DELETE /api/account/second-step'
  | 'POST /api/account/recovery';

/** Asks for the password again before what a session left open must not do. Wrong ones slow down like signing in. */
async function confirmed(c: Call & Work, current: string): Promise<StaffRow> {
  const { app, staff, tx } = c;
  const now = Date.parse(app.sessionClock.now());
  const key = `own ${staff.id}`;
  if (app.throttles.pair.wait(key, now) > 0) throw invalid([{ path: 'current', code: 'too-many-tries' }]);
  const row = await theStaff(tx, staff.id);
  if (await checkPassword(current, row.passwordHash)) {
    app.throttles.pair.succeeded(key);
    return row;
  }
  app.throttles.pair.failed(key, now);
  throw invalid([{ path: 'current', code: 'not-your-password' }]);
}

export const accountHandlers: Pick<Handlers<typeof staffContract>, AccountKeys> = {
  'GET /api/account': async ({ tx, staff }) => {
    const row = await theStaff(tx, staff.id);
    const { secondStepRequired } = await theOrganization(tx);
    const sessions = await tx.query<{
      id: string;
      device: string;
      address: string;
      createdAt: string;
      seenAt: string;
    }>(
      'select id, device, address, created_at, seen_at from sessions where staff_id = $1 order by seen_at desc, id',
      [staff.id],
    );
    return {
      name: row.name,
      email: row.email,
      secondStep: {
        on: row.totpSecret !== null,
        required: needsSecondStep(row.roles, secondStepRequired),
        recoveryLeft: row.recoveryLeft,
      },
      sessions: sessions.map((s) => ({ ...s, current: s.id === staff.sessionId })),
    };
  },

  'POST /api/account/password': async (c) => {
    const row = await confirmed(c, c.body.current);
    await demandPassword(c.tx, c.body.password, row);
    await update(c.tx, 'staff', row.id, {
      passwordHash: await hashPassword(c.body.password),
      passwordAt: c.now,
    });
    await endSessions(c, row.id, { except: c.staff.sessionId });
    await record(c, 'account changed', { staffId: c.staff.id, how: 'changed their password' });
    return { done: true };
  },

  'DELETE /api/account/sessions': async (c) => ({
    ended: await endSessions(c, c.staff.id, { except: c.staff.sessionId }),
  }),

  'DELETE /api/account/sessions/:id': async (c) => {
    const ended = await endSessions(c, c.staff.id, { only: c.params.id });
    if (!ended) throw notFound('This session');
    return { ended };
  },

  'POST /api/account/second-step': async (c) => {
    const row = await confirmed(c, c.body.current);
    if (row.totpSecret) throw refused('second-step-on');
    const secret = freshSecret(c.app.ids.bytes(20));
    await update(c.tx, 'staff', row.id, { totpPending: secret });
    return { secret, ...(await enrolmentOf(secret, row.email)) };
  },

  'PUT /api/account/second-step': async (c) => {
    const row = await theStaff(c.tx, c.staff.id);
    if (!row.totpPending) throw refused('second-step-none');
    const at = periodOf(row.totpPending, c.body.code, Date.parse(c.app.sessionClock.now()));
    if (at === null) throw invalid([{ path: 'code', code: 'code-wrong' }]);
    const { codes, hashes } = freshRecovery(c.app.ids.bytes);
    await update(c.tx, 'staff', row.id, {
      totpSecret: row.totpPending,
      totpPending: null,
      totpLast: at,
      recoveryHashes: hashes,
    });
    await endSessions(c, row.id, { except: c.staff.sessionId });
    await record(c, 'account changed', { staffId: c.staff.id, how: 'turned the second step on' });
    return { recovery: codes };
  },

  'DELETE /api/account/second-step': async (c) => {
    const row = await confirmed(c, c.body.current);
    const { secondStepRequired } = await theOrganization(c.tx);
    if (needsSecondStep(row.roles, secondStepRequired)) throw refused('second-step-required');
    await update(c.tx, 'staff', row.id, {
      totpSecret: null,
      totpPending: null,
      totpLast: null,
      recoveryHashes: [],
    });
    await record(c, 'account changed', { staffId: c.staff.id, how: 'turned the second step off' });
    return { done: true };
  },

  'POST /api/account/recovery': async (c) => {
    const row = await confirmed(c, c.body.current);
    if (!row.totpSecret) throw refused('second-step-off');
    const { codes, hashes } = freshRecovery(c.app.ids.bytes);
    await update(c.tx, 'staff', row.id, { recoveryHashes: hashes });
    await record(c, 'account changed', { staffId: c.staff.id, how: 'made new recovery codes' });
    return { recovery: codes };
  },
};
