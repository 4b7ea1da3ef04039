import { afterAll, beforeAll, beforeEach, expect, test, vi } from 'vitest';
import type { Letter } from '#server/app/app.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { saying } from './scenes.ts';

let world: World;
let odalys: Caller;
const ids: string[] = [];
const people = 60;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  for (let n = 0; n < people; n += 1) {
    const { id } = await odalys.call('POST /api/contacts', {
      body: { given: `N${n}`, family: 'Many', email: `n${n}.many@harbourpost.example` },
    });
    ids.push(id);
  }
});
afterAll(() => world.close());
beforeEach(() => {
  vi.restoreAllMocks();
});

const sending = (goes: boolean) => odalys.call('PUT /api/sending', { body: { stop: !goes } });
/** Writes a mailing to some of them, which waits until sending goes on. */
const write = async (to: readonly string[], subject: string) => {
  await sending(false);
  return odalys.call('POST /api/mailings', {
    body: {
      name: subject,
      topic: 'notice',
      ids: [...to],
      expect: to.length,
      ...saying(subject, 'Hello {{name}}'),
    },
  });
};
const states = async (mailing: string) =>
  Object.fromEntries(
    (
      await world.app.db.query<{ state: string; n: number }>(
        'select state, count(*)::int as n from messages where mailing_id = $1 group by state',
        [mailing],
      )
    ).map((r) => [r.state, r.n]),
  );

test('while many go out, whoever asks for something gets it', async () => {
  const { id } = await write(ids, 'Many');
  await sending(true);
  let over = false;
  const running = world.runner.run().then(() => {
    over = true;
  });
  const { status } = await odalys.try('GET /api/standins', {});
  expect([status, over]).toEqual([200, false]);
  await running;
  expect(await states(id)).toEqual({ sent: people });
  const keys = await world.app.db.query<{ n: number }>(
    "select count(distinct address)::int as n from standin_mail where subject = 'Many'",
  );
  expect(keys[0]!.n).toBe(people);
});

test('one that cannot be written is put aside, and the others go', async () => {
  const { id } = await write(ids.slice(0, 8), 'Odd one');
  // Its text was spoilt: what it is formatted as is none of ours.
  await world.app.db.query(
    `update messages set formatted = '{"type": "doc", "content": [{"type": "table", "content": 7}]}'
     where mailing_id = $1 and contact_id = $2`,
    [id, ids[3]],
  );
  await sending(true);
  await world.runner.run();
  expect(await states(id)).toEqual({ sent: 7, failed: 1 });
  const [spoilt] = await world.app.db.query<{ attempts: number; why: { code: string }; later: boolean }>(
    "select attempts, why_not as why, next_try_at > $2 as later from messages where mailing_id = $1 and state = 'failed'",
    [id, world.app.clock.now()],
  );
  expect(spoilt).toEqual({
    attempts: 1,
    why: { code: 'failed, goes on', params: { failure: 'it could not be written' } },
    later: true,
  });
});

test('sending that is stopped while many go out stops among them, and goes on', async () => {
  const { id } = await write(ids.slice(0, 8), 'Stopped');
  const { mail } = world.app;
  let handed = 0;
  world.app.mail = async (letter: Letter) => {
    handed += 1;
    await mail(letter);
    if (handed !== 3) return;
    await sending(false);
    // A slow gateway: so much time has gone by.
    const now = Date.now();
    vi.spyOn(Date, 'now').mockImplementation(() => now + 60_000);
  };
  await sending(true);
  await world.runner.run();
  expect(handed).toBe(3);
  vi.restoreAllMocks();
  await sending(true);
  await world.runner.run();
  world.app.mail = mail;
  expect([handed, await states(id)]).toEqual([8, { sent: 8 }]);
});
