import { request } from 'node:http';
import sharp from 'sharp';
import { afterEach, describe, expect, test } from 'vitest';
import type { Segment } from '#core/records/segment.ts';
import { type Caller, linkTo, makeWorld, type World } from './harness.ts';
import { openEvent, orderFor, saying, surveyOf } from './scenes.ts';

let world: World;
afterEach(() => world.close());

/** A request as no browser makes it; answers its status. */
const raw = (path: string, headers: Record<string, string>, body = '{}'): Promise<number> =>
  new Promise((resolve, reject) => {
    const asked = request(
      `${world.origin}${path}`,
      { method: 'POST', headers: { 'content-type': 'application/json', ...headers } },
      (response) => {
        response.resume();
        resolve(response.statusCode ?? 0);
      },
    );
    asked.on('error', reject);
    asked.end(body);
  });

describe('segments', () => {
  const tag = (n: number): Segment => ({ ask: 'tag', tag: `t${n}` });
  const body = (s: Segment) => ({ segment: s as unknown as Record<string, unknown> });

  test('one that cannot be asked spoils neither the list nor the others', async () => {
    world = await makeWorld();
    const odalys = await world.as('odalys');
    const good = await odalys.call('POST /api/segments', { body: { name: 'Good', ...body({ all: [] }) } });
    const bad = await odalys.call('POST /api/segments', { body: { name: 'Bad', ...body(tag(1)) } });
    // As a version before this one could have kept it.
    await world.app.db.query(
      `update segments set segment = '{"ask":"donated","amount":{"is":"at least","n":1},"within":{"when":"between","from":"0001-01-01","to":"999999-01-01"}}' where id = $1`,
      [bad.id],
    );
    const list = await odalys.call('GET /api/segments');
    expect(list.map((s) => [s.name, s.count === null])).toEqual([
      ['Bad', true],
      ['Good', false],
    ]);
    expect(
      (await odalys.try('GET /api/segments/:id/contacts', { params: { id: bad.id } })).status,
    ).toBeLessThan(500);
    expect((await odalys.call('GET /api/segments/:id', { params: { id: good.id } })).count).toBe(0);
    // It can be put right or thrown away.
    await odalys.call('DELETE /api/segments/:id', { params: { id: bad.id } });
  });

  test('two hundred questions find whom they should; frozen they keep them', async () => {
    world = await makeWorld();
    const odalys = await world.as('odalys');
    const ids: string[] = [];
    for (const given of ['Corin', 'Torben', 'Ulrika'])
      ids.push((await odalys.call('POST /api/contacts', { body: { given, family: 'Blythe' } })).id);
    await odalys.call('POST /api/tags', { body: { tag: 't150', ids: [ids[0]!] } });
    await odalys.call('POST /api/tags', { body: { tag: 't7', ids: [ids[1]!] } });
    const heavy: Segment = { any: Array.from({ length: 199 }, (_, n) => tag(n)) };
    expect((await odalys.call('POST /api/segments/count', { body: body(heavy) })).count).toBe(2);
    const none: Segment = { not: { any: [heavy, { ask: 'tag', tag: 'x' }] } };
    expect((await odalys.call('POST /api/segments/count', { body: body(none) })).count).toBe(1);
    const { id } = await odalys.call('POST /api/segments', { body: { name: 'Heavy', ...body(heavy) } });
    await odalys.call('PATCH /api/segments/:id', { params: { id }, body: { frozen: true } });
    await odalys.call('POST /api/tags', { body: { tag: 't7', ids: [ids[2]!] } });
    expect((await odalys.call('GET /api/segments/:id', { params: { id } })).count).toBe(2);
    expect((await odalys.call('GET /api/contacts', { query: { segment: id } })).total).toBe(2);
    await odalys.call('PATCH /api/segments/:id', { params: { id }, body: { frozen: false } });
    expect((await odalys.call('GET /api/segments/:id', { params: { id } })).count).toBe(3);
  });
});

