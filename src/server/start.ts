import { mkdirSync } from 'node:fs';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { pino } from 'pino';
import { makeThrottle } from '#core/staff/throttle.ts';
import { systemClock } from '#core/time/clock.ts';
import { makeAnnouncer } from './app/announcer.ts';
import type { App } from './app/app.ts';
import { makeMovableClock, readDemoClock } from './app/clocks.ts';
import type { Keeper } from './app/keeping.ts';
import { warmArchive } from './archive/archive.ts';
import { makeKeeper } from './backup/keeper.ts';
import { ensureKeysOfVersion } from './contacts/keys.ts';
import { type Database, first } from './db/database.ts';
import { keepFloors, missingRows } from './db/floors.ts';
import {
  checkSecret,
  FolderRefused,
  inspectFolder,
  leftAsItWas,
  markFolder,
  noteClosed,
  secretOf,
  sharedSecret,
} from './db/folder.ts';
import { makeGate } from './db/gate.ts';
import { makeIds } from './db/ids.ts';
import { makeLeases } from './db/leases.ts';
import { migrate, migrateShared } from './db/migrate.ts';
import { holdFolder } from './db/owner.ts';
import { openPglite } from './db/pglite.ts';
import { projectRoot } from './db/root.ts';
import { dueKinds } from './due.ts';
import { sessionsEnded } from './http/stream.ts';
import { resumeChecks, stopChecks } from './imports/checking.ts';
import { resumeImports } from './imports/commands.ts';
import { stopLots } from './imports/lots.ts';
import { tidyUp } from './jobs/housekeeping.ts';
import { clockMoved, makeRunner, type Runner } from './jobs/runner.ts';
import { makeSmtp, type SmtpOptions } from './messages/smtp.ts';
import { askAboutAll } from './money/charging.ts';
import { reactions } from './reactions.ts';
import { makeServer } from './serving.ts';
import type { DemoSignIn } from './staff/routes.ts';
import { faceChanged, readOrganization } from './staff/store.ts';
import { makeCardStandin } from './standins/cards.ts';
import { makeMailStandin, makeTextStandin } from './standins/mail.ts';

export interface StartOptions {
  /** The data folder; created when it is not there. */
  folder: string;
  /** Where a PostgreSQL server is reached, when the organization lives on one and not in the folder. */
  database?: string | undefined;
  port: number;
  /** Where people reach the product, when that is not http://localhost:port. */
  origin?: string | undefined;
  demoSignIns?: readonly DemoSignIn[];
  /** Serve the built web application. */
  pages?: boolean;
  quiet?: boolean;
  limits?: { publicWrites: number; signIns: number };
  /** Whether one address may only hold its share of seats unpaid; so it is unless said. */
  fairShare?: boolean;
  /** The address it listens at; without one, this machine alone unless an origin elsewhere is configured. */
  listen?: string | undefined;
  proxies?: number | string | false | undefined;
  /** The server that mail leaves by; the stand-in without one. */
  smtp?: SmtpOptions | null;
}

export interface Started {
  app: App;
  runner: Runner;
  port: number;
  stop(): Promise<void>;
}

/**
 * Opens a database and puts everything around it. The clock is the machine's, or the demonstration's where one is stored. Work that comes
 * due is looked for every so many milliseconds; with null only when somebody asks for it.
 */
