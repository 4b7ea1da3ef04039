import { beforeEach, describe, expect, test } from 'vitest';
import { wallOf } from '#core/time/wallTime.ts';
import type { Caller, World } from './harness.ts';
import { lineOn, Scene } from './messageLines.ts';
import { type OpenEvent, saying } from './scenes.ts';

const scene = new Scene();
const { plan, planned } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeEach(() => {
  ({ world, odalys, event } = scene);
});

const slugOf = async () =>
  (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan.slug!;
const ask = async (name: string, email: string, of: 'event' | 'series' = 'event') =>
  world.anyone.try('POST /api/public/events/:slug/followers', {
    params: { slug: await slugOf() },
    body: { of, name, email },
  });
const mailsTo = (email: string) =>
  world.app.db.query<{ subject: string; body: string; headers: Record<string, string> }>(
    'select subject, body, headers from standin_mail where address = $1 order by accepted_at, key',
    [email],
  );
const follow = async (name: string, email: string, of: 'event' | 'series' = 'event') => {
  await ask(name, email, of);
  await world.runner.run();
  const token = /\/follow\/([\w-]+)/u.exec((await mailsTo(email)).at(-1)!.body)![1]!;
  await world.anyone.call('POST /api/public/follow/:token', { params: { token }, body: { follows: true } });
  return token;
};
test('that registration opens is said to those who follow, an hour before it does', async () => {
  await plan(event, [lineOn('registration opens', { name: 'Opens', offsetMinutes: -60 })]);
  await follow('Early Reader', 'early.reader@harbourpost.example');
  expect(await planned(event, 'Opens')).toMatchObject({
    goes: [],
    not: [['Early Reader', expect.any(String)]],
  });
  const { version, plan: before } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
  const opens = wallOf(scene.ahead(-10 * 24 * 60), 'America/Halifax').slice(0, 16);
  await odalys.call('PATCH /api/events/:id', {
    params: { id: event.id },
    body: { version, change: { offers: before.offers.map((o) => ({ ...o, opensLocal: opens })) } },
  });
  expect((await planned(event, 'Opens')).goes).toHaveLength(1);
  await world.moveTo(scene.ahead(-10 * 24 * 60 - 59));
  expect((await mailsTo('early.reader@harbourpost.example')).at(-1)!.subject).toMatch(
    /^You can register soon: /u,
  );
});

const lines = () =>
  plan(event, [lineOn('start', { name: 'Followers', audience: 'following', offsetDays: -1 })]);

describe('who follows hears of nothing that is not shown to them', () => {
  test('a date of their series that is not open yet, until it is', async () => {
    await lines();
    await odalys.call('POST /api/series', {
      body: {
        eventId: event.id,
        rule: 'FREQ=MONTHLY;BYMONTHDAY=20;COUNT=2',
        startsLocal: `${scene.begins.slice(0, 10)}T09:00`,
        extra: [],
        skipped: [],
        horizon: 12,
        opens: false,
      },
    });
    await world.runner.run();
    const token = await follow('Nosy Reader', 'nosy.reader@harbourpost.example', 'series');
    const draft = (await odalys.call('GET /api/events')).find(
      (e) => e.title === `Lines ${scene.n}` && e.id !== event.id,
    )!;
    expect(draft.state).toBe('draft');
    const later = { ...event, id: draft.id };
    expect((await planned(event, 'Followers')).goes).toHaveLength(1);
    expect(await planned(later, 'Followers')).toMatchObject({
      goes: [],
      not: [['Nosy Reader', 'it is not open yet']],
    });
    // Nor by the link: what the draft is called by now is nobody's business.
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: draft.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: draft.id },
      body: { version, change: { publicTitle: 'A secret turn' } },
    });
    await world.moveTo(scene.ahead(-24 * 60));
    const page = await world.anyone.call('GET /api/public/follow/:token', { params: { token } });
    expect(JSON.stringify(page)).not.toContain('secret');
  });

  test('an event that became one for members, unless they are one', async () => {
    await lines();
    await follow('Outer Reader', 'outer.reader@harbourpost.example');
    await follow('Inner Reader', 'inner.reader@harbourpost.example');
    const [inner] = await world.app.db.query<{ id: string }>(
      "select id from contacts where given_name = 'Inner'",
    );
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id: inner!.id },
      body: { kind: 'membership', level: 'Member', number: null, from: '2026-01-01', until: null },
    });
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: { version, change: { visibility: 'members' } },
    });
    expect(await planned(event, 'Followers')).toMatchObject({
      goes: [['Inner Reader', 'planned', expect.any(String)]],
      not: [['Outer Reader', 'it is not shown to them']],
    });
  });
});

test('asked twice at once, there is one of them, and one mail', async () => {
  const email = 'twice.reader@harbourpost.example';
  const answers = await Promise.all([
    ask('Twice Reader', email),
    ask('Twice Reader', email),
    ask('Twice Reader', email),
  ]);
  expect(answers.map((a) => a.status)).toEqual([201, 201, 201]);
  await world.runner.run();
  expect(await mailsTo(email)).toHaveLength(1);
});

test.each(['http://evil.example/win', 'Win at www.evil.example', 'a@b.example'])(
  'a stranger has no mail sent that says %s in place of a name',
  async (name) => {
    const { status, problem } = await ask(name, 'victim@harbourpost.example');
    expect(status).toBe(422);
    expect(problem.fields?.[0]).toMatchObject({ path: 'name', code: 'no-name' });
  },
);

test('an address that nobody has is nobody’s: others who share it are not written to there either', async () => {
  await plan(event, [
    lineOn('registration made', { name: 'Confirmation' }),
    lineOn('start', { name: 'Day', offsetDays: -1 }),
  ]);
  for (const given of ['Kit', 'Lou']) {
    await odalys.call('POST /api/contacts', {
      body: { given, family: 'Shared', email: 'shared@harbourpost.example' },
    });
  }
  const [kit] = await world.app.db.query<{ id: string }>("select id from contacts where given_name = 'Kit'");
  await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'refuses', remaining: 1 } });
  await odalys.call('POST /api/mailings', {
    body: { name: 'W', topic: 'notice', ...saying('W', 'Dear {{name}}'), ids: [kit!.id], expect: 1 },
  });
  await world.runner.run();
  const rows = await world.app.db.query<{ bounced: boolean }>(
    "select bounced_at is not null as bounced from contact_emails where email_key = 'shared@harbourpost.example'",
  );
  expect(rows).toEqual([{ bounced: true }, { bounced: true }]);
});
