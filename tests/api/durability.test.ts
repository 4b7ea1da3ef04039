import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from 'vitest';
import { migrate, shippedMigrations } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { fillFolder } from './founded.ts';
import { Caller } from './harness.ts';
import { kill, startProcess } from './processes.ts';

const folders: string[] = [];
const makeFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'acolyte-'));
  folders.push(folder);
  return folder;
};
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

const startServer = (folder: string, port: number) => startProcess(port, { ACOLYTE_DATA: folder });

describe('a data folder', () => {
  test('whatever was acknowledged is there after a kill in the middle of writes', async () => {
    const folder = makeFolder();
    const port = 45_000 + Math.floor(Math.random() * 2000);
    fillFolder(folder);
    const server = await startServer(folder, port);
    const odalys = new Caller(`http://127.0.0.1:${port}`);
    await odalys.call('POST /api/sign-in', {
      body: { email: 'odalys@brackenmere.example', password: 'marsh-wren-2026' },
    });
    const acknowledged: string[] = [];
    const writing = (async () => {
      for (let n = 0; ; n += 1) {
        const given = `Kept${n}`;
        const reply = await odalys
          .try('POST /api/contacts', { body: { given, family: 'Durable' } })
          .catch(() => null);
        if (!reply) return;
        if (reply.status === 201) acknowledged.push(given);
        if (n === 60) void kill(server, 'SIGKILL');
      }
    })();
    await writing;
    expect(acknowledged.length).toBeGreaterThanOrEqual(60);
    const again = await startServer(folder, port);
    const back = new Caller(`http://127.0.0.1:${port}`);
    await back.call('POST /api/sign-in', {
      body: { email: 'odalys@brackenmere.example', password: 'marsh-wren-2026' },
    });
    const { contacts } = await back.call('GET /api/contacts', { query: { q: 'durable', limit: 500 } });
    const there = new Set(contacts.map((c) => c.given));
    expect(acknowledged.filter((given) => !there.has(given))).toEqual([]);
    await kill(again, 'SIGTERM');
    const closed = await openPglite({ folder: join(folder, 'pg') });
    expect(await closed.query('select count(*)::int as n from organization')).toEqual([{ n: 1 }]);
    await closed.close();
  });
});

describe('migrations', () => {
  test('are applied once, and one that was changed afterwards is refused', async () => {
    const db = await openPglite({});
    const one = { name: '0001_a.sql', sql: 'create table a (id int);' };
    const two = { name: '0002_b.sql', sql: 'create table b (id int);' };
    expect(await migrate(db, [one])).toBe(1);
    expect(await migrate(db, [one, two])).toBe(1);
    expect(await migrate(db, [one, two])).toBe(0);
    await expect(migrate(db, [{ ...one, sql: 'create table a (id bigint);' }, two])).rejects.toThrow(
      /was changed after/u,
    );
    await expect(migrate(db, [two])).rejects.toThrow(/does not know/u);
    // A migration that fails half-way leaves nothing behind.
    await expect(
      migrate(db, [one, two, { name: '0003_c.sql', sql: 'create table c (id int); select nonsense();' }]),
    ).rejects.toThrow();
    await expect(db.query('select 1 from c')).rejects.toThrow();
    await db.close();
  });

  test('those that folders out there have gone through stay as they are', () => {
    // In the format of sha256sum; a new one is added to it once it is given out, and none is ever changed.
    const given = readFileSync('tests/data/migrations.sha256', 'utf8').trim().split('\n');
    const shipped = shippedMigrations().map(
      ({ name, sql }) => `${createHash('sha256').update(sql).digest('hex')}  ${name}`,
    );
    expect(shipped.slice(0, given.length)).toEqual(given);
  });

  test('a folder that began with the earlier form of the books ends alike, and has a charge for all that was paid by card', async () => {
    const shipped = shippedMigrations();
    const earlier = shipped.map((m) =>
      m.name === '0048_books.sql' ? { ...m, sql: readFileSync('tests/data/books-before.sql', 'utf8') } : m,
    );
    const [before, whole] = [await openPglite({}), await openPglite({})];
    await migrate(before, earlier.slice(0, 49));
    const order = '019ed20f-739c-7000-954a-5ace1b7b8391';
    // Without the event and the offers behind it.
    await before.script(`set session_replication_role = replica;
      insert into orders (id, event_id, number, state, currency, due, lines, seats, buyer_given, buyer_family, placed_at)
        values ('${order}', '${order}', 1694, 'paid', 'CAD', 3000, '[]', 1, 'Frances', 'Delacroix', '2026-06-16T20:11:28Z');
      insert into payments (id, order_id, kind, method, amount, reason, at, currency) values
        ('019ed20f-739c-700b-ad14-41a2f4090f0f', '${order}', 'seats', 'card', 2500, 'CH-8779EFB0CF2D', '2026-06-16T20:11:28Z', 'CAD'),
        ('019ed20f-739c-700c-ad14-41a2f4090f0f', '${order}', 'donation', 'card', 500, 'CH-8779EFB0CF2D', '2026-06-16T20:11:28Z', 'CAD'),
        ('019ed20f-739c-700d-ad14-41a2f4090f0f', '${order}', 'donation', 'cash', 700, '', '2026-06-16T20:11:28Z', 'CAD');
      set session_replication_role = origin;`);
    expect(await migrate(before, shipped)).toBe(shipped.length - 49);
    await migrate(whole, shipped);
    const constraints = `select conrelid::regclass::text as of, pg_get_constraintdef(oid) as def from pg_constraint
      where connamespace = 'public'::regnamespace order by 1, 2`;
    expect(await before.query(constraints)).toEqual(await whole.query(constraints));
    expect(
      await before.query('select method, amount, charge_id is not null as charged from payments order by id'),
    ).toEqual([
      { method: 'card', amount: 2500, charged: true },
      { method: 'card', amount: 500, charged: true },
      { method: 'cash', amount: 700, charged: false },
    ]);
    expect(await before.query('select amount, fee, currency from standin_moves')).toEqual([
      { amount: 3000, fee: 97, currency: 'CAD' },
    ]);
    await before.close();
    await whole.close();
  });
});
