import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Caller, linkTo } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor, surveyOf } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld({ limits: { publicWrites: 5000, signIns: 5000 } });
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const add = async (given: string, more: object = {}) =>
  (
    await odalys.call('POST /api/contacts', {
      body: { given, family: 'Reedling', email: `${given.toLowerCase()}@fenmail.example`, ...more } as never,
    })
  ).id;
/** What was written to an address, newest first. */
const mailTo = async (address: string) => {
  await world.runner.run();
  return world.app.db.query<{ body: string }>(
    'select body from standin_mail where address = $1 order by accepted_at desc, key desc',
    [address],
  );
};
const codeIn = (body: string) => /\d{3} \d{3}/u.exec(body)![0];
const linkIn = (body: string) => /\/mine\/in\/([\w-]+)/u.exec(body)![1]!;
const ask = async (by: Caller, email: string) => by.call('POST /api/public/sign-in', { body: { email } });
const enter = (by: Caller, ticket: string, code: string, contactId: string | null = null) =>
  by.try('POST /api/public/sign-in/code', { body: { ticket, code, contactId } });
const mine = (by: Caller) => by.call('GET /api/public/mine');
/** Somebody signed in on a device of their own. */
async function signedIn(email: string): Promise<Caller> {
  const by = new Caller(world.origin);
  const { ticket } = await ask(by, email);
  const [mail] = await mailTo(email);
  expect((await enter(by, ticket, codeIn(mail!.body))).body).toEqual({ signedIn: true, choose: [] });
  return by;
}
const see = async (id: string, change: object) => {
  const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
  await odalys.call('PATCH /api/events/:id', { params: { id }, body: { version, change } as never });
};

