import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { type Database, first } from '#server/db/database.ts';
import { openPostgres } from '#server/db/postgres.ts';
import { demoPassword } from '#server/staff/demoSignIns.ts';
import { Caller } from '../api/harness.ts';
import { kill, startProcess } from '../api/processes.ts';
import { openEvent, orderFor } from '../api/scenes.ts';

/** Two processes of the product on one database, as behind a balancer. */
describe('two processes on one server', () => {
  const server = inject('postgres')!;
  const name = `two${randomUUID().replaceAll('-', '')}`;
  const url = server.replace(/postgres$/u, name);
  const env = {
    DATABASE_URL: url,
    ACOLYTE_SECRET: 'a secret of the tests',
    ACOLYTE_PUBLIC_WRITES_PER_MINUTE: '100000',
    ACOLYTE_FAIR_SHARE: 'off',
  };
  const ports = [45_100, 45_101].map((p) => p + 2 * Math.floor(Math.random() * 400)) as [number, number];
  let processes: ChildProcess[] = [];
  let db: Database;
  const admin = async (sql: string) => {
    const client = new pg.Client({ connectionString: server });
    await client.connect();
    await client.query(sql).finally(() => client.end());
  };
  const origin = (at: number) => `http://127.0.0.1:${ports[at]}`;
  const signIn = async (at: number, who: string) => {
    const caller = new Caller(origin(at));
    await caller.call('POST /api/sign-in', {
      body: { email: `${who}@brackenmere.example`, password: demoPassword },
    });
    return caller;
  };
  const asked = new Map<string, Caller>();
  const as = async (who: string) => {
    if (!asked.has(who)) asked.set(who, await signIn(0, who));
    return asked.get(who)!;
  };
  /** The same person at the other process: the cookie goes along, as behind a balancer. */
  const there = async (who: string) => {
    const caller = new Caller(origin(1));
    for (const [key, value] of (await as(who)).cookies) caller.cookies.set(key, value);
    return caller;
  };
  const start = (at: number) => startProcess(ports[at]!, { ...env, ACOLYTE_ORIGIN: origin(at) });

  beforeAll(async () => {
    await admin(`create database ${name} template template_of_tests`);
    db = await openPostgres(url);
    processes = await Promise.all([start(0), start(1)]);
  });
  afterAll(async () => {
    await Promise.all(
      processes.filter((p) => p.exitCode === null && !p.signalCode).map((p) => kill(p, 'SIGTERM')),
    );
    await db.close();
    await admin(`drop database ${name} with (force)`);
  });

  test('a hundred parties at both doors never take a seat twice', async () => {
    const event = await openEvent({ as }, { title: 'Two Doors', capacity: 30 });
    const doors = [new Caller(origin(0)), new Caller(origin(1))];
    const replies = await Promise.all(
      Array.from({ length: 100 }, (_, n) =>
        doors[n % 2]!.try('POST /api/public/events/:slug/orders', {
          params: { slug: event.slug },
          body: orderFor(event, [{ given: `Party${n}`, family: 'Doors' }]),
        }),
      ),
    );
    expect(new Set(replies.map((r) => r.status))).toEqual(new Set([201]));
    const seats = await db.query<{ state: string; n: number }>(
      'select state, count(*)::int as n from registrations where event_id = $1 group by state order by state',
      [event.id],
    );
    expect(seats).toEqual([
      { state: 'confirmed', n: 30 },
      { state: 'waitlisted', n: 70 },
    ]);
    const numbers = await db.query<{ number: number }>(
      "select seat_number as number from registrations where event_id = $1 and state = 'confirmed'",
      [event.id],
    );
    expect(numbers).toHaveLength(30);
  });

  test('the same order sent to both at once is one order, answered alike', async () => {
    const event = await openEvent({ as }, { title: 'Sent Twice' });
    const key = { 'idempotency-key': randomUUID() };
    const body = orderFor(event, [{ given: 'Ada', family: 'Twice' }]);
    const [one, two] = await Promise.all(
      [0, 1].map((at) =>
        new Caller(origin(at)).try(
          'POST /api/public/events/:slug/orders',
          { params: { slug: event.slug }, body },
          key,
        ),
      ),
    );
    expect(one!.status).toBe(201);
    expect(two!.body).toEqual(one!.body);
    const made = await first<{ n: number }>(db, 'select count(*)::int as n from orders where event_id = $1', [
      event.id,
    ]);
    expect(made!.n).toBe(1);
  });

  test('a page that hangs on one hears of what the other kept', async () => {
    const event = await openEvent({ as }, { title: 'Heard Next Door' });
    const cookie = [...(await there('odalys')).cookies].map(([k, v]) => `${k}=${v}`).join('; ');
    const stop = new AbortController();
    const page = await fetch(`${origin(1)}/api/events/${event.id}/stream`, {
      headers: { cookie },
      signal: stop.signal,
    });
    const reader = page.body!.pipeThrough(new TextDecoderStream()).getReader();
    let seen = '';
    const until = async (text: string) => {
      while (!seen.includes(text)) seen += (await reader.read()).value ?? '';
    };
    await until('event: ready');
    await new Caller(origin(0)).call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Ada', family: 'Heard' }]),
    });
    await until('event: changed');
    stop.abort();
  });

  test('the lines of matching that are moved at one hold at the other', async () => {
    const odalys = await as('odalys');
    const lines = async (caller: Caller) => (await caller.call('GET /api/pairs')).thresholds;
    const before = await lines(await there('odalys'));
    expect(before.same).not.toBe(0.93);
    await odalys.call('PUT /api/pairs/thresholds', { body: { same: 0.93, look: before.look } });
    await expect.poll(async () => lines(await there('odalys'))).toEqual({ same: 0.93, look: before.look });
  });

  test('who signed in at one is signed in at the other, and signed out of both', async () => {
    const imani = await signIn(0, 'imani');
    const other = new Caller(origin(1));
    for (const [key, value] of imani.cookies) other.cookies.set(key, value);
    expect((await other.try('GET /api/desk')).status).toBe(200);
    await imani.call('POST /api/sign-out');
    expect((await other.try('GET /api/desk')).status).toBe(401);
  });

  test('a clock moved at one has moved at both, and each message went out once', async () => {
    const odalys = await as('odalys');
    const event = await openEvent(
      { as },
      { title: 'Moved On', startsLocal: '2026-07-20T09:00', endsLocal: '2026-07-20T12:00' },
    );
    for (let n = 0; n < 5; n += 1)
      await new Caller(origin(n % 2)).call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given: `Mover${n}`, family: 'On' }]),
      });
    await Promise.all([
      odalys.call('POST /api/clock', { body: { to: '2026-07-20T11:00:00.000Z' } }),
      (await there('odalys')).try('POST /api/clock', { body: { to: '2026-07-20T10:00:00.000Z' } }),
    ]);
    const clocks = async () =>
      Promise.all([odalys, await there('odalys')].map(async (c) => (await c.call('GET /api/clock')).now));
    await expect.poll(clocks).toEqual(['2026-07-20T11:00:00.000Z', '2026-07-20T11:00:00.000Z']);
    const sent = await db.query<{ state: string; n: number; accepted: number }>(
      `select m.state, count(*)::int as n, count(g.key)::int as accepted from messages m
       left join standin_mail g on g.key = m.id::text
       where m.event_id = $1 and m.state in ('sent', 'due', 'failed') group by m.state`,
      [event.id],
    );
    expect(sent.map((s) => s.state)).toEqual(['sent']);
    expect(sent[0]!.n).toBe(sent[0]!.accepted);
    expect(sent[0]!.n).toBeGreaterThanOrEqual(10);
  });

  test('one that is killed leaves nothing undone: the other goes on', async () => {
    const event = await openEvent(
      { as },
      { title: 'Left Behind', startsLocal: '2026-07-25T09:00', endsLocal: '2026-07-25T12:00' },
    );
    await kill(processes[0]!, 'SIGKILL');
    // It may have died holding its lease, which runs out by itself.
    await db.query("update leases set until = clock_timestamp() - interval '1 second'");
    await new Caller(origin(1)).call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Ada', family: 'Left' }]),
    });
    await expect
      .poll(
        async () =>
          (await db.query("select 1 from messages where event_id = $1 and state = 'sent'", [event.id]))
            .length,
        { timeout: 20_000 },
      )
      .toBe(1);
  });

  test('a process with another secret is refused', async () => {
    await expect(
      startProcess(ports[0], { ...env, ACOLYTE_SECRET: 'another secret than before' }),
    ).rejects.toThrow('ACOLYTE_SECRET is not the one');
    await expect(
      startProcess(ports[0], { ...env, ACOLYTE_SECRET: '', ACOLYTE_DATA: 'no-such-folder' }),
    ).rejects.toThrow('ACOLYTE_SECRET has at least 16 characters');
  });
});
