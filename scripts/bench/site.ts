import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { foundOrganization } from '#demo/organization.ts';
import type { App } from '#server/app/app.ts';
import { storeDemoClock } from '#server/app/clocks.ts';
import type { Database } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { makeServer } from '#server/serving.ts';
import { demoPassword, demoSignIns } from '#server/staff/demoSignIns.ts';
import { assemble } from '#server/start.ts';

/** When the clock of the bench stands. */
export const begins = '2026-07-09T12:20:00.000Z';

export interface Site {
  app: App;
  origin: string;
  founded: Awaited<ReturnType<typeof foundOrganization>>;
  /** Does everything that is due. */
  run(): Promise<unknown>;
  /** The headers of a signed-in coordinator. */
  headers: { cookie: string; origin: string };
  close(): Promise<void>;
}

/** A server in this process, on a migrated database in which the organization is founded. */
export async function openSite(db: Database, bytes: (count: number) => Uint8Array): Promise<Site> {
  const ids = makeIds({ now: () => begins }, bytes);
  const founded = await db.transaction((tx) => foundOrganization({ tx, now: begins, app: { ids } as never }));
  await storeDemoClock(db, { standsAt: begins, movingTo: null });
  const { app, runner } = await assemble(db, 'a secret of the bench', 'http://localhost', true);
  app.fairShare = false;
  const server = makeServer(app, {
    runner: () => runner,
    demoSignIns,
    dist: null,
    limits: { publicWrites: 1e9, signIns: 1e9 },
  });
  const http = await new Promise<Server>((resolve) => {
    const listening = server.listen(0, '127.0.0.1', () => resolve(listening));
  });
  http.keepAliveTimeout = 300_000;
  const origin = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;
  app.origin = origin;
  return {
    app,
    origin,
    founded,
    run: () => runner.run(),
    headers: { cookie: await signedIn(origin), origin },
    async close() {
      http.closeAllConnections();
      http.close();
      await runner.stop();
      await db.close();
    },
  };
}

/** The cookie of the coordinator. */
export async function signedIn(origin: string): Promise<string> {
  const reply = await fetch(`${origin}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin },
    body: JSON.stringify({ email: 'odalys@brackenmere.example', password: demoPassword }),
  });
  return reply.headers.get('set-cookie')!.split(';')[0]!;
}

export const ended = (child: ChildProcess): Promise<void> =>
  new Promise((resolve) => {
    child.once('exit', () => resolve());
  });

/** Ends a server that was started, as whoever runs it would, and waits until it is gone. */
export async function stopped(child: ChildProcess): Promise<void> {
  const gone = ended(child);
  child.kill('SIGTERM');
  await gone;
}

const answersAt = (origin: string): Promise<boolean> =>
  fetch(`${origin}/healthz`).then(
    (r) => r.ok,
    () => false,
  );

/** Starts the product as it is shipped, in a process of its own, and waits until it answers. */
export async function startShipped(
  folder: string,
  port: number,
  env: Record<string, string> = {},
): Promise<ChildProcess> {
  const origin = `http://localhost:${port}`;
  if (await answersAt(origin)) throw new Error(`something else answers at port ${port}`);
  const child = spawn('node', ['dist/server/main.js'], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      ACOLYTE_DATA: folder,
      ACOLYTE_LOG: 'off',
      PORT: String(port),
      ...env,
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  process.once('exit', () => child.kill('SIGKILL'));
  for (;;) {
    if (child.exitCode !== null) throw new Error('the server did not start');
    if (await answersAt(origin)) return child;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

/** A folder with the whole demonstration in it. */
export async function filledFolder(): Promise<{ folder: string; remove: () => void }> {
  const work = mkdtempSync(join(tmpdir(), 'acolyte-bench-'));
  const folder = join(work, 'data');
  await ended(spawn('node', ['dist/server/fill.js', folder], { stdio: 'ignore' }));
  return { folder, remove: () => rmSync(work, { recursive: true, force: true }) };
}
