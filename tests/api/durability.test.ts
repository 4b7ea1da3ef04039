import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from 'vitest';
import { migrate } from '#server/db/migrate.ts';
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
});