describe('what comes in', () => {
  const refused = async (caller: Caller, key: 'POST /api/contacts' | 'POST /api/events', body: object) => {
    const reply = await caller.try(key, { body: body as never });
    return [reply.status, reply.problem.fields?.[0]?.path];
  };

  test('controls, half characters and days outside the calendar are refused beside their field', async () => {
    world = await makeWorld();
    const odalys = await world.as('odalys');
    const person = { given: 'Corin', family: 'Blythe' };
    expect(await refused(odalys, 'POST /api/contacts', { ...person, family: 'Blythe\r\nX:y' })).toEqual([
      422,
      'family',
    ]);
    expect(await refused(odalys, 'POST /api/contacts', { ...person, given: '\ud800' })).toEqual([
      422,
      'given',
    ]);
    expect(await refused(odalys, 'POST /api/contacts', { ...person, street: 'a\u0000' })).toEqual([
      422,
      'street',
    ]);
    expect(await refused(odalys, 'POST /api/contacts', { ...person, birthDate: '1799-12-31' })).toEqual([
      422,
      'birthDate',
    ]);
    expect(
      await refused(odalys, 'POST /api/events', { publicTitle: 'Lantern\nBCC: x@elsewhere.example' }),
    ).toEqual([422, 'publicTitle']);
    await odalys.call('POST /api/contacts', { body: { ...person, birthDate: '1800-01-01' } });
  });

  test('a broken Origin or Host is refused in words', async () => {
    world = await makeWorld();
    for (const origin of ['null', 'http://', 'nonsense', 'https://elsewhere.example', '://', 'http://[::1'])
      expect(await raw('/api/sign-in', { origin }), origin).toBe(403);
    expect(await raw('/api/sign-in', { host: 'elsewhere.example' })).toBe(421);
  });

  test('a name with a line end in it, as an old list brought it, begins no header of a message', async () => {
    world = await makeWorld();
    const odalys = await world.as('odalys');
    const { id } = await odalys.call('POST /api/contacts', {
      body: { given: 'Corin', family: 'Blythe', email: 'corin@fenmail.example' },
    });
    await world.app.db.query(
      `update contacts set given_name = E'Corin\\r\\nBCC: all@elsewhere.example' where id = $1`,
      [id],
    );
    await odalys.call('POST /api/mailings', {
      body: {
        ids: [id],
        name: 'News',
        topic: 'notice',
        expect: 1,
        ...saying('Hello {{name}}', 'The boardwalk is open.'),
      },
    });
    await world.runner.run();
    const [mail] = await world.app.db.query<{ subject: string }>(
      "select subject from standin_mail where address = 'corin@fenmail.example'",
    );
    expect(mail!.subject).toBe('Hello Corin BCC: all@elsewhere.example');
  });

  test('a picture is no larger than somebody can look at, whatever its file says of its size', async () => {
    world = await makeWorld();
    const odalys = await world.as('odalys');
    const { id } = await odalys.call('POST /api/contacts', { body: { given: 'Corin', family: 'Blythe' } });
    const png = (width: number, height: number) => {
      const header = Buffer.alloc(33);
      Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex').copy(header);
      header.writeUInt32BE(width, 16);
      header.writeUInt32BE(height, 20);
      return header.toString('base64');
    };
    const put = async (content: string) =>
      (await odalys.try('PUT /api/contacts/:id/photo', { params: { id }, body: { content } })).problem
        .fields![0]!.code;
    const flat = async (width: number, height: number) =>
      (
        await sharp({ create: { width, height, channels: 3, background: '#fff' } })
          .png()
          .toBuffer()
      ).toString('base64');
    expect(await put(await flat(16_001, 10))).toBe('too-many-pixels');
    expect(await put(await flat(8000, 6300))).toBe('too-many-pixels');
    // It says what it is, and there is nothing of it.
    expect(await put(png(4096, 4096))).toBe('picture-broken');
    expect(await put(Buffer.from('ffd8ff', 'hex').toString('base64'))).toBe('picture-broken');
    expect(await put(Buffer.from('RIFF____WEBP').toString('base64'))).toBe('picture-broken');
  });
});

