import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type Database, insert } from '#server/db/database.ts';
import { openPglite } from '#server/db/pglite.ts';
import { readTemplate } from '../api/founded.ts';
import { freshDatabase } from '../api/harness.ts';

describe('the two databases', () => {
  let server: Database;
  let folder: Database;
  let drop: () => Promise<void>;
  beforeAll(async () => {
    ({ db: server, drop } = await freshDatabase(false));
    folder = await openPglite({ template: readTemplate() });
  });
  afterAll(async () => {
    await Promise.all([server.close(), folder.close()]);
    await drop();
  });

  test.each([
    ["timestamptz '2026-08-08 09:00:00.123-03'"],
    ["timestamp '2026-08-08 09:00'"],
    ["date '2026-08-08'"],
    ['9007199254740991::bigint'],
    ['12.50::numeric'],
    ['1.5::float8'],
    ['null::timestamptz'],
    ['true'],
    ["array['a', null, 'b,\"c']"],
    ["array[timestamptz '2026-08-08 09:00Z', null]"],
    ["array[date '2026-08-08']"],
    ['array[1, 2]'],
    ["array['0198f000-0000-7000-8000-000000000000'::uuid]"],
    ['\'[1, {"a": null}]\'::jsonb'],
    ["'\\x00ff10'::bytea"],
    ["'Chœur'::text"],
  ])('both answer %s alike', async (expression) => {
    const sql = `select ${expression} as some_value`;
    const [one, two] = [await server.query(sql), await folder.query(sql)];
    expect(one).toEqual(two);
  });

  test.each([
    ['text', 'a “b”'],
    ['jsonb', { a: [1, null, 'x'] }],
    ['text[]', ['a', 'b,c', '"', null]],
    ['uuid[]', ['0198f000-0000-7000-8000-000000000000']],
    ['int', 7],
    ['boolean', false],
    ['bytea', new Uint8Array([0, 255])],
    ['timestamptz', '2026-08-08T12:00:00.000Z'],
  ])('both take a parameter of %s alike', async (type, value) => {
    const sql = `select $1::${type} as some_value`;
    const [one, two] = [await server.query(sql, [value]), await folder.query(sql, [value])];
    expect(one).toEqual(two);
    expect(Object.keys(one[0]!)).toEqual(['someValue']);
  });

  test('a transaction that another one was in the way of is tried again and sees what that one kept', async () => {
    await insert(server, 'households', {
      id: crypto.randomUUID(),
      name: '0',
      createdAt: new Date().toISOString(),
    });
    let tries = 0;
    const countUp = () =>
      server.transaction(async (tx) => {
        tries += 1;
        const [row] = await tx.query<{ name: string }>('select name from households');
        await tx.query('update households set name = $1', [String(Number(row!.name) + 1)]);
      });
    await Promise.all(Array.from({ length: 40 }, countUp));
    expect(await server.query('select name from households')).toEqual([{ name: '40' }]);
    expect(tries).toBeGreaterThan(40);
  });

  test('what nobody may both do is done by one of two who looked at the same time', async () => {
    // Write skew: each reads what the other writes beside.
    await server.query('delete from households');
    const takeTheLast = (name: string) =>
      server.transaction(async (tx) => {
        const [row] = await tx.query<{ n: number }>('select count(*)::int as n from households');
        if (row!.n > 0) return false;
        await insert(tx, 'households', {
          id: crypto.randomUUID(),
          name,
          createdAt: new Date().toISOString(),
        });
        return true;
      });
    const taken = await Promise.all(Array.from({ length: 20 }, (_, n) => takeTheLast(String(n))));
    expect(taken.filter(Boolean)).toHaveLength(1);
  });

  test('a failed transaction keeps nothing and leaves its connection usable', async () => {
    for (let n = 0; n < 30; n += 1)
      await expect(
        server.transaction(async (tx) => {
          await tx.query('delete from households');
          await tx.query('select no_such_column');
        }),
      ).rejects.toThrow('no_such_column');
    expect(await server.query('select 1 as one')).toEqual([{ one: 1 }]);
    expect((await server.query('select 1 from households')).length).toBe(1);
  });
});
