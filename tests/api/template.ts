import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { standingClock } from '#core/time/clock.ts';
import { foundOrganization } from '#demo/organization.ts';
import { storeDemoClock } from '#server/app/clocks.ts';
import type { Database } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { beginning, templatePath } from './founded.ts';

/** Founds the organization that every test begins with, in an empty database that was migrated. */
export async function found(db: Database): Promise<void> {
  const ids = makeIds(standingClock(beginning));
  await db.transaction((tx) => foundOrganization({ tx, now: beginning, app: { ids } as never }));
  await storeDemoClock(db, { standsAt: beginning, movingTo: null });
}

/** Makes the data folder that every test starts from, once a run: migrated, with the organization founded. */
export default async function setup(): Promise<void> {
  const db = await openPglite({});
  await migrate(db);
  await found(db);
  mkdirSync(dirname(templatePath), { recursive: true });
  writeFileSync(templatePath, Buffer.from(await (await db.dump()).arrayBuffer()));
  await db.close();
}
