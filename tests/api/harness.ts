import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { inject } from 'vitest';
import type { App } from '#server/app/app.ts';
import { type Database, insert } from '#server/db/database.ts';
import { sha256 } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { openPostgres } from '#server/db/postgres.ts';
import { Problem } from '#server/http/problem.ts';
import { stopChecks } from '#server/imports/checking.ts';
import type { Runner } from '#server/jobs/runner.ts';
import { makeServer } from '#server/serving.ts';
import { demoSignIns } from '#server/staff/demoSignIns.ts';
import { staffByEmail } from '#server/staff/store.ts';
import { assemble } from '#server/start.ts';
import { recorded } from '../statements/recording.ts';
import { booksAstray } from './booksAstray.ts';
import { Caller, linkTo } from './caller.ts';
import { countsAstray } from './countsAstray.ts';
import { readTemplate, templatePath } from './founded.ts';

export { beginning } from './founded.ts';
export { Caller, linkTo };

export interface World {
  app: App;
  runner: Runner;
  origin: string;
  anyone: Caller;
  as(email: 'odalys' | 'tobias' | 'marit' | 'imani' | 'piers' | 'door'): Promise<Caller>;
  /** Moves the clock, doing what comes due. */
  moveTo(at: string): Promise<void>;
  close(): Promise<void>;
}

class RolledBack extends Problem {
  constructor() {
    super(418, 'rolled-back', 'It would have been done.');
  }
}

/** From here on every write is done and taken back at its end, answered with 418, so that each caller meets the same. */
export function takeWritesBack({ app }: Pick<World, 'app'>): void {
  const real = app.db;
  app.db = {
    ...real,
    query: (sql, params) => real.query(sql, params),
    transaction: (work) =>
      real.transaction(async (tx) => {
        await work(tx);
        throw new RolledBack();
      }),
  };
}

/** True where these tests run on a PostgreSQL server, and not on PGlite. */
export const onServer = (): boolean => Boolean(inject('postgres'));

export interface Fresh {
  db: Database;
  /** Throws it away. */
  drop: () => Promise<void>;
}

/** An empty database, without a table. */
export const bareDatabase = (): Promise<Fresh> => anotherDatabase(true);

/** A fresh copy of the founded organization, or an empty database with its tables. */
export async function freshDatabase(empty: boolean): Promise<Fresh> {
  const fresh = await anotherDatabase(empty);
  if (empty) await migrate(fresh.db);
  return fresh;
}

/** A database with nothing in it: making one takes seconds, taking it from here half of one. */
let kept: Promise<Blob> | null = null;
async function nothing(): Promise<Uint8Array<ArrayBuffer>> {
  kept ??= openPglite({}).then(async (db) => {
    const dumped = await db.dump();
    await db.close();
    return dumped;
  });
  return new Uint8Array(await (await kept).arrayBuffer());
}

async function anotherDatabase(empty: boolean): Promise<Fresh> {
  const server = inject('postgres');
  if (server) {
    const name = `t${randomUUID().replaceAll('-', '')}`;
    const admin = async (sql: string) => {
      const client = new pg.Client({ connectionString: server });
      await client.connect();
      await client.query(sql).finally(() => client.end());
    };
    await admin(`create database ${name} template ${empty ? 'template0' : 'template_of_tests'}`);
    const db = await openPostgres(server.replace(/postgres$/u, name));
    return { db, drop: () => admin(`drop database ${name} with (force)`) };
  }
  if (!existsSync(templatePath)) throw new Error('the template of the tests was not made');
  const db = await openPglite({ template: empty ? await nothing() : readTemplate() });
  return { db, drop: async () => {} };
}

/** A server on a fresh copy of the founded organization, on an empty database, or on one that is given. */
export async function makeWorld(
  options: {
    limits?: { publicWrites: number; signIns: number };
    fairShare?: true;
    empty?: boolean;
    on?: Fresh;
  } = {},
): Promise<World> {
  const { db: asked, drop } = options.on ?? (await freshDatabase(options.empty ?? false));
  const db = onServer() ? asked : recorded(asked);
  // Nothing begins by itself in the middle of a test: what is due is done when something was written, or the test asks.
  const { app, runner } = await assemble(db, 'a secret of the tests', '', true, null);
  const server = makeServer(app, {
    runner: () => runner,
    demoSignIns,
    dist: null,
    limits: options.limits ?? { publicWrites: 100_000, signIns: 100_000 },
  });
  const http = await new Promise<Server>((resolve) => {
    const listening = server.listen(0, '127.0.0.1', () => resolve(listening));
  });
  // A test may do for longer than a connection is usually kept, and then ask by it.
  http.keepAliveTimeout = 300_000;
  const origin = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;
  app.origin = origin;
  app.fairShare = options.fairShare ?? false;
  const callers = new Map<string, Caller>();
  return {
    app,
    runner,
    origin,
    anyone: new Caller(origin),
    async as(who) {
      const known = callers.get(who);
      if (known) return known;
      const caller = new Caller(origin);
      // A session as signing in would begin it: the password alone takes longer than most tests. Signing in has tests of its own.
      const token = randomUUID();
      const now = app.sessionClock.now();
      const staff = await staffByEmail(app.db, `${who}@brackenmere.example`);
      await insert(app.db, 'sessions', {
        id: randomUUID(),
        tokenHash: sha256(token),
        staffId: staff!.id,
        createdAt: now,
        seenAt: now,
        expiresAt: new Date(Date.parse(now) + 86_400_000).toISOString(),
        device: 'a test',
        address: '127.0.0.1',
      });
      caller.cookies.set('acolyte_session', token);
      callers.set(who, caller);
      return caller;
    },
    async moveTo(at) {
      await runner.moveTo(new Date(at).toISOString());
    },
    async close() {
      http.closeAllConnections();
      await new Promise((resolve) => http.close(resolve));
      await runner.stop();
      await stopChecks(app);
      const astray = await booksAstray(asked);
      const miscounted = await countsAstray(asked);
      await db.close();
      await drop();
      // Whatever a test did: the books stand as the orders do.
      if (astray.length) throw new Error(`the books do not agree: ${JSON.stringify(astray.slice(0, 3))}`);
      if (miscounted.length)
        throw new Error(`counts of events do not agree: ${JSON.stringify(miscounted.slice(0, 3))}`);
    },
  };
}
