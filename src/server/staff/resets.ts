import type { staffContract } from '#contract/staff.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { linkToken, sha256 } from '../db/ids.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { demandPassword } from './commonPasswords.ts';
import { hashPassword } from './passwords.ts';
import { endSessions } from './sessions.ts';
import { staffByEmail } from './store.ts';

type ResetKeys =
  | 'POST /api/password-resets'
  | 'GET /api/password-resets/:token'
  | 'POST /api/password-resets/:token';

/** Minutes a link to a new password works, and how many are sent to one account in that time. */
const resetMinutes = 30;
const mostResets = 3;

const openReset = (tx: Queries, token: string, now: string) =>
  first<{ id: string; staffId: string; name: string; email: string }>(
    tx,
    `select r.id, r.staff_id, s.name, s.email from password_resets r join staff s on s.id = r.staff_id
     where r.token_hash = $1 and r.used_at is null and r.expires_at > $2 and not s.resting for update of r`,
    [sha256(token), now],
  );

export const resetHandlers: Pick<Handlers<typeof staffContract>, ResetKeys> = {
  'POST /api/password-resets': async (c) => {
    const { tx, app } = c;
    const at = app.sessionClock.now();
    const staff = await staffByEmail(tx, emailKey(c.body.email));
    // The answer is the same for everybody; what was asked for goes by mail, or nowhere.
    if (!staff || staff.resting) return { done: true };
    const lately = await first<{ n: number }>(
      tx,
      'select count(*)::int as n from password_resets where staff_id = $1 and created_at > $2',
      [staff.id, plusMinutes(at, -resetMinutes)],
    );
    if (lately!.n >= mostResets) return { done: true };
    const id = app.ids.unordered();
    await insert(tx, 'password_resets', {
      id,
      tokenHash: sha256(linkToken(app.secret, 'reset', id)),
      staffId: staff.id,
      createdAt: at,
      expiresAt: plusMinutes(at, resetMinutes),
    });
    await record(c, 'new password asked', {
      resetId: id,
      staffId: staff.id,
      name: staff.name,
      email: staff.email,
    });
    return { done: true };
  },

  'GET /api/password-resets/:token': async ({ tx, app, params }) => {
    const reset = await first<{ name: string }>(
      tx,
      `select s.name from password_resets r join staff s on s.id = r.staff_id
       where r.token_hash = $1 and r.used_at is null and r.expires_at > $2 and not s.resting`,
      [sha256(params.token), app.sessionClock.now()],
    );
    if (!reset) throw notFound('This link');
    return reset;
  },

  'POST /api/password-resets/:token': async (c) => {
    const { tx, app } = c;
    const at = app.sessionClock.now();
    const reset = await openReset(tx, c.params.token, at);
    if (!reset) throw notFound('This link');
    await demandPassword(tx, c.body.password, reset);
    await update(tx, 'staff', reset.staffId, {
      passwordHash: await hashPassword(c.body.password),
      passwordAt: at,
    });
    // Used once, and the others that were sent no longer work.
    await tx.query('update password_resets set used_at = $2 where staff_id = $1 and used_at is null', [
      reset.staffId,
      at,
    ]);
    await endSessions(c, reset.staffId);
    await record(
      { ...c, actor: { ...c.actor, name: reset.name, staffId: reset.staffId } },
      'account changed',
      { staffId: reset.staffId, how: 'chose a new password by mail' },
    );
    return { done: true };
  },
};