describe('signing in by a code', () => {
  test('the code works once, where it was asked for; the message is hidden from the staff', async () => {
    await add('Una');
    const una = await signedIn('una@fenmail.example');
    expect((await mine(una))!.person).toMatchObject({ given: 'Una', family: 'Reedling' });
    const { rows } = await odalys.call('GET /api/tray', { query: { state: 'sent' } } as never);
    const sent = rows.find((m) => m.kind === 'sign in')!;
    const shown = await odalys.call('GET /api/messages/:id', { params: { id: sent.id } });
    expect(shown.body).toContain('[code]');
    expect(JSON.stringify(shown)).not.toMatch(/\d{3} \d{3}\b|mine\/in\//u);
    await una.call('DELETE /api/public/sign-in');
    expect(await mine(una)).toBeNull();
  });

  test('the answer is the same for an address nobody has, and nothing is sent', async () => {
    const stranger = new Caller(world.origin);
    // The demonstration says the code where it was asked for; nothing else does.
    world.app.movable = false;
    const known = await ask(stranger, 'una@fenmail.example');
    const unknown = await ask(stranger, 'nobody@elsewhere.example');
    world.app.movable = true;
    expect(Object.keys(unknown)).toEqual(Object.keys(known));
    expect([known.demoCode, unknown.demoCode]).toEqual([null, null]);
    expect(unknown.ticket).toHaveLength(known.ticket.length);
    expect(await mailTo('nobody@elsewhere.example')).toEqual([]);
    expect((await enter(stranger, unknown.ticket, '123456')).problem.code).toBe('invalid');
    expect((await stranger.try('POST /api/public/sign-in', { body: { email: 'no address' } })).status).toBe(
      422,
    );
  });

  test('a code that was used, that is tried on another device or after five wrong ones, does not work', async () => {
    await add('Bo');
    const email = 'bo@fenmail.example';
    const bo = new Caller(world.origin);
    const { ticket } = await ask(bo, email);
    const code = codeIn((await mailTo(email))[0]!.body);
    const other = new Caller(world.origin);
    const elsewhere = await ask(other, 'una@fenmail.example');
    expect((await enter(other, elsewhere.ticket, code)).problem.fields).toMatchObject([
      { code: 'sign-in-code-wrong' },
    ]);
    expect((await enter(bo, ticket, code)).status).toBe(200);
    expect((await enter(bo, ticket, code)).problem.fields).toMatchObject([
      { path: 'code', code: 'sign-in-code-wrong' },
    ]);
    const again = await ask(bo, email);
    const next = codeIn((await mailTo(email))[0]!.body);
    const wrong = next === '000 000' ? '000 001' : '000 000';
    for (let n = 0; n < 5; n += 1) expect((await enter(bo, again.ticket, wrong)).status).toBe(422);
    expect((await enter(bo, again.ticket, next)).status).toBe(422);
  });

  test('a thousand tries at once never count as fewer than five', async () => {
    await add('Cy');
    const cy = new Caller(world.origin);
    const { ticket } = await ask(cy, 'cy@fenmail.example');
    const code = codeIn((await mailTo('cy@fenmail.example'))[0]!.body).replace(' ', '');
    const guesses = Array.from({ length: 60 }, (_, n) =>
      String((Number(code) + n + 1) % 1_000_000).padStart(6, '0'),
    );
    await Promise.all(guesses.map((g) => enter(cy, ticket, g)));
    expect((await enter(cy, ticket, code)).status).toBe(422);
  });

  test('three in a quarter of an hour are sent, and the fourth is not', async () => {
    await add('Dee');
    for (let n = 0; n < 5; n += 1) await ask(world.anyone, 'dee@fenmail.example');
    expect(await mailTo('dee@fenmail.example')).toHaveLength(3);
  });

  test('of two that come at once with one code, one is signed in', async () => {
    await add('Eli');
    const eli = new Caller(world.origin);
    const { ticket } = await ask(eli, 'eli@fenmail.example');
    const code = codeIn((await mailTo('eli@fenmail.example'))[0]!.body);
    const both = await Promise.all([enter(new Caller(world.origin), ticket, code), enter(eli, ticket, code)]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 422]);
  });

  test('the link works on any device, once; after fifteen minutes neither does', async () => {
    await add('Fay');
    await ask(world.anyone, 'fay@fenmail.example');
    const token = linkIn((await mailTo('fay@fenmail.example'))[0]!.body);
    const phone = new Caller(world.origin);
    const open = () => phone.try('POST /api/public/sign-in/link', { body: { token } });
    expect((await open()).body).toEqual({ signedIn: true, choose: [] });
    expect((await mine(phone))!.person.given).toBe('Fay');
    expect((await open()).problem.code).toBe('link-over');
    await ask(world.anyone, 'fay@fenmail.example');
    const late = linkIn((await mailTo('fay@fenmail.example'))[0]!.body);
    await world.app.db.query(
      "update visitor_codes set expires_at = created_at + interval '1 second', created_at = created_at - interval '1 hour'",
    );
    await world.app.db.query('update visitor_codes set expires_at = created_at');
    expect((await phone.try('POST /api/public/sign-in/link', { body: { token: late } })).problem.code).toBe(
      'link-over',
    );
  });

  test('of several people at one address one is chosen; nobody else’s id signs in', async () => {
    const email = 'delacroix@fenmail.example';
    const mai = await add('Mai', { email });
    await add('Luc', { email });
    const stranger = await add('Zoe');
    const by = new Caller(world.origin);
    const { ticket } = await ask(by, email);
    const code = codeIn((await mailTo(email))[0]!.body);
    const asked = (await enter(by, ticket, code)).body;
    expect(asked.signedIn).toBe(false);
    expect(asked.choose.map((p: { name: string }) => p.name)).toEqual(['Mai Reedling', 'Luc Reedling']);
    expect((await enter(by, ticket, code, stranger)).body.signedIn).toBe(false);
    expect(await mine(by)).toBeNull();
    expect((await enter(by, ticket, code, mai)).body.signedIn).toBe(true);
    expect((await mine(by))!.person.id).toBe(mai);
    // Forgotten, they are signed out.
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: mai },
      body: { name: 'Mai Reedling' },
    });
    expect(await mine(by)).toBeNull();
  });
});