export async function assemble(
  db: Database,
  secret: string,
  origin: string,
  quiet: boolean,
  lookEveryMs: number | null = 5_000,
): Promise<{ app: App; runner: Runner; clockTo: (at: string) => void }> {
  const stored = await readDemoClock(db);
  const movable = stored ? makeMovableClock(stored.standsAt) : null;
  const clock = movable ?? systemClock;
  const log = pino({ level: quiet ? 'silent' : 'info' }, pino.destination(1));
  let runner: Runner | null = null;
  const cardsAround = { db, clock, ids: makeIds(clock), secret: () => app.secret };
  const app: App = {
    db,
    clock,
    sessionClock: systemClock,
    ids: makeIds(clock),
    secret,
    announcer: makeAnnouncer(db.shared),
    leases: makeLeases(db),
    reactions,
    origin,
    log,
    mail: makeMailStandin(db, makeIds(clock), () => clock.now()),
    takesReplies: true,
    text: makeTextStandin(db, () => clock.now()),
    cards: makeCardStandin(cardsAround),
    cardsAround,
    keeper: null,
    face: (await readOrganization(db))?.clock ?? 24,
    movable: movable !== null,
    fairShare: true,
    wake: () => runner?.wake(),
    throttles: {
      pair: makeThrottle({ free: 5 }),
      // Many addresses at one account: its own devices go on signing in.
      account: makeThrottle({ free: 30, most: 60_000 }),
    },
  };
  // Set in another process, it counts here too.
  app.announcer.listen(faceChanged, () => {
    readOrganization(db).then(
      (organization) => {
        app.face = organization?.clock ?? 24;
      },
      (error) => log.error({ error }, 'the clock of the organization was not read'),
    );
  });
  runner = makeRunner(app, dueKinds, movable, lookEveryMs);
  return { app, runner, clockTo: (at) => movable?.reset(at) };
}

/** Milliseconds between looking for imports that another process left. */
const takeOverMs = 15_000;

/** Milliseconds that those who ask while it starts have for themselves, before what fell due takes the database. */
const firstAnswerMs = 60;

/** Minutes between writing down how many rows there are at least. */
const floorMinutes = 10;

/** Throws when rows are missing that were there before. */
async function refuseLosses(db: Database, folder: string): Promise<void> {
  const missing = await missingRows(db);
  if (!missing.length || process.env.ACOLYTE_ACCEPT_LOSS === 'yes') return;
  throw new FolderRefused(
    `Rows are missing from the database in ${folder}: ${missing.join('; ')}. A file was cut, or copied while it was in use. Nothing was changed. Restore a backup: npm run restore -- FILE. To go on without what is lost, start once with ACOLYTE_ACCEPT_LOSS=yes.`,
  );
}

/** A database that was opened, with what belongs to it. */
interface Opened {
  db: Database;
  secret: string;
  /** Makes what keeps backups; a server has its own ways. */
  keeperFor: ((app: App, clockTo: (at: string) => void) => Keeper) | null;
  /** Closes it, and lets others have it. */
  close(): Promise<void>;
}

/** Opens a data folder. Throws FolderHeld when another process has it, FolderRefused when it is not whole. */
async function openFolder(folder: string, port: number | null): Promise<Opened> {
  mkdirSync(folder, { recursive: true });
  const letGo = await holdFolder(folder, port);
  try {
    const state = inspectFolder(folder);
    const secret = secretOf(folder, state);
    const asLeft = leftAsItWas(folder);
    const opened = await openPglite({ folder: join(folder, 'pg') });
    const db = makeGate(opened);
    // Looked through before anything is written, where a version that counted has been here.
    const counted = await first(db, "select 1 as x where to_regclass('row_floors') is not null");
    if (counted && !asLeft) await refuseLosses(db, folder);
    await migrate(db);
    markFolder(folder);
    if (!asLeft) await keepFloors(db, clockOfMachine());
    const keeperFor = (app: App, clockTo: (at: string) => void) =>
      makeKeeper({
        folder,
        db,
        secret: () => app.secret,
        open: (at) => openPglite({ folder: at }),
        announce: (working) =>
          app.announcer.announce('backup', working ? { done: working.done, all: working.all } : {}),
        restored: async (restored, theirs) => {
          app.secret = theirs;
          const clock = await readDemoClock(restored);
          if (clock) clockTo(clock.standsAt);
          app.announcer.announce(sessionsEnded);
        },
        now: () => new Date().toISOString(),
      });
    const close = async () => {
      await db.close();
      noteClosed(folder);
      await letGo();
    };
    return { db, secret, keeperFor, close };
  } catch (error) {
    await letGo();
    throw error;
  }
}

/** Opens a PostgreSQL server that other processes may use as well. Throws FolderRefused when its secret is another one. */
async function openServer(url: string, folder: string): Promise<Opened> {
  const secret = sharedSecret(folder);
  const { openPostgres } = await import('./db/postgres.ts');
  const db = await openPostgres(url);
  try {
    await migrateShared(db);
    await checkSecret(db, secret);
    return { db, secret, keeperFor: null, close: () => db.close() };
  } catch (error) {
    await db.close();
    throw error;
  }
}