describe('strangers', () => {
  test('one address holds its share of seats unpaid, not all of them', async () => {
    world = await makeWorld({ fairShare: true });
    const event = await openEvent(world, { price: 2500, capacity: 20, so: ['money'] });
    const order = (units: number, n: number) =>
      world.anyone.try('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: {
          ...orderFor(event, [{ given: `Sunniva${n}`, family: 'Aldous' }]),
          lines: [{ offerId: event.offers[0]!.id, units }],
        },
      });
    expect((await order(6, 1)).status).toBe(201);
    const second = await order(4, 2);
    expect(second.status).toBe(201);
    const third = await order(1, 3);
    expect([third.status, third.problem.code]).toEqual([429, 'too-many-unpaid']);
    // Letting them lapse and holding again is the same to everybody else.
    await world.moveTo('2026-07-09T12:40:00Z');
    expect((await order(1, 4)).status).toBe(429);
    // An hour later it is forgotten, and what is paid for does not count.
    await world.moveTo('2026-07-09T13:30:00Z');
    const later = await order(8, 5);
    expect(later.status).toBe(201);
    await world.anyone.call('POST /api/public/orders/:token/pay', {
      params: { token: later.body.token },
      body: { card: '9000000000000001', expiry: '12/30' },
    });
    expect((await order(8, 6)).status).toBe(201);
    expect((await order(3, 7)).status).toBe(429);
  });

  test('an anonymous answer leaves nothing by which it is joined to a person', async () => {
    world = await makeWorld();
    const event = await openEvent(world, {
      capacity: 30,
      surveys: [surveyOf([{ id: 'next', kind: 'text' }], { anonymous: true })],
    });
    const names = 'Asa Bo Cai Dov Eli Fin Gus Hal Ira Jun Kit Lou'.split(' ');
    const contacts: string[] = [];
    for (const given of names) {
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given, family: 'Reed' }]),
      });
    }
    const odalys = await world.as('odalys');
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    await world.moveTo('2026-08-08T15:00:00Z');
    for (const given of names) {
      const row = rows.find((r) => r.given === given)!;
      await odalys.call('POST /api/registrations/:id/attendance', {
        params: { id: row.id },
        body: { eventId: event.id, state: 'arrived' },
      });
      contacts.push(row.contactId!);
    }
    await world.moveTo('2026-08-10T12:00:00Z');
    const asks = await world.app.db.query<{ id: string; contactId: string; surveyId: string }>(
      'select id, contact_id, survey_id from survey_asks',
    );
    for (const [at, contactId] of contacts.entries()) {
      const ask = asks.find((a) => a.contactId === contactId)!;
      const token = (await linkTo(world.app, 'survey', ask.id)).split('/').at(-1)!;
      const answer = () =>
        world.anyone.try(
          'POST /api/public/surveys/:token',
          {
            params: { token },
            body: { answers: { next: `answer ${String(at).padStart(2, '0')}` } },
          },
          { 'idempotency-key': `answering-${at}` },
        );
      // Twice at once: one of them counts.
      const both = await Promise.all([answer(), answer()]);
      expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    }
    expect(await world.app.db.query('select 1 from survey_responses')).toEqual([]);
    const stored = await world.app.db.query<{ answer: string; xmin: string }>(
      `select value #>> '{}' as answer, xmin::text from survey_slips order by ctid`,
    );
    expect(stored.map((s) => s.answer).toSorted()).toEqual(
      names.map((_, at) => `answer ${String(at).padStart(2, '0')}`),
    );
    // All were written anew with the last one, in another order than they were given.
    expect(new Set(stored.map((s) => s.xmin)).size).toBe(1);
    expect(stored.map((s) => s.answer)).not.toEqual(stored.map((s) => s.answer).toSorted());
    const marks = await world.app.db.query<{ xmin: string }>('select xmin::text from survey_asks');
    expect(new Set(marks.map((m) => m.xmin)).size).toBe(1);
    expect(await world.app.db.query("select 1 from idempotency where scope like '%surveys%'")).toEqual([]);
    // Once each all the same.
    const token = (await linkTo(world.app, 'survey', asks[0]!.id)).split('/').at(-1)!;
    expect(
      (
        await world.anyone.try('POST /api/public/surveys/:token', {
          params: { token },
          body: { answers: {} },
        })
      ).problem.code,
    ).toBe('survey-answered');
  });

  test('a link that came into other hands is stopped or renewed, and each is written down', async () => {
    world = await makeWorld();
    const odalys = await world.as('odalys');
    const { id } = await odalys.call('POST /api/contacts', {
      body: { given: 'Corin', family: 'Blythe', email: 'corin@fenmail.example' },
    });
    const tokenOf = async () => (await linkTo(world.app, 'own', id)).split('/').at(-1)!;
    const token = await tokenOf();
    const open = async (t: string) =>
      (await world.anyone.try('GET /api/public/own/:token', { params: { token: t } })).status;
    expect(await open(token)).toBe(200);
    const links = await odalys.call('GET /api/contacts/:id/links', { params: { id } });
    expect(links).toMatchObject([{ kind: 'own', subjectId: id, about: 'Their own page', stoppedAt: null }]);
    expect(JSON.stringify(links)).not.toContain(token);
    const change = (renew: boolean) =>
      odalys.call('POST /api/contacts/:id/links', {
        params: { id },
        body: { kind: 'own', subjectId: id, renew },
      });
    await change(false);
    expect(await open(token)).toBe(404);
    // A message does not open it again.
    expect(await tokenOf()).toBe(token);
    expect(await open(token)).toBe(404);
    await change(true);
    expect(await open(token)).toBe(404);
    const renewed = await tokenOf();
    expect(renewed).not.toBe(token);
    expect(await open(renewed)).toBe(200);
    const other = await odalys.call('POST /api/contacts', { body: { given: 'Ulrika', family: 'Tansley' } });
    const wrong = await odalys.try('POST /api/contacts/:id/links', {
      params: { id: other.id },
      body: { kind: 'own', subjectId: id, renew: true },
    });
    expect(wrong.status).toBe(404);
    // Not theirs, though they have one of that kind.
    await linkTo(world.app, 'own', other.id);
    const stillWrong = await odalys.try('POST /api/contacts/:id/links', {
      params: { id: other.id },
      body: { kind: 'own', subjectId: id, renew: true },
    });
    expect(stillWrong.status).toBe(404);
    expect(await open(renewed)).toBe(200);
    const trail = await world.app.db.query<{ action: string }>(
      "select action from audit where action like '%a link' order by id",
    );
    expect(trail.map((t) => t.action)).toEqual(['stopped a link', 'renewed a link']);
  });

  test('a treasurer of a unit has the money of its events, and the ledger of no other', async () => {
    world = await makeWorld();
    const own = await openEvent(world, { title: 'Own', unit: 'Small Boats' });
    const other = await openEvent(world, { title: 'Other', unit: 'Mudlarks' });
    await world.app.db.query(
      "update staff set roles = '{treasurer}', unit_id = (select id from units where name = 'Small Boats') where email like 'marit%'",
    );
    const marit = await world.as('marit');
    expect((await marit.try('GET /api/ledger')).problem.code).toBe('one-of-your-events');
    expect((await marit.try('GET /api/ledger.csv')).problem.code).toBe('one-of-your-events');
    expect((await marit.try('GET /api/ledger', { query: { eventId: own.id } })).status).toBe(200);
    expect((await marit.try('GET /api/ledger', { query: { eventId: other.id } })).status).toBe(403);
    expect((await marit.try('GET /api/contacts')).status).toBe(403);
    expect((await marit.try('GET /api/tags')).status).toBe(403);
    // Funds are those of the whole organization.
    const { funds } = await marit.call('GET /api/choices');
    const body = { name: 'Our own' };
    expect((await marit.try('POST /api/funds', { body })).status).toBe(403);
    expect((await marit.try('PATCH /api/funds/:id', { params: { id: funds[0]!.id }, body })).status).toBe(
      403,
    );
  });
});