describe('what is not for everybody', () => {
  const page = (by: Caller, slug: string) => by.try('GET /api/public/events/:slug', { params: { slug } });
  const listed = async (by: Caller) => (await by.call('GET /api/public/events')).events.map((e) => e.title);

  test('is seen by members who are signed in, listed for them, and nowhere else', async () => {
    const id = await add('Gil');
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id },
      body: { kind: 'membership', level: 'Adult', from: '2020-01-01' } as never,
    });
    await add('Hal');
    const [gil, hal] = [await signedIn('gil@fenmail.example'), await signedIn('hal@fenmail.example')];
    const event = await openEvent(world, { title: 'Members walk' });
    await see(event.id, { visibility: 'members' });
    expect((await page(gil, event.slug)).status).toBe(200);
    for (const by of [hal, world.anyone]) {
      expect((await page(by, event.slug)).status).toBe(404);
      expect(await listed(by)).not.toContain('Members walk');
      // Nor does anybody register for what they do not see.
      expect(
        (
          await by.try('POST /api/public/events/:slug/orders', {
            params: { slug: event.slug },
            body: orderFor(event, [{ given: 'X', family: 'Y' }]),
          })
        ).status,
      ).toBe(404);
      expect(
        (await by.try('GET /api/public/events/:slug/calendar.ics', { params: { slug: event.slug } })).status,
      ).toBe(404);
    }
    expect(await listed(gil)).toContain('Members walk');
    expect((await mine(gil))!.forThem.map((e) => e.title)).toEqual(['Members walk']);
    expect(await (await fetch(`${world.origin}/api/public/calendar.ics`)).text()).not.toContain(
      'Members walk',
    );
    await see(event.id, { listed: false });
    expect(await listed(gil)).not.toContain('Members walk');
    expect((await page(gil, event.slug)).status).toBe(200);
  });

  test('for those invited: whoever is on the list sees it, until they are taken off', async () => {
    const kit = await add('Kit');
    const caller = await signedIn('kit@fenmail.example');
    const event = await openEvent(world, { title: 'By invitation' });
    await see(event.id, { visibility: 'invited' });
    expect((await page(caller, event.slug)).status).toBe(404);
    const params = { id: event.id };
    const invite = (contactIds: string[]) =>
      odalys.call('POST /api/events/:id/invited', { params, body: { contactIds } });
    expect(await invite([kit, crypto.randomUUID()])).toEqual({ contactIds: [kit] });
    // Twice is once.
    expect(await invite([kit])).toEqual({ contactIds: [] });
    expect(await odalys.call('GET /api/events/:id/invited', { params })).toMatchObject([
      { contactId: kit, name: 'Kit Reedling', answer: null, companions: 0, written: 0 },
    ]);
    expect((await page(caller, event.slug)).status).toBe(200);
    const piers = await world.as('piers');
    expect((await piers.try('GET /api/events/:id/invited', { params })).status).toBe(403);
    const off = () =>
      odalys.try('DELETE /api/events/:id/invited/:contact', { params: { ...params, contact: kit } });
    expect((await off()).status).toBe(200);
    expect((await off()).status).toBe(404);
    expect((await page(caller, event.slug)).status).toBe(404);
  });

  test('that somebody was here is written down once a minute; a session that ended is none', async () => {
    await add('Lin');
    const lin = await signedIn('lin@fenmail.example');
    const seen = () =>
      world.app.db.query<{ seenAt: string }>(
        'select seen_at from visitor_sessions order by created_at desc limit 1',
      );
    await world.app.db.query("update visitor_sessions set seen_at = seen_at - interval '2 minutes'");
    const [before] = await seen();
    await mine(lin);
    const [after] = await seen();
    expect(after!.seenAt > before!.seenAt).toBe(true);
    await mine(lin);
    expect(await seen()).toEqual([after]);
    await world.app.db.query("update visitor_sessions set expires_at = now() - interval '1 day'");
    expect(await mine(lin)).toBeNull();
  });

  test('narrowed after people registered, it is still theirs', async () => {
    await add('Ida');
    const ida = await signedIn('ida@fenmail.example');
    const event = await openEvent(world, { title: 'Narrowed' });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Ida', family: 'Reedling' }], { email: 'ida@fenmail.example' }),
    });
    await see(event.id, { visibility: 'invited' });
    expect((await page(ida, event.slug)).status).toBe(200);
    expect((await page(world.anyone, event.slug)).status).toBe(404);
    // Their booking leads where it led.
    expect((await world.anyone.try('GET /api/public/orders/:token', { params: { token } })).status).toBe(200);
    const held = (await mine(ida))!.seats;
    expect(held).toMatchObject([{ event: { title: 'Narrowed' }, coming: true, state: 'confirmed', token }]);
  });
});

