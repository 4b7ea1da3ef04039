import { request as httpRequest } from 'node:http';
import { Secret, TOTP } from 'otpauth';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { demoPassword } from '#server/staff/demoSignIns.ts';
import { Caller, makeWorld, type World } from './harness.ts';

const own = 'a heron over the sluice';

describe('accounts', () => {
  let world: World;
  /** The clock of sessions, which tests move. */
  let shift = 0;
  beforeAll(async () => {
    world = await makeWorld();
    world.app.sessionClock = { now: () => new Date(Date.now() + shift).toISOString() };
  });
  afterAll(() => world.close());

  const device = () => new Caller(world.origin);
  /** The coordinator, signed in anew: time goes by in these tests. */
  const coordinator = async () => {
    const caller = device();
    await caller.call('POST /api/sign-in', {
      body: { email: 'odalys@brackenmere.example', password: demoPassword },
    });
    return caller;
  };
  const trySignIn = (caller: Caller, email: string, password: string, code = '') =>
    caller.try('POST /api/sign-in', { body: { email, password, code } });
  /** Somebody new on the staff, with a password of their own. */
  async function join(name: string, roles: ('door' | 'treasurer' | 'coordinator')[] = ['door']) {
    const email = `${name.toLowerCase().replace(' ', '.')}@fenmail.example`;
    const odalys = await coordinator();
    const { link } = await odalys.call('POST /api/staff/invitations', { body: { name, email, roles } });
    const caller = device();
    await caller.call('POST /api/invitations/:token', {
      params: { token: link.split('/').at(-1)! },
      body: { password: own },
    });
    const { staff } = await odalys.call('GET /api/staff');
    return { caller, email, id: staff.find((s) => s.email === email)!.id };
  }
  const lastMail = async (address: string) =>
    (
      await world.app.db.query<{ body: string; subject: string }>(
        'select subject, body from standin_mail where address = $1 order by accepted_at desc, key desc limit 1',
        [address],
      )
    )[0];
  const codeOf = (secret: string, at = Date.now() + shift) =>
    new TOTP({ secret: Secret.fromBase32(secret), period: 30, digits: 6 }).generate({ timestamp: at });

  test('common passwords and those made of one’s own name are refused, beside the field', async () => {
    const { caller } = await join('Flora Quay');
    for (const password of ['password1234', 'qwertyuiop', 'floraquay2026', 'aaaaaaaaaaaa', 'short'])
      expect(
        (await caller.try('POST /api/account/password', { body: { current: own, password } })).problem.fields,
        password,
      ).toMatchObject([{ path: 'password' }]);
    expect(
      (await caller.try('POST /api/account/password', { body: { current: 'wrong', password: own } })).problem
        .fields,
    ).toMatchObject([{ path: 'current' }]);
  });

  test('a changed password ends the other sessions, not this one', async () => {
    const { caller, email } = await join('Gus Quay');
    const other = device();
    await trySignIn(other, email, own);
    expect((await caller.call('GET /api/account')).sessions).toHaveLength(2);
    await caller.call('POST /api/account/password', {
      body: { current: own, password: 'seven wet reedcutters' },
    });
    expect((await other.try('GET /api/me')).status).toBe(401);
    expect((await caller.try('GET /api/me')).status).toBe(200);
    expect((await trySignIn(device(), email, own)).status).toBe(401);
  });

  test('a new password by mail: the same answer for everybody, once, for half an hour', async () => {
    const { email, caller } = await join('Hal Quay');
    const ask = (address: string) =>
      world.anyone.try('POST /api/password-resets', { body: { email: address } });
    const [known, unknown] = [await ask(email), await ask('nobody@fenmail.example')];
    expect([known.status, known.body]).toEqual([unknown.status, unknown.body]);
    await world.runner.run();
    expect(await lastMail('nobody@fenmail.example')).toBeUndefined();
    const token = /\/reset\/([\w-]+)/u.exec((await lastMail(email))!.body)![1]!;
    // What staff read of the message has no link in it.
    const odalys = await coordinator();
    const { rows } = await odalys.call('GET /api/tray', { query: { state: 'sent' } });
    const shown = await odalys.call('GET /api/messages/:id', {
      params: { id: rows.find((r) => r.address === email && r.kind === 'reset')!.id },
    });
    expect(shown.body).toContain('[link to a new password]');
    expect(shown.body).not.toContain(token);
    const choose = (password: string) =>
      world.anyone.try('POST /api/password-resets/:token', { params: { token }, body: { password } });
    expect((await choose('password1234')).problem.fields).toMatchObject([{ path: 'password' }]);
    expect((await choose('ten canoes at dawn')).status).toBe(201);
    expect((await choose('another one again')).status).toBe(404);
    expect((await caller.try('GET /api/me')).status).toBe(401);
    expect((await trySignIn(device(), email, 'ten canoes at dawn')).status).toBe(200);
    // A link that was not used in time is dead, and nobody is flooded with them.
    for (let n = 0; n < 6; n += 1) await ask(email);
    await world.runner.run();
    const [{ n }] = (await world.app.db.query<{ n: number }>(
      "select count(*)::int as n from standin_mail where address = $1 and subject like 'A new password%'",
      [email],
    )) as [{ n: number }];
    expect(n).toBe(3);
    const late = /\/reset\/([\w-]+)/u.exec((await lastMail(email))!.body)![1]!;
    shift += 31 * 60_000;
    expect(
      (await world.anyone.try('GET /api/password-resets/:token', { params: { token: late } })).status,
    ).toBe(404);
  });

  test('sessions end when unused, and in any case; one’s own are listed and ended', async () => {
    const { caller, email } = await join('Ida Quay');
    const [second, third] = [device(), device()];
    await trySignIn(second, email, own);
    await trySignIn(third, email, own);
    const { sessions } = await caller.call('GET /api/account');
    expect(sessions.filter((s) => s.current)).toHaveLength(1);
    const one = sessions.find((s) => !s.current)!;
    expect(await caller.call('DELETE /api/account/sessions/:id', { params: { id: one.id } })).toEqual({
      ended: 1,
    });
    expect(await caller.call('DELETE /api/account/sessions')).toEqual({ ended: 1 });
    expect([(await second.try('GET /api/me')).status, (await third.try('GET /api/me')).status]).toEqual([
      401, 401,
    ]);
    // Somebody else's session is not theirs to end.
    const stranger = await join('Jo Quay');
    const { sessions: left } = await caller.call('GET /api/account');
    expect(
      (await stranger.caller.try('DELETE /api/account/sessions/:id', { params: { id: left[0]!.id } })).status,
    ).toBe(404);
    shift += 11 * 3_600_000;
    expect((await caller.try('GET /api/me')).status).toBe(200);
    shift += 12 * 3_600_000 + 1000;
    expect((await caller.try('GET /api/me')).status).toBe(401);
    await trySignIn(caller, email, own);
    for (let n = 0; n < 31; n += 1) {
      shift += 11 * 3_600_000;
      await caller.try('GET /api/me');
    }
    expect((await caller.try('GET /api/me')).status).toBe(401);
  });

  test('the second step: set up with a first code, each code once, recovery codes once', async () => {
    const { caller, email } = await join('Kit Quay');
    const { secret } = await caller.call('POST /api/account/second-step', { body: { current: own } });
    expect(
      (await caller.try('PUT /api/account/second-step', { body: { code: '000000' } })).problem.fields,
    ).toMatchObject([{ path: 'code' }]);
    // Each code is worked out once: half a minute may end between two lines.
    const first = codeOf(secret);
    const { recovery } = await caller.call('PUT /api/account/second-step', { body: { code: first } });
    expect(new Set(recovery).size).toBe(10);
    const phone = device();
    expect((await trySignIn(phone, email, own)).body).toEqual({ next: 'code' });
    expect((await phone.try('GET /api/me')).status).toBe(401);
    expect((await trySignIn(phone, email, own, '123456')).problem.code).toBe('wrong-code');
    // The code that turned it on is used up; the next one is not.
    expect((await trySignIn(phone, email, own, first)).status).toBe(401);
    shift += 30_000;
    const second = codeOf(secret);
    expect((await trySignIn(phone, email, own, second)).body).toEqual({ next: 'in' });
    expect((await trySignIn(device(), email, own, second)).status).toBe(401);
    expect((await trySignIn(device(), email, own, recovery[0]!)).body).toEqual({ next: 'in' });
    expect((await trySignIn(device(), email, own, recovery[0]!)).status).toBe(401);
    expect((await phone.call('GET /api/account')).secondStep).toMatchObject({ on: true, recoveryLeft: 9 });
    // New recovery codes, and the old ones are worth nothing.
    const fresh = await phone.call('POST /api/account/recovery', { body: { current: own } });
    expect((await trySignIn(device(), email, own, recovery[1]!)).status).toBe(401);
    expect((await trySignIn(device(), email, own, fresh.recovery[0]!)).body).toEqual({ next: 'in' });
    await phone.call('DELETE /api/account/second-step', { body: { current: own } });
    expect((await trySignIn(device(), email, own)).body).toEqual({ next: 'in' });
  });

  test('asked for by the organization, it comes before anything else', async () => {
    const treasurer = await join('Lou Quay', ['treasurer']);
    const door = await join('Max Quay', ['door']);
    const odalys = await coordinator();
    const secret = (await odalys.call('POST /api/account/second-step', { body: { current: demoPassword } }))
      .secret;
    await odalys.call('PUT /api/account/second-step', { body: { code: codeOf(secret) } });
    await odalys.call('PUT /api/staff/second-step', { body: { required: true } });
    expect((await treasurer.caller.try('GET /api/ledger', { query: {} })).problem.code).toBe('second-step');
    expect((await treasurer.caller.call('GET /api/me')).staff.enrolling).toBe(true);
    expect((await door.caller.try('GET /api/doors')).status).toBe(200);
    const begun = await treasurer.caller.call('POST /api/account/second-step', { body: { current: own } });
    await treasurer.caller.call('PUT /api/account/second-step', { body: { code: codeOf(begun.secret) } });
    expect((await treasurer.caller.try('GET /api/ledger', { query: {} })).status).toBe(200);
    expect(
      (await treasurer.caller.try('DELETE /api/account/second-step', { body: { current: own } })).problem
        .code,
    ).toBe('second-step-required');
    await odalys.call('PUT /api/staff/second-step', { body: { required: false } });
    await odalys.call('DELETE /api/account/second-step', { body: { current: demoPassword } });
    // Somebody lost theirs: a coordinator turns it off, and every session ends.
    await odalys.call('DELETE /api/staff/:id/second-step', { params: { id: treasurer.id } });
    expect((await treasurer.caller.try('GET /api/me')).status).toBe(401);
    expect((await trySignIn(device(), treasurer.email, own)).body).toEqual({ next: 'in' });
  });

  test('put to rest, somebody is out at once, also of what is open; rights count at once', async () => {
    const { caller, id, email } = await join('Ned Quay', ['coordinator']);
    const odalys = await coordinator();
    const { id: event } = await odalys.call('POST /api/events', { body: { publicTitle: 'Open page' } });
    const stream = await fetch(`${world.origin}/api/events/${event}/stream`, {
      headers: { cookie: [...caller.cookies].map(([n, v]) => `${n}=${v}`).join('; ') },
    });
    const reader = stream.body!.getReader();
    await reader.read();
    const patch = (body: object) =>
      odalys.try('PATCH /api/staff/:id', { params: { id }, body: body as never });
    expect((await caller.try('GET /api/staff')).status).toBe(200);
    expect((await patch({ roles: ['door'] })).status).toBe(200);
    expect((await caller.try('GET /api/staff')).status).toBe(403);
    // The open page of an event that is no longer theirs ends.
    let text = '';
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      text += new TextDecoder().decode(value);
    }
    expect(text).toContain('event: over');
    await patch({ resting: true });
    expect((await caller.try('GET /api/me')).status).toBe(401);
    expect((await trySignIn(device(), email, own)).status).toBe(401);
    expect((await world.anyone.try('POST /api/password-resets', { body: { email } })).status).toBe(201);
    await patch({ resting: false });
    expect((await trySignIn(device(), email, own)).status).toBe(200);
    expect((await patch({ roles: ['unit lead'] })).problem.fields).toMatchObject([{ path: 'unitId' }]);
    expect((await patch({ roles: ['unit lead'], unitId: crypto.randomUUID() })).problem.fields).toMatchObject(
      [{ path: 'unitId' }],
    );
    const [unit] = (await odalys.call('GET /api/choices')).units;
    expect((await patch({ roles: ['unit lead'], unitId: unit!.id })).status).toBe(200);
    expect((await caller.try('GET /api/me')).status).toBe(401);
    const me = (await odalys.call('GET /api/me')).staff.id;
    expect(
      (await odalys.try('PATCH /api/staff/:id', { params: { id: me }, body: { resting: true } })).problem
        .code,
    ).toBe('own-rights');
  });

  test('an invitation is taken back, or sent anew with another link', async () => {
    const odalys = await coordinator();
    const body = { name: 'Oli Quay', email: 'oli.quay@fenmail.example', roles: ['door'] as 'door'[] };
    const { link } = await odalys.call('POST /api/staff/invitations', { body });
    const open = async () =>
      (await odalys.call('GET /api/staff')).invitations.find((i) => i.email === body.email)!;
    const look = (url: string) =>
      world.anyone.try('GET /api/invitations/:token', { params: { token: url.split('/').at(-1)! } });
    const anew = await odalys.call('POST /api/staff/invitations/:id/renew', {
      params: { id: (await open()).id },
    });
    expect([(await look(link)).status, (await look(anew.link)).status]).toEqual([404, 200]);
    await odalys.call('DELETE /api/staff/invitations/:id', { params: { id: (await open()).id } });
    expect((await look(anew.link)).status).toBe(404);
    // What had gone out by then leads nowhere.
    await world.runner.run();
    const sent = await world.app.db.query<{ body: string }>(
      'select body from standin_mail where address = $1',
      [body.email],
    );
    for (const mail of sent)
      expect((await look(mail.body.match(/\/invitation\/[\w-]+/u)![0])).status).toBe(404);
  });

  test('wrong tries are slowed down; a stranger’s do not keep the owner out', async () => {
    const { email, caller } = await join('Pia Quay');
    const stranger = device();
    const statuses: number[] = [];
    for (let n = 0; n < 8; n += 1) statuses.push((await trySignIn(stranger, email, `guess ${n}`)).status);
    expect(statuses.slice(0, 5)).toEqual([401, 401, 401, 401, 401]);
    expect(statuses.at(-1)).toBe(429);
    const refused = await trySignIn(stranger, email, own);
    expect(refused.status).toBe(429);
    expect(Number(refused.headers.get('retry-after'))).toBeGreaterThan(0);
    // Many addresses at once: the account is slowed down for devices it does not know, not for its own.
    for (let n = 0; n < 60; n += 1)
      world.app.throttles.account.failed(email, Date.parse(world.app.sessionClock.now()));
    world.app.throttles.pair.succeeded(`::ffff:127.0.0.1 ${email}`);
    world.app.throttles.pair.succeeded(`127.0.0.1 ${email}`);
    expect((await trySignIn(device(), email, own)).status).toBe(429);
    expect((await trySignIn(caller, email, own)).status).toBe(200);
    shift += 61 * 60_000;
    expect((await trySignIn(device(), email, own)).status).toBe(200);
  });

  test('sign-ins and changed rights are in the trail', async () => {
    const odalys = await coordinator();
    const { rows } = await odalys.call('GET /api/trail', { query: { of: 'accounts' } });
    const actions = new Set(rows.map((r) => r.action));
    for (const action of [
      'signed in',
      'sign-in refused: wrong password',
      'changed the rights of Ned Quay',
      'put to rest Ned Quay',
    ])
      expect([...actions], action).toContain(action);
    expect(rows.every((r) => r.contactId === null)).toBe(true);
  });

  test('a name that is not ours is refused, and a write is compared with the configured origin', async () => {
    const asked = (headers: Record<string, string>, method = 'GET', path = '/api/setup') =>
      new Promise<number>((resolve, reject) => {
        const sent = httpRequest(`${world.origin}${path}`, { method, headers, setHost: false }, (r) => {
          r.resume();
          resolve(r.statusCode!);
        });
        sent.on('error', reject);
        sent.end();
      });
    const host = new URL(world.origin).host;
    expect(await asked({ host })).toBe(200);
    expect(await asked({ host: 'evil.example' })).toBe(421);
    expect(await asked({ host: 'evil.example' }, 'GET', '/')).toBe(421);
    expect(await asked({ host: '' })).toBe(421);
    expect(await asked({ host: 'localhost@evil.example' })).toBe(421);
    // What the request calls itself does not matter: only the configured origin is ours.
    for (const origin of ['http://evil.example', 'null', 'nonsense', 'http://', `https://${host}`])
      expect(await asked({ host, origin }, 'POST', '/api/sign-out'), origin).toBe(403);
    expect(await asked({ host, origin: world.origin }, 'POST', '/api/sign-out')).toBe(200);
  });
});
