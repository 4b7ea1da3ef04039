import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { cp } from 'node:fs/promises';
import { join } from 'node:path';
import type { Keeper, KeptBackup, Working } from '../app/keeping.ts';
import type { Database } from '../db/database.ts';
import { keepFloors, missingRows } from '../db/floors.ts';
import { restorePaths, swapDatabase } from '../db/folder.ts';
import type { Gate } from '../db/gate.ts';
import { migrate } from '../db/migrate.ts';
import { BackupRefused, copyDatabase, packBackup, readSecret, unpackBackup } from './archive.ts';

const tables = ['contacts', 'events', 'orders', 'registrations', 'payments', 'messages', 'audit'];

/** Rows of some tables, written into a backup and compared when it is put back. */
async function rowsOf(db: Pick<Database, 'query'>): Promise<Record<string, number>> {
  const rows = await db.query<{ name: string; n: number }>(
    tables.map((t) => `select '${t}' as name, count(*)::int as n from ${t}`).join(' union all '),
  );
  return Object.fromEntries(rows.map((r) => [r.name, r.n]));
}

/** A moment as it can stand in a file name. */
export const stampOf = (at: string): string => at.slice(0, 19).replace(/[-:]/gu, '').replace('T', '-');

export function makeKeeper(options: {
  folder: string;
  db: Gate;
  secret: () => string;
  open: (folder: string) => Promise<Database>;
  /** Tells whoever looks that something moved. */
  announce: (working: Working | null) => void;
  /** Goes on with the restored database: its secret, its clock. */
  restored: (db: Database, secret: string) => Promise<void>;
  now: () => string;
}): Keeper {
  const { folder, db } = options;
  const kept = join(folder, 'backups');
  let working: Working | null = null;
  const say = (to: Working | null) => {
    working = to;
    options.announce(to);
  };
  const alone = async <T>(what: Working['what'], work: () => Promise<T>): Promise<T> => {
    if (working) throw new BackupRefused('A backup is being made or put back. Wait until that is done.');
    say({ what, done: 0, all: 0 });
    try {
      return await work();
    } finally {
      say(null);
    }
  };
  const pathOf = (name: string): string => {
    const path = join(kept, name);
    if (!/^[\w.-]+\.tar\.gz$/u.test(name) || !existsSync(path))
      throw new BackupRefused('There is no such backup.');
    return path;
  };
  const line = (path: string, name: string): KeptBackup => {
    const { mtime, size } = statSync(path);
    return { name, at: mtime.toISOString(), bytes: size };
  };

  return {
    working: () => working,
    pathOf,
    list: () =>
      existsSync(kept)
        ? readdirSync(kept)
            .filter((n) => n.endsWith('.tar.gz'))
            .map((n) => line(join(kept, n), n))
            .sort((a, b) => (a.at < b.at ? 1 : -1))
        : [],
    remove: (name) => rmSync(pathOf(name)),
    make: (to) =>
      alone('making', async () => {
        const name = `acolyte-${stampOf(options.now())}.tar.gz`;
        mkdirSync(kept, { recursive: true });
        const copied = join(kept, `.copy-${process.pid}`);
        rmSync(copied, { recursive: true, force: true });
        try {
          await keepFloors(db, options.now());
          const [about] = await db.query<{ name: string }>('select name from organization');
          const rows = await rowsOf(db);
          await db.query('checkpoint');
          // Nobody writes while the files are copied; packing them takes longer and holds nobody up.
          await db.transaction(() => copyDatabase(join(folder, 'pg'), copied));
          const path = to ?? join(kept, name);
          await packBackup(
            copied,
            options.secret(),
            { organization: about?.name ?? '', madeAt: new Date().toISOString(), rows },
            path,
            (done, all) => say({ what: 'making', done, all }),
          );
          return line(path, name);
        } finally {
          rmSync(copied, { recursive: true, force: true });
        }
      }),
    async add(from) {
      mkdirSync(kept, { recursive: true });
      const name = `brought-${stampOf(new Date().toISOString())}.tar.gz`;
      await cp(from, join(kept, `${name}.part`));
      renameSync(join(kept, `${name}.part`), join(kept, name));
      return name;
    },
    restore: (name) =>
      alone('checking', async () => {
        const { fresh, freshSecret } = restorePaths(folder);
        const about = await unpackBackup(pathOf(name), fresh, freshSecret, (done, all) =>
          say({ what: 'checking', done, all }),
        );
        // It is opened and looked through before anything is exchanged.
        try {
          const tried = await options.open(fresh);
          try {
            await migrate(tried);
            const missing = await missingRows(tried);
            for (const [table, n] of Object.entries(await rowsOf(tried)))
              if (n < (about.rows[table] ?? 0)) missing.push(`${table}: ${n} of ${about.rows[table]}`);
            if (missing.length) throw new BackupRefused(`The backup is not whole: ${missing.join('; ')}.`);
          } finally {
            await tried.close();
          }
        } catch (error) {
          rmSync(fresh, { recursive: true, force: true });
          rmSync(freshSecret, { force: true });
          throw error;
        }
        say({ what: 'putting back', done: 1, all: 1 });
        const secret = readSecret(freshSecret);
        await db.exchange(async (old) => {
          await old.close();
          swapDatabase(folder, stampOf(new Date().toISOString()));
          const opened = await options.open(join(folder, 'pg'));
          await options.restored(opened, secret);
          return opened;
        });
        return about;
      }),
  };
}