/** Starts the product on a data folder, or on a PostgreSQL server where `database` says so. */
export async function start(options: StartOptions): Promise<Started> {
  const { db, secret, keeperFor, close } = options.database
    ? await openServer(options.database, options.folder)
    : await openFolder(options.folder, options.port || null);
  try {
    const origin = options.origin ?? `http://localhost:${options.port}`;
    const { app, runner, clockTo } = await assemble(db, secret, origin, options.quiet ?? false);
    app.fairShare = options.fairShare ?? true;
    if (options.smtp) {
      app.mail = await makeSmtp(options.smtp);
      app.takesReplies = false;
    }
    app.keeper = keeperFor?.(app, clockTo) ?? null;
    const leave = await app.announcer.join();
    // Where another process moved the demonstration's clock, this one's follows, never back.
    if (db.shared)
      app.announcer.listen(clockMoved, () => {
        readDemoClock(db).then(
          (clock) => {
            if (clock && clock.standsAt > app.clock.now()) clockTo(clock.standsAt);
          },
          () => undefined,
        );
      });
    const server = makeServer(app, {
      runner: () => runner,
      demoSignIns: options.demoSignIns ?? [],
      dist: options.pages === false ? null : join(projectRoot(), 'dist/web'),
      limits: options.limits ?? { publicWrites: 60, signIns: 20 },
      proxies: options.proxies,
    });
    await ensureKeysOfVersion(app.db);
    await askAboutAll(app);
    const goOn = async () => {
      await resumeChecks(app);
      await resumeImports(app);
    };
    const caughtUp = async () => {
      await runner.resume();
      await goOn();
      await tidyUp(app);
    };
    // Headers that trickle in, and bodies that never end, are cut off.
    const http = createServer(
      {
        headersTimeout: 10_000,
        requestTimeout: 120_000,
        connectionsCheckingInterval: 2_000,
        keepAliveTimeout: 10_000,
      },
      server,
    );
    await new Promise<void>((resolve, reject) => {
      http.once('error', reject);
      http.listen(options.port, options.listen ?? listenFor(origin), resolve);
    });
    // What fell due while nothing ran is done while people are answered already: whoever waits for the first answer has it before.
    await new Promise((resolve) => setTimeout(resolve, firstAnswerMs));
    await caughtUp().catch(async (error) => {
      await leave();
      http.closeAllConnections();
      http.close();
      throw error;
    });
    const warm = warmArchive(app).catch((error) =>
      app.log.error({ error: String(error) }, 'reading the archive failed'),
    );
    // What another process left when it ended.
    const takingOver = db.shared && setInterval(() => goOn().catch(() => undefined), takeOverMs);
    takingOver?.unref();
    const tidying = setInterval(
      () => tidyUp(app).catch((error) => app.log.error({ error: String(error) }, 'tidying up failed')),
      60 * 60_000,
    );
    tidying.unref();
    const counting = setInterval(
      () =>
        keepFloors(app.db, clockOfMachine()).catch((error) =>
          app.log.error({ error: String(error) }, 'counting failed'),
        ),
      floorMinutes * 60_000,
    );
    counting.unref();
    const address = http.address();
    const port = typeof address === 'object' && address ? address.port : options.port;
    return {
      app,
      runner,
      port,
      async stop() {
        clearInterval(tidying);
        clearInterval(counting);
        if (takingOver) clearInterval(takingOver);
        await leave();
        const closed = new Promise((resolve) => http.close(resolve));
        http.closeAllConnections();
        await closed;
        await runner.stop();
        await warm;
        await stopChecks(app);
        await stopLots(app);
        await keepFloors(app.db, clockOfMachine());
        await close();
      },
    };
  } catch (error) {
    await close();
    throw error;
  }
}

const clockOfMachine = (): string => systemClock.now();

/** Whom it listens for where nobody said: this machine alone as long as it is reached by a loopback name. */
const listenFor = (origin: string): string | undefined =>
  ['localhost', '127.0.0.1', '[::1]'].includes(new URL(origin).hostname) ? '127.0.0.1' : undefined;
