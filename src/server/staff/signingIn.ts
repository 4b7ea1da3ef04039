import type { staffContract } from '#contract/staff.ts';
import { lasts } from '#core/access/duties.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { hasPart, needsSecondStep } from '#core/staff/accounts.ts';
import { sayProblem } from '#core/words/problems.ts';
import { type Actor, inTransaction } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Handler } from '../http/handle.ts';
import { Problem, refused } from '../http/problem.ts';
import { checkPassword, nobodysHash } from './passwords.ts';
import { takeCode } from './secondStep.ts';
import { isKnownDevice, startSession } from './sessions.ts';
import { readDuties, staffByEmail, theOrganization } from './store.ts';

const wrong = () => refused('wrong-sign-in', {}, 401);

/**
 * Signs somebody in by password, and a code where the account has a second step. Wrong tries are slowed down under the
 * address with the account, and under the account from devices that never signed in: a stranger who tries many passwords
 * does not keep its owner out. Each is written down.
 */
export const signIn: Handler<(typeof staffContract)['POST /api/sign-in']> = async (c) => {
  const { app, body, request } = c;
  const key = emailKey(body.email);
  const now = Date.parse(app.sessionClock.now());
  const staff = await staffByEmail(app.db, key);
  const pair = `${request.ip} ${key}`;
  const known = staff !== null && isKnownDevice(app, request, staff.id);
  const wait = Math.max(app.throttles.pair.wait(pair, now), known ? 0 : app.throttles.account.wait(key, now));
  if (wait > 0) {
    request.res!.set('retry-after', String(Math.ceil(wait / 1000)));
    throw wait > 90_000
      ? refused('too-many-tries-wait', { count: Math.ceil(wait / 60_000) }, 429)
      : refused('too-many-tries-seconds', { count: Math.ceil(wait / 1000) }, 429);
  }
  const right = await checkPassword(body.password, staff?.passwordHash ?? nobodysHash);
  const failed = async (why: string) => {
    app.throttles.pair.failed(pair, now);
    app.throttles.account.failed(key, now);
    if (staff) await write(c.actor, staff, `sign-in refused: ${why}`);
  };
  const write = (actor: Actor, who: { id: string; name: string }, action: string) =>
    inTransaction(app, { ...actor, name: who.name, staffId: who.id }, (w) =>
      record(w, 'account changed', { staffId: who.id, how: action, detail: { address: request.ip ?? '' } }),
    );
  if (!staff || !right || staff.resting) {
    await failed(staff?.resting && right ? 'at rest' : 'wrong password');
    throw wrong();
  }
  const duties = (await readDuties(app.db, staff.id)).filter((d) => lasts(d.part, d, app.clock.now()));
  if (!hasPart({ roles: staff.roles, duties })) {
    await write(c.actor, staff, 'sign-in refused: their event is over');
    throw refused('part-over', {}, 403);
  }
  if (staff.totpSecret) {
    if (!body.code) return { next: 'code' };
    const took = await takeCode(app.db, staff, body.code, now);
    if (!took) {
      await failed('wrong code');
      throw new Problem(401, 'wrong-code', sayProblem('wrong-code'), [{ path: 'code', code: 'wrong-code' }]);
    }
    if (took === 'recovery') await write(c.actor, staff, 'used a recovery code');
  }
  app.throttles.pair.succeeded(pair);
  const { secondStepRequired } = await theOrganization(app.db);
  await inTransaction(app, { ...c.actor, name: staff.name, staffId: staff.id }, async (w) => {
    await startSession(app, w.tx, request, staff.id);
    await record(w, 'account changed', {
      staffId: staff.id,
      how: 'signed in',
      detail: { address: request.ip ?? '' },
    });
  });
  return {
    next: !staff.totpSecret && needsSecondStep(staff.roles, secondStepRequired) ? 'enroll' : 'in',
  };
};
