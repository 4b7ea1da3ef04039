import { createReadStream, statSync } from 'node:fs';
import type { Response } from 'express';
import type { backupContract } from '#contract/backup.ts';
import { fold } from '#core/contacts/names.ts';
import { sayProblem } from '#core/words/problems.ts';
import { type App, inTransaction } from '../app/app.ts';
import type { Keeper } from '../app/keeping.ts';
import { record } from '../app/record.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, notFound, Problem, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { BackupRefused } from './archive.ts';

/** A backup as it goes out, read as it is sent. */
class BackupFile extends File {
  constructor(
    private readonly path: string,
    name: string,
  ) {
    super(name, '');
  }
  start(response: Response): void {
    response.status(200).set({
      'content-type': 'application/gzip',
      'content-length': String(statSync(this.path).size),
      'content-disposition': `attachment; filename="${this.name}"`,
    });
    createReadStream(this.path).pipe(response);
  }
}

const noFolder = (app: App) => (app.db.shared ? 'backup-on-server' : 'no-folder');
const keeperOf = (app: App): Keeper => {
  if (!app.keeper) throw refused(noFolder(app));
  return app.keeper;
};

/** Says what a keeper refuses as a problem. */
async function asked<T>(work: () => T | Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof BackupRefused) throw new Problem(409, 'backup', error.message);
    throw error;
  }
}

export const backupHandlers: Handlers<typeof backupContract> = {
  'GET /api/backups': async ({ app }) => ({
    backups: app.keeper?.list() ?? [],
    working: app.keeper?.working() ?? null,
    unable: app.keeper ? null : sayProblem(noFolder(app)),
  }),

  'POST /api/backups': async (c) => {
    const made = await asked(() => keeperOf(c.app).make());
    await inTransaction(c.app, c.actor, (w) =>
      record(w, 'organization changed', { how: 'made a backup', detail: { name: made.name } }),
    );
    return made;
  },

  'GET /api/backups/:name': async (c) => {
    const path = await asked(() => keeperOf(c.app).pathOf(c.params.name)).catch(() => {
      throw notFound('This backup');
    });
    await record(c, 'organization changed', { how: 'took a backup along', detail: { name: c.params.name } });
    return new BackupFile(path, c.params.name);
  },

  'DELETE /api/backups/:name': async (c) => {
    await asked(() => keeperOf(c.app).remove(c.params.name)).catch(() => {
      throw notFound('This backup');
    });
    await inTransaction(c.app, c.actor, (w) =>
      record(w, 'organization changed', { how: 'deleted a backup', detail: { name: c.params.name } }),
    );
    return { done: true };
  },

  'POST /api/backups/:name/restore': async (c) => {
    const { name } = await theOrganization(c.app.db);
    if (fold(c.body.organization) !== fold(name))
      throw invalid([{ path: 'organization', code: 'name-as-it-stands', params: { name } }]);
    const about = await asked(() => keeperOf(c.app).restore(c.params.name));
    // Whoever did it need not exist in what was put back.
    await inTransaction(c.app, { ...c.actor, staffId: null }, (w) =>
      record(w, 'organization changed', { how: 'put a backup back', detail: { name: c.params.name } }),
    );
    return { organization: about.organization, madeAt: about.madeAt };
  },
};
