import type { TestProject } from 'vitest/node';
import { migrate } from '#server/db/migrate.ts';
import { openPostgres } from '#server/db/postgres.ts';
import { postgresPrograms } from '../../scripts/postgres.mjs';
import makeFolderTemplate, { found } from '../api/template.ts';
import { startPostgres } from './postgres.ts';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Where the PostgreSQL server is reached that tests run on; null where they run on PGlite. */
    postgres: string | null;
  }
}

/** Starts a PostgreSQL server for the tests and founds the organization that every test begins with. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const programs = postgresPrograms();
  if (!programs)
    throw new Error('There is no PostgreSQL here. Leave these tests out: --project core --project api');
  await makeFolderTemplate();
  const server = await startPostgres(programs);
  await server.admin('create database template_of_tests');
  const db = await openPostgres(server.url('template_of_tests'));
  await migrate(db);
  await found(db);
  await db.query('analyze');
  await db.close();
  project.provide('postgres', server.url('postgres'));
  return () => server.stop();
}
