import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { pino } from 'pino';
import { makeThrottle } from '#core/staff/throttle.ts';
import { systemClock } from '#core/time/clock.ts';
import { ensureKeys } from './contacts/keys.ts';
import type { Database } from './db/database.ts';
import { makeIds } from './db/ids.ts';
import { migrate } from './db/migrate.ts';
import { holdFolder } from './db/owner.ts';
import { openPglite } from './db/pglite.ts';
import { projectRoot } from './db/root.ts';
import { makeAnnouncer } from './http/announcer.ts';
import type { App } from './http/app.ts';
import { makeServer } from './http/server.ts';
import { resumeChecks, stopChecks } from './imports/checking.ts';
import { tidyUp } from './jobs/housekeeping.ts';
import { dueKinds } from './jobs/kinds.ts';
import { makeRunner, type Runner } from './jobs/runner.ts';
import { askAboutAll } from './money/paying.ts';
import type { DemoSignIn } from './staff/routes.ts';
import { makeMailStandin } from './standins/mail.ts';
import { makeMovableClock, readDemoClock } from './time/clocks.ts';

export interface StartOptions {
  /** The data folder; created when it is not there. */
  folder: string;
  port: number;
  /** Where people reach the product, when that is not http://localhost:port. */
  origin?: string | undefined;
  demoSignIns?: readonly DemoSignIn[];
  /** Serve the built web application. */
  pages?: boolean;
  quiet?: boolean;
  limits?: { publicWrites: number; signIns: number };
}

export interface Started {
  app: App;
  runner: Runner;
  port: number;
  stop(): Promise<void>;
}

/** The secret that public links are derived from: of the environment, or made once and kept beside the database. */
function secretOf(folder: string): string {
  if (process.env.ACOLYTE_SECRET) return process.env.ACOLYTE_SECRET;
  const path = join(folder, 'secret');
  if (!existsSync(path)) writeFileSync(path, randomBytes(32).toString('base64url'), { mode: 0o600 });
  return readFileSync(path, 'utf8').trim();
}

/** Opens a database and puts everything around it. The clock is the machine's, or the demonstration's where one is stored. */
export async function assemble(
  db: Database,
  secret: string,
  origin: string,
  quiet: boolean,
): Promise<{ app: App; runner: Runner }> {
  const stored = await readDemoClock(db);
  const movable = stored ? makeMovableClock(stored.standsAt) : null;
  const clock = movable ?? systemClock;
  const log = pino({ level: quiet ? 'silent' : 'info' }, pino.destination(1));
  let runner: Runner | null = null;
  const app: App = {
    db,
    clock,
    sessionClock: systemClock,
    ids: makeIds(clock),
    secret,
    announcer: makeAnnouncer(),
    origin,
    log,
    mail: makeMailStandin(db, () => clock.now()),
    movable: movable !== null,
    wake: () => runner?.wake(),
    throttles: {
      pair: makeThrottle({ free: 5 }),
      // Many addresses at one account: its own devices go on signing in.
      account: makeThrottle({ free: 30, most: 60_000 }),
    },
  };
  runner = makeRunner(app, dueKinds, movable, 5_000);
  return { app, runner };
}

/** Starts the product on a data folder. Throws FolderHeld when another process has it. */
export async function start(options: StartOptions): Promise<Started> {
  mkdirSync(options.folder, { recursive: true });
  const letGo = holdFolder(options.folder, options.port || null);
  try {
    const db = await openPglite({ folder: join(options.folder, 'pg') });
    await migrate(db);
    const origin = options.origin ?? `http://localhost:${options.port}`;
    const { app, runner } = await assemble(db, secretOf(options.folder), origin, options.quiet ?? false);
    const server = makeServer(app, {
      runner: () => runner,
      demoSignIns: options.demoSignIns ?? [],
      dist: options.pages === false ? null : join(projectRoot(), 'dist/web'),
      limits: options.limits ?? { publicWrites: 60, signIns: 20 },
    });
    await ensureKeys(app.db);
    await askAboutAll(app);
    await runner.resume();
    await resumeChecks(app);
    await tidyUp(app);
    const tidying = setInterval(
      () => tidyUp(app).catch((error) => app.log.error({ error: String(error) }, 'tidying up failed')),
      60 * 60_000,
    );
    tidying.unref();
    const http = createServer(server);
    await new Promise<void>((resolve, reject) => {
      http.once('error', reject);
      http.listen(options.port, resolve);
    });
    const address = http.address();
    const port = typeof address === 'object' && address ? address.port : options.port;
    return {
      app,
      runner,
      port,
      async stop() {
        clearInterval(tidying);
        const closed = new Promise((resolve) => http.close(resolve));
        http.closeAllConnections();
        await closed;
        await runner.stop();
        await stopChecks(app);
        await db.close();
        letGo();
      },
    };
  } catch (error) {
    letGo();
    throw error;
  }
}
