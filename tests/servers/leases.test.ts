import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Database } from '#server/db/database.ts';
import { makeLeases } from '#server/db/leases.ts';
import { freshDatabase } from '../api/harness.ts';

describe('leases', () => {
  let db: Database;
  let drop: () => Promise<void>;
  beforeAll(async () => {
    ({ db, drop } = await freshDatabase(true));
  });
  afterAll(async () => {
    await db.close();
    await drop();
  });

  test('one process at a time holds a lease; it is free again when the work is done or has failed', async () => {
    const [one, two] = [makeLeases(db), makeLeases(db)];
    let end = () => {};
    const working = one.hold('work', () => new Promise<string>((resolve) => (end = () => resolve('done'))));
    while (!(await db.query("select 1 from leases where name = 'work'")).length);
    expect(await two.hold('work', async () => 'mine')).toBeNull();
    expect(await two.hold('other work', async () => 'mine')).toEqual({ result: 'mine' });
    end();
    expect(await working).toEqual({ result: 'done' });
    await expect(
      two.hold('work', async () => {
        throw new Error('broken');
      }),
    ).rejects.toThrow('broken');
    expect(await one.hold('work', async () => 'again')).toEqual({ result: 'again' });
  });

  test('what a process held that died is taken over once it has run out, and not before', async () => {
    const leases = makeLeases(db);
    const put = (seconds: number) =>
      db.query(
        `insert into leases values ('left', gen_random_uuid(), clock_timestamp() + make_interval(secs => $1))
         on conflict (name) do update set until = excluded.until`,
        [seconds],
      );
    await put(30);
    expect(await leases.hold('left', async () => 'taken')).toBeNull();
    await put(-1);
    expect(await leases.hold('left', async (held) => held())).toEqual({ result: true });
  });
});
