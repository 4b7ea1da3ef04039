import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { backupCommand, restoreCommand } from '#server/backup/command.ts';
import { FolderRefused, inspectFolder, restorePaths } from '#server/db/folder.ts';
import { FolderHeld, holdFolder } from '#server/db/owner.ts';
import { demoPassword } from '#server/staff/demoSignIns.ts';
import { type Started, start } from '#server/start.ts';
import { fillFolder } from './founded.ts';
import { Caller } from './harness.ts';

const folders: string[] = [];
const makeFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'acolyte-'));
  folders.push(folder);
  return folder;
};
const running: Started[] = [];
const run = async (folder: string): Promise<Started> => {
  const started = await start({ folder, port: 0, quiet: true, pages: false });
  started.app.origin = `http://127.0.0.1:${started.port}`;
  running.push(started);
  return started;
};
const stopAll = async () => {
  for (const s of running.splice(0)) await s.stop();
};
const callerOf = async (started: Started) => {
  const odalys = new Caller(started.app.origin);
  await odalys.call('POST /api/sign-in', {
    body: { email: 'odalys@brackenmere.example', password: demoPassword },
  });
  return odalys;
};

/** A folder that holds the founded organization. */
function filledFolder(): string {
  const folder = makeFolder();
  fillFolder(folder);
  return folder;
}

