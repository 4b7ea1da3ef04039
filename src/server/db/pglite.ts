import { PGlite } from '@electric-sql/pglite';
import { pg_trgm } from '@electric-sql/pglite/contrib/pg_trgm';
import { camel, type Database, type Queries } from './database.ts';
import { parsers } from './values.ts';

interface Runner {
  query(
    sql: string,
    params?: unknown[],
    options?: object,
  ): Promise<{ rows: unknown[]; fields: { name: string }[] }>;
}

const queries = (runner: Runner): Queries => ({
  async query<T>(sql: string, params: readonly unknown[] = []): Promise<T[]> {
    const result = await runner.query(sql, [...params], { rowMode: 'array', parsers });
    const keys = result.fields.map((f) => camel(f.name));
    return (result.rows as unknown[][]).map((row) => {
      const record: Record<string, unknown> = {};
      for (let at = 0; at < keys.length; at += 1) record[keys[at]!] = row[at];
      return record as T;
    });
  },
});

/**
 * Opens PGlite in a folder, or in memory without one. `template` is a dumped data folder to start from, which is
 * several times faster than creating one.
 */
export async function openPglite(options: {
  folder?: string;
  template?: Blob;
}): Promise<Database & { dump(): Promise<Blob> }> {
  const db = await PGlite.create({
    ...(options.folder ? { dataDir: options.folder } : {}),
    ...(options.template ? { loadDataDir: options.template } : {}),
    extensions: { pg_trgm },
  });
  await db.exec(
    "set timezone = 'UTC'; create extension if not exists pg_trgm; set pg_trgm.word_similarity_threshold = 0.5",
  );
  return {
    ...queries(db as unknown as Runner),
    transaction: (work) => db.transaction((tx) => work(queries(tx as unknown as Runner))) as never,
    script: async (sql) => {
      await db.exec(sql);
    },
    close: () => db.close(),
    shared: null,
    dump: async () => (await db.dumpDataDir('none')) as Blob,
  };
}
