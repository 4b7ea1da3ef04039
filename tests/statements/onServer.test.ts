import pg from 'pg';
import { expect, test } from 'vitest';
import { migrate } from '#server/db/migrate.ts';
import { openPostgres } from '#server/db/postgres.ts';
import { postgresPrograms } from '../../scripts/postgres.mjs';
import { startPostgres } from '../servers/postgres.ts';
import { placeOf, whatWasAsked } from './asked.ts';

const programs = postgresPrograms();

/** Statements that a server can be told to prepare; the others begin and end things, and take no values. */
const prepared = /^\s*(?:select|insert|update|delete|with|values|merge)\b/iu;

// What is asked on the embedded database alone was never put to the older PostgreSQL of a server otherwise.
test.skipIf(!programs)(
  'a PostgreSQL server takes every statement that the API tests asked the embedded database',
  { timeout: 300_000 },
  async () => {
    const server = await startPostgres(programs!);
    try {
      await server.admin('create database statements');
      const db = await openPostgres(server.url('statements'));
      await migrate(db);
      await db.close();
      const client = new pg.Client({ connectionString: server.url('statements') });
      await client.connect();
      const statements = new Map(
        whatWasAsked()
          .asked.filter(({ sql }) => prepared.test(sql))
          .map(({ site, sql }) => [sql, placeOf(site)]),
      );
      const refused: string[] = [];
      for (const [sql, place] of statements)
        await client
          .query(`prepare asked as ${sql}`)
          .then(() => client.query('deallocate asked'))
          .catch((error: Error) => refused.push(`${place}: ${error.message}`));
      await client.end();
      expect(statements.size).toBeGreaterThan(500);
      expect(refused).toEqual([]);
    } finally {
      await server.stop();
    }
  },
);