afterEach(stopAll);
afterAll(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

describe('a data folder', () => {
  test('has one owner, however many try at once; it is let go with the process', async () => {
    const folder = makeFolder();
    const tries = await Promise.allSettled(
      Array.from({ length: 12 }, (_, n) => holdFolder(folder, 4400 + n)),
    );
    const held = tries.filter((t) => t.status === 'fulfilled');
    expect(held).toHaveLength(1);
    for (const t of tries) if (t.status === 'rejected') expect(t.reason).toBeInstanceOf(FolderHeld);
    await expect(holdFolder(folder, 1)).rejects.toThrow(new RegExp(`in use by process ${process.pid}`, 'u'));
    await held[0]!.value();
    // What a killed process left behind is no lock.
    writeFileSync(join(folder, 'owner.json'), JSON.stringify({ pid: process.pid, port: 4400 }));
    await (await holdFolder(folder, null))();
  });

  test('that was copied while it was held starts by itself', async () => {
    const folder = filledFolder();
    const first = await run(folder);
    const copy = makeFolder();
    await first.app.db.query('checkpoint');
    cpSync(folder, copy, { recursive: true });
    expect(existsSync(join(copy, 'owner.json'))).toBe(true);
    const second = await run(copy);
    expect((await (await callerOf(second)).call('GET /api/me')).organization.name).toContain('Brackenmere');
  });

  test('is never begun over something that is there', async () => {
    const folder = filledFolder();
    await run(folder);
    await stopAll();
    const whole = () => expect(() => inspectFolder(folder)).not.toThrow();
    const refused = (why: RegExp) => {
      const before = readdirSync(folder).sort();
      expect(() => inspectFolder(folder)).toThrow(FolderRefused);
      expect(() => inspectFolder(folder)).toThrow(why);
      expect(readdirSync(folder).sort()).toEqual(before);
    };
    whole();
    renameSync(join(folder, 'pg/PG_VERSION'), join(folder, 'pg/kept'));
    refused(/not whole/u);
    await expect(run(folder)).rejects.toThrow(/restore/u);
    expect(existsSync(join(folder, 'pg/PG_VERSION'))).toBe(false);
    renameSync(join(folder, 'pg/kept'), join(folder, 'pg/PG_VERSION'));
    renameSync(join(folder, 'pg'), join(folder, '.elsewhere'));
    refused(/its database is not there/u);
    renameSync(join(folder, '.elsewhere'), join(folder, 'pg'));
    whole();
    const strange = makeFolder();
    writeFileSync(join(strange, 'thesis.txt'), 'mine');
    await expect(run(strange)).rejects.toThrow(/holds other things \(thesis.txt\)/u);
    expect(readdirSync(strange)).toEqual(['thesis.txt']);
  });

  test('whose secret is empty, cut or gone is refused', async () => {
    const folder = filledFolder();
    for (const bad of ['', '   \n', 'short']) {
      writeFileSync(join(folder, 'secret'), bad);
      await expect(run(folder)).rejects.toThrow(/empty or cut/u);
    }
    rmSync(join(folder, 'secret'));
    await expect(run(folder)).rejects.toThrow(/missing, from which every link/u);
    expect(existsSync(join(folder, 'secret'))).toBe(false);
    process.env.ACOLYTE_SECRET = '';
    try {
      await expect(run(folder)).rejects.toThrow(/ACOLYTE_SECRET has at least/u);
    } finally {
      delete process.env.ACOLYTE_SECRET;
    }
  });

  test('of which a table file was cut is noticed at start, and says what is missing', async () => {
    const folder = filledFolder();
    const started = await run(folder);
    const odalys = await callerOf(started);
    for (let n = 0; n < 5; n += 1)
      await odalys.call('POST /api/contacts', { body: { given: `Cut${n}`, family: 'Short' } });
    await started.app.db.query(
      `insert into audit (id, at, actor, action, subject_kind) select gen_random_uuid(), now(), 'x', 'y', 'z' from generate_series(1, 2000)`,
    );
    const [file] = await started.app.db.query<{ path: string }>(
      "select pg_relation_filepath('audit') as path",
    );
    await stopAll();
    truncateSync(join(folder, 'pg', file!.path), 8192);
    await expect(run(folder)).rejects.toThrow(/audit: \d+ of at least 20\d\d.*restore/u);
    process.env.ACOLYTE_ACCEPT_LOSS = 'yes';
    try {
      await run(folder);
    } finally {
      delete process.env.ACOLYTE_ACCEPT_LOSS;
    }
  });
});

describe('backups', () => {
  let folder: string;
  let file: string;
  beforeAll(async () => {
    folder = filledFolder();
    file = join(makeFolder(), 'everything.tar.gz');
    const started = await run(folder);
    const odalys = await callerOf(started);
    await odalys.call('POST /api/contacts', { body: { given: 'Before', family: 'Backup' } });
    // Made while the product runs and people write.
    const writes = Array.from({ length: 20 }, (_, n) =>
      odalys.call('POST /api/contacts', { body: { given: `Busy${n}`, family: 'Writer' } }),
    );
    writeFileSync(join(folder, 'owner.json'), JSON.stringify({ pid: process.pid, port: started.port }));
    expect(await backupCommand(folder, file)).toContain('Written to');
    await Promise.all(writes);
    await odalys.call('POST /api/contacts', { body: { given: 'After', family: 'Backup' } });
    await stopAll();
  });
  const found = async (started: Started, q: string) =>
    (await (await callerOf(started)).call('GET /api/contacts', { query: { q } })).contacts.map(
      (c) => c.given,
    );

  test('everything is lost, and comes back from the file into an empty folder', async () => {
    const empty = makeFolder();
    const said = await restoreCommand(empty, file);
    expect(said).toContain('Brackenmere Wetland Trust');
    expect(said).not.toContain('kept beside it');
    // Once more over it: what it stands in the place of is kept.
    expect(await restoreCommand(empty, file)).toContain('What was there before is kept beside it.');
    const started = await run(empty);
    expect(await found(started, 'backup')).toEqual(['Before']);
    // Links that were sent still work: the secret came along.
    expect(started.app.secret).toBe('a secret of the tests');
  });

  test('is put back while the product runs, what there was is kept aside, and everybody goes on', async () => {
    const started = await run(folder);
    expect((await found(started, 'backup')).sort()).toEqual(['After', 'Before']);
    writeFileSync(join(folder, 'owner.json'), JSON.stringify({ pid: process.pid, port: started.port }));
    const asking = (async () => {
      const statuses: number[] = [];
      for (let n = 0; n < 40; n += 1) statuses.push((await fetch(`${started.app.origin}/healthz`)).status);
      return new Set(statuses);
    })();
    expect(await restoreCommand(folder, file)).toContain('is back');
    expect(await asking).toEqual(new Set([200]));
    expect(await found(started, 'backup')).toEqual(['Before']);
    const odalys = await callerOf(started);
    await odalys.call('POST /api/contacts', { body: { given: 'Goes', family: 'On' } });
    expect(readdirSync(folder).some((f) => f.startsWith('replaced-'))).toBe(true);
    await stopAll();
    expect(await found(await run(folder), 'goes')).toEqual(['Goes']);
  });

  test('from the Team page: made, listed, taken along, put back with the name typed', async () => {
    const started = await run(folder);
    const odalys = await callerOf(started);
    const { name } = await odalys.call('POST /api/backups');
    const list = await odalys.call('GET /api/backups');
    expect(list).toMatchObject({ working: null, unable: null });
    expect(list.backups.map((b) => b.name)).toContain(name);
    const taken = await odalys.try('GET /api/backups/:name', { params: { name } });
    expect(taken.headers.get('content-type')).toBe('application/gzip');
    expect((taken.body as unknown as Buffer).length).toBe(list.backups.find((b) => b.name === name)!.bytes);
    for (const wrong of ['../secret', 'nothing.tar.gz', '..%2Fsecret'])
      expect(
        (await odalys.try('GET /api/backups/:name', { params: { name: wrong } })).status,
      ).toBeGreaterThanOrEqual(400);
    await odalys.call('POST /api/contacts', { body: { given: 'Undone', family: 'Later' } });
    const restore = (organization: string) =>
      odalys.try('POST /api/backups/:name/restore', { params: { name }, body: { organization } });
    expect((await restore('Something else')).problem.fields).toMatchObject([{ path: 'organization' }]);
    expect((await restore('Brackenmere Wetland Trust')).status).toBe(200);
    expect(await found(started, 'undone')).toEqual([]);
    expect(
      (await await started.app.db.query("select 1 from audit where action = 'put a backup back'")).length,
    ).toBe(1);
    const again = await callerOf(started);
    await again.call('DELETE /api/backups/:name', { params: { name } });
    expect((await again.call('GET /api/backups')).backups.map((b) => b.name)).not.toContain(name);
  });

  test('a file that is none, is cut or was changed puts nothing in the place of anything', async () => {
    const bad = (name: string, content: Buffer) => {
      const path = join(makeFolder(), name);
      writeFileSync(path, content);
      return path;
    };
    const good = readFileSync(file);
    const plain = gunzipSync(good);
    const changed = Buffer.from(plain);
    changed[Math.floor(plain.length / 2)]! ^= 0xff;
    for (const [path, why] of [
      [bad('text.tar.gz', Buffer.from('not a backup')), /cannot be read|not a backup|incorrect header/u],
      [bad('cut.tar.gz', good.subarray(0, Math.floor(good.length / 2))), /cut|cannot be read|end/u],
      [bad('changed.tar.gz', gzipSync(changed)), /not as it was packed|cannot be read|belong/u],
    ] as const) {
      const target = makeFolder();
      await expect(restoreCommand(target, path)).rejects.toThrow(why);
      expect(readdirSync(target).filter((f) => f !== 'owner.json')).toEqual([]);
    }
    await expect(backupCommand(folder, file)).rejects.toThrow(/exists already/u);
    await expect(backupCommand(makeFolder(), join(makeFolder(), 'x'))).rejects.toThrow(/no organization/u);
  });

  test('cut short between two renames, it is finished at the next start', async () => {
    const target = filledFolder();
    await run(target);
    await stopAll();
    const { pg, fresh, note, freshSecret } = restorePaths(target);
    cpSync(pg, fresh, { recursive: true });
    writeFileSync(freshSecret, 'another secret of the tests');
    writeFileSync(note, JSON.stringify({ aside: join(target, 'replaced-x') }));
    renameSync(pg, join(target, 'replaced-x'));
    const started = await run(target);
    expect(started.app.secret).toBe('another secret of the tests');
    expect(existsSync(note)).toBe(false);
    await stopAll();
    // What was unpacked and never became the database is cleared away.
    mkdirSync(fresh, { recursive: true });
    inspectFolder(target);
    expect(existsSync(fresh)).toBe(false);
  });
});
