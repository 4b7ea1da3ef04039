import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { camel, type Database, type Queries, type Shared } from './database.ts';
import { Kept } from './kept.ts';
import { readerOf } from './values.ts';

/** Connections that one process holds at most. */
const connections = Number(process.env.ACOLYTE_CONNECTIONS ?? 10);

/** The channel on which processes of one database tell each other what changed. */
const channel = 'acolyte';

const types = {
  getTypeParser: (id: number) => readerOf(id),
};

/** Statements that connections keep ready, by name; those that come later are parsed each time. */
const readyAtMost = 600;
const ready = new Map<string, string>();
function readyName(sql: string): string | undefined {
  const known = ready.get(sql);
  if (known || ready.size >= readyAtMost) return known;
  const name = `s${ready.size}`;
  ready.set(sql, name);
  return name;
}

/** Runs one statement on one connection. */
async function run<T>(on: pg.ClientBase | pg.Pool, sql: string, params: readonly unknown[]): Promise<T[]> {
  const name = readyName(sql);
  const result = await on.query({
    ...(name ? { name } : {}),
    text: sql,
    values: [...params],
    rowMode: 'array',
    types: types as never,
  });
  const keys = result.fields.map((f) => camel(f.name));
  return (result.rows as unknown[][]).map((row) => {
    const record: Record<string, unknown> = {};
    for (let at = 0; at < keys.length; at += 1) record[keys[at]!] = row[at];
    return record as T;
  });
}

/** Errors of PostgreSQL after which the same transaction may be tried again: not serializable, deadlock. */
const again = new Set(['40001', '40P01']);
const triesOfOne = 5;

/**
 * A transaction begins beside others; one that was in somebody's way begins again when they have ended, and alone. The
 * lock comes before anything is read: what is read afterwards is what the others kept.
 */
const beginBeside = 'begin isolation level serializable; lock table turnstile in row share mode';
const beginAlone = 'begin isolation level serializable; lock table turnstile in exclusive mode';

/**
 * Opens a PostgreSQL server, version 15 or later. Transactions are serializable and tried again when the server found two
 * in each other's way, so that several processes decide as one would: whoever comes second sees what the first kept.
 * `work` of a transaction may therefore run more than once and must keep nothing outside it.
 */
export async function openPostgres(url: string): Promise<Database> {
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    options: '-c timezone=UTC -c datestyle=ISO -c jit=off -c pg_trgm.word_similarity_threshold=0.5',
  });
  // A connection that breaks while nobody uses it is replaced by the pool.
  pool.on('error', () => undefined);
  try {
    await pool.query('create extension if not exists pg_trgm');
  } catch (error) {
    await pool.end();
    throw error;
  }
  return {
    query: (sql, params = []) => run(pool, sql, params),
    async transaction<T>(work: (tx: Queries) => Promise<T>): Promise<T> {
      const client = await pool.connect();
      let broken: Error | null = null;
      const lost = (error: Error) => {
        broken = error;
      };
      client.on('error', lost);
      try {
        for (let tries = 1; ; tries += 1) {
          // One statement at a time goes over a connection; whoever asks for several at once has them one by one.
          let last: Promise<unknown> = Promise.resolve();
          const kept = new Kept();
          const tx: Queries = {
            kept,
            query: <R>(sql: string, params: readonly unknown[] = []): Promise<R[]> => {
              kept.heed(sql);
              const next = last.then(() => run<R>(client, sql, params));
              last = next.catch(() => undefined);
              return next;
            },
          };
          await client.query(tries === 1 ? beginBeside : beginAlone);
          try {
            const result = await work(tx);
            await last;
            await client.query('commit');
            return result;
          } catch (error) {
            await last;
            await client.query('rollback').catch(lost);
            if (broken || !again.has((error as { code?: string }).code ?? '') || tries >= triesOfOne)
              throw error;
          }
        }
      } finally {
        client.off('error', lost);
        client.release(broken ?? undefined);
      }
    },
    async script(sql) {
      const client = await pool.connect();
      try {
        await client.query(sql);
      } catch (error) {
        await client.query('rollback').catch(() => undefined);
        throw error;
      } finally {
        client.release();
      }
    },
    close: () => pool.end(),
    shared: sharedOn(pool, url),
  };
}

/** How processes of one server tell each other what happened: LISTEN and NOTIFY. */
function sharedOn(pool: pg.Pool, url: string): Shared {
  const self = randomUUID();
  return {
    tell(topic, figures) {
      // What cannot be told is seen at the next reading; nothing is lost by it.
      pool
        .query('select pg_notify($1, $2)', [channel, JSON.stringify({ from: self, topic, figures })])
        .catch(() => undefined);
    },
    async hear(heard, missed) {
      let stopped = false;
      let client: pg.Client | null = null;
      const listen = async () => {
        const fresh = new pg.Client({ connectionString: url });
        client = fresh;
        fresh.on('notification', ({ payload }) => {
          const { from, topic, figures } = JSON.parse(payload ?? '{}') as {
            from: string;
            topic: string;
            figures: Record<string, number>;
          };
          if (from !== self) heard(topic, figures);
        });
        fresh.on('error', () => undefined);
        fresh.once('end', () => {
          if (!stopped) setTimeout(retry, 1000).unref();
        });
        await fresh.connect();
        await fresh.query(`listen ${channel}`);
      };
      const retry = () => {
        if (!stopped) listen().then(missed, () => setTimeout(retry, 1000).unref());
      };
      await listen();
      return async () => {
        stopped = true;
        await client?.end().catch(() => undefined);
      };
    },
  };
}
