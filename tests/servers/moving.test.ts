import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest';
import { inspectFolder } from '#server/db/folder.ts';
import { migrate } from '#server/db/migrate.ts';
import { moveCommand } from '#server/db/moveCommand.ts';
import { holdings } from '#server/db/moving.ts';
import { openPglite } from '#server/db/pglite.ts';
import { openPostgres } from '#server/db/postgres.ts';
import { demoPassword } from '#server/staff/demoSignIns.ts';
import { type Started, start } from '#server/start.ts';
import { fillFolder } from '../api/founded.ts';
import { Caller } from '../api/harness.ts';
import { openEvent, orderFor } from '../api/scenes.ts';

const originOf = (started: Started) => `http://127.0.0.1:${started.port}`;
async function signIn(started: Started, who: string, callers?: Map<string, Caller>): Promise<Caller> {
  started.app.origin = originOf(started);
  const caller = new Caller(started.app.origin);
  await caller.call('POST /api/sign-in', {
    body: { email: `${who}@brackenmere.example`, password: demoPassword },
  });
  callers?.set(who, caller);
  return caller;
}

describe('moving to a server', () => {
  const server = inject('postgres')!;
  const name = `moved${randomUUID().replaceAll('-', '')}`;
  const url = server.replace(/postgres$/u, name);
  const folder = mkdtempSync(join(tmpdir(), 'acolyte-move-'));
  const admin = async (sql: string) => {
    const client = new pg.Client({ connectionString: server });
    await client.connect();
    await client.query(sql).finally(() => client.end());
  };
  beforeAll(async () => {
    await admin(`create database ${name} template template0`);
    fillFolder(folder);
    const started = await start({ folder, port: 0, pages: false, quiet: true });
    const callers = new Map<string, Caller>();
    const as = async (who: string) => callers.get(who) ?? (await signIn(started, who, callers));
    const event = await openEvent({ as }, { title: 'Before the Move', capacity: 3, price: 2500 });
    for (let n = 0; n < 4; n += 1)
      await new Caller(originOf(started)).call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given: `Zoë${n}`, family: 'O’Move' }]),
      });
    await started.stop();
  });
  afterAll(async () => {
    rmSync(folder, { recursive: true, force: true });
    await admin(`drop database if exists ${name} with (force)`);
  });

  test('a move that is cut short keeps nothing on the server, and the folder as it was', async () => {
    const to = await openPostgres(url);
    await migrate(to);
    // Somebody's row in the way of one table.
    await to.script(
      'create function stop() returns trigger language plpgsql as $$ begin raise exception $b$cut$b$; end $$; create trigger stop before insert on waivers for each statement execute function stop(); alter table waivers enable always trigger stop',
    );
    await to.script('alter table waivers add constraint cut check (title is null)');
    await expect(moveCommand(folder, url, () => {})).rejects.toThrow('cut');
    expect(await to.query('select 1 from organization')).toEqual([]);
    expect(await to.query("select 1 from pg_constraint where contype = 'f'")).not.toEqual([]);
    expect(existsSync(join(folder, 'moved.json'))).toBe(false);
    await to.script('alter table waivers drop constraint cut; drop function stop cascade');
    await to.close();
  });

  test('everything arrives as it was, and is used from there', async () => {
    const said: string[] = [];
    expect(await moveCommand(folder, url, (text) => said.push(text))).toContain('the same on both sides');
    expect(said.some((s) => /^contacts: \d+ rows$/u.test(s))).toBe(true);
    const from = await openPglite({ folder: join(folder, 'pg') });
    const to = await openPostgres(url);
    expect(await holdings(to)).toEqual(await holdings(from));
    const rules =
      "select count(*)::int as n from pg_constraint where contype in ('f', 'c', 'u', 'x') and connamespace = 'public'::regnamespace";
    const triggers =
      'select tgname, tgenabled from pg_trigger where not tgisinternal order by tgname, tgrelid::regclass::text';
    expect(await to.query(triggers)).toEqual(await from.query(triggers));
    expect(await to.query(rules)).toEqual(await from.query(rules));
    expect(await to.query("select nextval('order_number') as n")).toEqual(
      await from.query("select nextval('order_number') as n"),
    );
    await from.close();
    await to.close();
    process.env.ACOLYTE_SECRET = readFileSync(join(folder, 'secret'), 'utf8');
    const started = await start({ folder, database: url, port: 0, pages: false, quiet: true }).finally(() => {
      delete process.env.ACOLYTE_SECRET;
    });
    const odalys = await signIn(started, 'odalys');
    expect((await odalys.call('GET /api/desk')).since.length).toBeGreaterThan(0);
    await started.stop();
  });

  test('the folder is not opened again, and a server that holds an organization is not written over', async () => {
    expect(() => inspectFolder(folder)).toThrow(/was moved to .*Start with DATABASE_URL/u);
    rmSync(join(folder, 'moved.json'));
    await expect(moveCommand(folder, url, () => {})).rejects.toThrow('holds an organization already');
  });
});
