import { createHmac, timingSafeEqual } from 'node:crypto';
import { existsSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { Express } from 'express';
import type { App } from '../app/app.ts';
import { inspectFolder, markFolder, restorePaths, secretOf, swapDatabase } from '../db/folder.ts';
import { makeGate } from '../db/gate.ts';
import { migrate } from '../db/migrate.ts';
import { FolderHeld, holdFolder, readOwner } from '../db/owner.ts';
import { openPglite } from '../db/pglite.ts';
import { BackupRefused, readManifest, unpackBackup } from './archive.ts';
import { makeKeeper, stampOf } from './keeper.ts';

/** What a command on the same machine shows to prove that it may read the folder: something made from its secret. */
const proofOf = (secret: string): string =>
  createHmac('sha256', secret).update('backup by command').digest('hex');

/** The way in for the backup and restore commands while the server runs: only from this machine, and only with the proof. */
export function backupCommands(server: Express, app: App): void {
  server.post('/commands/:what', async (request, response) => {
    const given = Buffer.from(request.get('x-acolyte-proof') ?? '');
    const wanted = Buffer.from(proofOf(app.secret));
    const local = ['127.0.0.1', '::1', '::ffff:127.0.0.1'].includes(request.socket.remoteAddress ?? '');
    if (!local || given.length !== wanted.length || !timingSafeEqual(given, wanted) || !app.keeper) {
      response.status(404).end();
      return;
    }
    const path = decodeURIComponent(request.get('x-acolyte-file') ?? '');
    try {
      if (request.params.what === 'backup') {
        await app.keeper.make(path);
        response.json({ said: `Written to ${path}` });
      } else if (request.params.what === 'restore') {
        const about = await app.keeper.restore(await app.keeper.add(path));
        response.json({ said: `${about.organization} as of ${about.madeAt} is back` });
      } else response.status(404).end();
    } catch (error) {
      response.status(409).json({ said: error instanceof Error ? error.message : String(error) });
    }
  });
}

/** Asks the running server; null when none runs. */
async function throughServer(folder: string, what: string, file: string): Promise<string | null> {
  const owner = readOwner(folder);
  if (!owner?.port) return null;
  const answer = await fetch(`http://127.0.0.1:${owner.port}/commands/${what}`, {
    method: 'POST',
    headers: {
      'x-acolyte-proof': proofOf(secretOf(folder, 'holds data')),
      'x-acolyte-file': encodeURIComponent(file),
    },
  }).catch(() => null);
  if (!answer) return null;
  const { said } = (await answer.json().catch(() => ({ said: `The server answered ${answer.status}.` }))) as {
    said: string;
  };
  if (!answer.ok) throw new BackupRefused(said);
  return said;
}

/** `backup FOLDER FILE`: writes everything into one file, also while the server runs. */
export async function backupCommand(folder: string, file: string): Promise<string> {
  const to = resolve(file);
  if (existsSync(to)) throw new BackupRefused(`${to} exists already; choose another name.`);
  if (!existsSync(join(folder, 'pg'))) throw new BackupRefused(`There is no organization in ${folder}.`);
  let letGo: () => Promise<void>;
  try {
    letGo = await holdFolder(folder, null);
  } catch (error) {
    if (!(error instanceof FolderHeld)) throw error;
    const said = await throughServer(folder, 'backup', to);
    if (said === null) throw error;
    return said;
  }
  try {
    const state = inspectFolder(folder);
    const secret = secretOf(folder, state);
    const db = await openPglite({ folder: join(folder, 'pg') });
    try {
      await migrate(db);
      const keeper = makeKeeper({
        folder,
        db: makeGate(db),
        secret: () => secret,
        open: (at) => openPglite({ folder: at }),
        announce: () => {},
        restored: async () => {},
        now: () => new Date().toISOString(),
      });
      await keeper.make(to);
    } finally {
      await db.close();
    }
  } finally {
    await letGo();
  }
  return `Written to ${to}`;
}

/** `restore FOLDER FILE`: puts a backup in the place of what is in the folder, also while the server runs. */
export async function restoreCommand(folder: string, file: string): Promise<string> {
  const from = resolve(file);
  await readManifest(from);
  let letGo: () => Promise<void>;
  try {
    letGo = await holdFolder(folder, null);
  } catch (error) {
    if (!(error instanceof FolderHeld)) throw error;
    const said = await throughServer(folder, 'restore', from);
    if (said === null) throw error;
    return said;
  }
  try {
    const { fresh, freshSecret } = restorePaths(folder);
    const about = await unpackBackup(from, fresh, freshSecret, () => {});
    const tried = await openPglite({ folder: fresh });
    try {
      await migrate(tried);
    } catch (error) {
      await tried.close();
      rmSync(fresh, { recursive: true, force: true });
      rmSync(freshSecret, { force: true });
      throw error;
    }
    await tried.close();
    const before = swapDatabase(folder, stampOf(new Date().toISOString()));
    markFolder(folder);
    return `${about.organization} as of ${about.madeAt} is in ${folder}.${before ? ' What was there before is kept beside it.' : ''}`;
  } finally {
    await letGo();
  }
}

// Run by the commands: node dist/server/backup.js backup|restore FOLDER FILE
if (/backup(?:\.js|\/command\.ts)$/u.test(process.argv[1] ?? '')) {
  const [what, folder, file] = process.argv.slice(2);
  try {
    if (!folder || !file || (what !== 'backup' && what !== 'restore'))
      throw new Error('Say which file: npm run backup -- FILE');
    const said = await (what === 'backup' ? backupCommand : restoreCommand)(folder, file);
    process.stdout.write(`${said}\n`);
    process.exit(0);
  } catch (error) {
    process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
    process.exit(1);
  }
}
