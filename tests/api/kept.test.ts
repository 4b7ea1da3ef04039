import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { theBook } from '#server/clearance/book.ts';
import { apart, type Queries, update } from '#server/db/database.ts';
import { Kept } from '#server/db/kept.ts';
import { readEvent } from '#server/events/store.ts';
import { theOrganization } from '#server/staff/store.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent } from './scenes.ts';

let world: World;
let event: OpenEvent;
beforeAll(async () => {
  world = await makeWorld();
  event = await openEvent(world, { title: 'Kept' });
});
afterAll(() => world.close());

describe('what is read once in a transaction', () => {
  test('is what the transaction would read again: its own writes and what it takes back count', async () => {
    await world.app.db
      .transaction(async (tx) => {
        const title = async () => (await readEvent(tx, event.id)).publicTitle;
        const first = await readEvent(tx, event.id);
        // Whoever changes what they were given changes it for nobody else.
        first.publicTitle = 'Scribbled';
        expect(await title()).toBe('Kept');
        await update(tx, 'events', event.id, { publicTitle: 'Written' });
        expect(await title()).toBe('Written');
        await apart(tx, async () => {
          await update(tx, 'events', event.id, { publicTitle: 'Taken back' });
          expect(await title()).toBe('Taken back');
          throw new Error('no');
        }).catch(() => undefined);
        expect(await title()).toBe('Written');
        await tx.query("update organization set currency = 'NOK'");
        expect([(await readEvent(tx, event.id)).paidIn, (await theOrganization(tx)).currency]).toEqual([
          'NOK',
          'NOK',
        ]);
        throw new Error('nothing of it');
      })
      .catch((error: Error) => expect(error.message).toBe('nothing of it'));
    expect((await readEvent(world.app.db, event.id)).publicTitle).toBe('Kept');
  });

  test.each([
    ['an event', (tx: Queries) => readEvent(tx, event.id)],
    ['the organization', theOrganization],
    ['the rules of clearance', theBook],
  ] as [string, (tx: Queries) => Promise<unknown>][])(
    '%s is read anew after a write into any table it is read from',
    async (_, read) => {
      const asked: string[] = [];
      const kept = new Kept();
      const tx: Queries = {
        kept,
        query: (sql, params) => {
          asked.push(sql);
          return world.app.db.query(sql, params);
        },
      };
      await read(tx);
      await read(tx);
      expect(asked).toHaveLength(1);
      const tables = new Set(
        [...asked[0]!.matchAll(/\b(?:from|join) ([a-z_]+) ?(?=[a-z)]|$)/gu)].map((m) => m[1]!),
      );
      const real = new Set(
        (
          await world.app.db.query<{ name: string }>(
            "select tablename as name from pg_tables where schemaname = 'public'",
          )
        ).map((t) => t.name),
      );
      const from = [...tables].filter((t) => real.has(t));
      expect(from.length).toBeGreaterThan(0);
      for (const table of from)
        for (const write of [
          `update ${table} set x = 1`,
          `insert into ${table} (x)`,
          `with y as (delete from ${table}) select 1`,
        ]) {
          const before = asked.length;
          kept.heed(write);
          await read(tx);
          expect(asked.length, write).toBe(before + 1);
        }
      const before = asked.length;
      kept.heed('update messages set state = 1 where id = 2');
      kept.heed('select * from events for update');
      await read(tx);
      expect(asked).toHaveLength(before);
    },
  );
});