describe('all that somebody holds', () => {
  test('seats of theirs and of others, what is to be signed, surveys waiting, gifts, and a calendar; a stopped link shows nothing', async () => {
    const vera = await add('Vera');
    const by = await signedIn('vera@fenmail.example');
    const event = await openEvent(world, { title: 'Held Paddle', so: ['boats'], waiver: 'On the water' });
    // Somebody else books for her, and she by herself.
    const place = (buyer: string, people: [string, string][]) =>
      world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(
          event,
          people.map(([given, birthDate]) => ({ given, family: 'Reedling', birthDate })),
          { email: `${buyer}@fenmail.example` },
        ),
      });
    const own = await place('vera', [
      ['Vera', '1980-02-03'],
      ['Bjarne', '1979-01-01'],
    ]);
    await place('host', [['Hostess', '1970-01-01']]);
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const other = rows.find((r) => r.given === 'Hostess')!;
    await world.app.db.query('update registrations set contact_id = $2, given_name = $3 where id = $1', [
      other.id,
      vera,
      'Vera',
    ]);
    const seats = (await mine(by))!.seats;
    expect(seats.map((s) => [s.name, s.toSign, s.token, s.seatToken !== null])).toEqual([
      ['Vera Reedling', true, own.token, false],
      ['Bjarne Reedling', true, own.token, false],
      ['Vera Reedling', true, null, true],
    ]);
    const guest = seats[2]!.seatToken!;
    expect(
      (await world.anyone.call('GET /api/public/guests/:token', { params: { token: guest } })).given,
    ).toBe('Vera');

    const { funds } = await odalys.call('GET /api/choices');
    await world.app.db.query(
      "insert into donations (id, contact_id, fund_id, amount, currency, anonymous, at) values (gen_random_uuid(), $1, $2, 2500, 'CAD', true, '2025-12-31T23:30:00Z')",
      [vera, funds[0]!.id],
    );
    const page = (await mine(by))!;
    expect(page.gifts).toEqual([
      { on: '2025-12-31', amount: 2500, currency: 'CAD', fund: funds[0]!.name, event: null, anonymous: true },
    ]);
    const feed = () =>
      world.anyone.try('GET /api/public/mine/:token/calendar.ics', { params: { token: page.feedToken } });
    const text = (await feed()).body as unknown as string;
    expect(text.match(/BEGIN:VEVENT/gu)).toHaveLength(1);
    expect(text).toContain('SUMMARY:Held Paddle');
    // What was long ago is off it, and so is what is not certain, or no more.
    const entries = async () =>
      ((await feed()).body as unknown as string).match(/BEGIN:VEVENT/gu)?.length ?? 0;
    const moved = (days: number) =>
      world.app.db.query(
        'update events set starts_at = $2::timestamptz - make_interval(days => $3) where id = $1',
        [event.id, world.app.clock.now(), days],
      );
    await moved(61);
    expect(await entries()).toBe(1);
    await moved(63);
    expect(await entries()).toBe(0);
    await moved(1);
    await world.app.db.query("update registrations set state = 'waitlisted' where event_id = $1", [event.id]);
    expect(await entries()).toBe(0);
    const links = await odalys.call('GET /api/contacts/:id/links', { params: { id: vera } });
    expect(links.map((l) => l.about)).toContain('Their calendar');
    await odalys.call('POST /api/contacts/:id/links', {
      params: { id: vera },
      body: { kind: 'feed', subjectId: vera, renew: false },
    });
    expect((await feed()).status).toBe(404);
  });

  test('a survey that waits is there until it is answered', async () => {
    const runa = await add('Runa');
    const by = await signedIn('runa@fenmail.example');
    const event = await openEvent(world, {
      title: 'Held Survey',
      startsLocal: '2026-07-09T18:00',
      endsLocal: '2026-07-09T19:00',
      surveys: [surveyOf([{ id: 'liked', kind: 'scale', required: true }])],
    });
    const [survey] = await world.app.db.query<{ id: string }>('select id from surveys where event_id = $1', [
      event.id,
    ]);
    const [askId] = [crypto.randomUUID()];
    await world.app.db.query('insert into survey_asks (id, survey_id, contact_id) values ($1, $2, $3)', [
      askId,
      survey!.id,
      runa,
    ]);
    const token = (await linkTo(world.app, 'survey', askId)).split('/').at(-1)!;
    expect((await mine(by))!.surveys).toEqual([{ title: 'Held Survey', token }]);
    await world.anyone.call('POST /api/public/surveys/:token', {
      params: { token },
      body: { answers: { liked: 5 } } as never,
    });
    expect((await mine(by))!.surveys).toEqual([]);
  });
});
