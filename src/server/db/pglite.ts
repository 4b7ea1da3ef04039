import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { PGlite, protocol } from '@electric-sql/pglite';
import { btree_gist } from '@electric-sql/pglite/contrib/btree_gist';
import { pg_trgm } from '@electric-sql/pglite/contrib/pg_trgm';
import { Parser } from 'pg-protocol/dist/parser.js';
import { camel, type Database, type Queries } from './database.ts';
import { Kept } from './kept.ts';
import { readerOf, writtenFor } from './values.ts';

const { serialize } = protocol;

/** Statements kept ready at most; the one that was not used for longest makes room. */
const readyAtMost = 600;

/** A statement the database has parsed already, with the types it takes and answers. */
interface Ready {
  name: string;
  takes: readonly number[];
  columns: readonly { key: string; read: (text: string) => unknown }[];
}

interface Message {
  name: string;
  fields?: readonly unknown[];
  dataTypeIDs?: readonly number[];
}

/** The bytes of several messages, one after the other, so that they cross into the database at once. */
function together(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((n, part) => n + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/**
 * Speaks to the embedded database in its own protocol (PostgreSQL documentation, chapter “Frontend/Backend Protocol”,
 * extended query). A statement is parsed and planned the first time only: most of what a small statement takes is that.
 */
class Connection {
  private readonly ready = new Map<string, Ready>();
  private made = 0;
  constructor(private readonly db: PGlite) {}

  async query<T>(sql: string, params: readonly unknown[], within: boolean): Promise<T[]> {
    const statement = await this.prepare(sql);
    const values = statement.takes.map((type, at) => writtenFor(type, params[at]));
    const messages = await this.exchange(
      [serialize.bind({ statement: statement.name, values }), serialize.execute({}), serialize.sync()],
      within,
    );
    const { columns } = statement;
    const rows: T[] = [];
    for (const message of messages) {
      if (message.name !== 'dataRow') continue;
      const record: Record<string, unknown> = {};
      for (let at = 0; at < columns.length; at += 1) {
        const text = message.fields![at] as string | null;
        record[columns[at]!.key] = text === null ? null : columns[at]!.read(text);
      }
      rows.push(record as T);
    }
    return rows;
  }

  /** Runs something without parameters or rows: begin, commit. */
  simple(sql: string, within: boolean): Promise<Message[]> {
    return this.exchange([serialize.query(sql)], within);
  }

  /** Forgets every statement: tables may have another shape now. */
  async forget(): Promise<void> {
    if (!this.ready.size) return;
    this.ready.clear();
    await this.simple('deallocate all', true);
  }

  private async prepare(sql: string): Promise<Ready> {
    const known = this.ready.get(sql);
    if (known) {
      this.ready.delete(sql);
      this.ready.set(sql, known);
      return known;
    }
    this.made += 1;
    const name = `s${this.made}`;
    const messages = await this.exchange(
      [serialize.parse({ name, text: sql }), serialize.describe({ type: 'S', name }), serialize.sync()],
      true,
    );
    const described = messages.find((m) => m.name === 'rowDescription');
    const statement: Ready = {
      name,
      takes: messages.find((m) => m.name === 'parameterDescription')?.dataTypeIDs ?? [],
      columns: ((described?.fields ?? []) as readonly { name: string; dataTypeID: number }[]).map((f) => ({
        key: camel(f.name),
        read: readerOf(f.dataTypeID),
      })),
    };
    this.ready.set(sql, statement);
    if (this.ready.size > readyAtMost) {
      const [oldest, { name: gone }] = this.ready.entries().next().value!;
      this.ready.delete(oldest);
      await this.exchange([serialize.close({ type: 'S', name: gone }), serialize.sync()], true);
    }
    return statement;
  }

  /** Sends messages and answers what came back; throws the error of the database if there was one. */
  private async exchange(parts: readonly Uint8Array[], within: boolean): Promise<Message[]> {
    const chunks: Buffer[] = [];
    await this.db.execProtocolRawStream(together(parts), {
      syncToFs: !within,
      // What is told is a window on the memory of the database, which goes on.
      onRawData: (bytes) => chunks.push(Buffer.from(bytes)),
    });
    // Read as the driver of a server reads it: several times as fast as what comes with the embedded one.
    const messages: (Message | Error)[] = [];
    new Parser().parse(chunks.length === 1 ? chunks[0]! : Buffer.concat(chunks), (message) =>
      messages.push(message),
    );
    const failed = messages.find((m) => m instanceof Error);
    if (failed) throw failed;
    return messages as Message[];
  }
}

/** Lets one piece of work at a time have the database. */
function makeTurn(): <T>(work: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return <T>(work: () => Promise<T>): Promise<T> => {
    const run = last.then(work);
    last = run.catch(() => undefined);
    return run;
  };
}

/** Bytes that are handed over at once: Node's own Blob does it in small pieces, which takes longer than opening a database. */
class Whole extends Blob {
  readonly #whole: Uint8Array<ArrayBuffer>;
  constructor(whole: Uint8Array<ArrayBuffer>) {
    super();
    this.#whole = whole;
  }
  override get size(): number {
    return this.#whole.length;
  }
  override async arrayBuffer(): Promise<ArrayBuffer> {
    return this.#whole.slice().buffer;
  }
}

/** The program of the database, read and compiled once however often one is opened: backups do, and tests by the hundred. */
let program: Promise<{ pgliteWasmModule: WebAssembly.Module; fsBundle: Blob }> | null = null;
const theProgram = () => {
  program ??= (async () => {
    const at = dirname(createRequire(import.meta.url).resolve('@electric-sql/pglite'));
    return {
      pgliteWasmModule: await WebAssembly.compile(readFileSync(join(at, 'pglite.wasm'))),
      fsBundle: new Whole(new Uint8Array(readFileSync(join(at, 'pglite.data')))),
    };
  })();
  return program;
};

/**
 * Opens PGlite in a folder, or in memory without one. `template` is a dumped data folder to start from, which is
 * several times faster than creating one.
 */
export async function openPglite(options: {
  folder?: string;
  template?: Uint8Array<ArrayBuffer>;
}): Promise<Database & { dump(): Promise<Blob> }> {
  const db = await PGlite.create({
    ...(await theProgram()),
    ...(options.folder ? { dataDir: options.folder } : {}),
    ...(options.template ? { loadDataDir: new Whole(options.template) } : {}),
    extensions: { btree_gist, pg_trgm },
  });
  await db.exec(
    "set timezone = 'UTC'; create extension if not exists pg_trgm; set pg_trgm.word_similarity_threshold = 0.5",
  );
  const connection = new Connection(db);
  const turn = makeTurn();
  return {
    query: <T>(sql: string, params: readonly unknown[] = []) =>
      turn(() => connection.query<T>(sql, params, false)),
    transaction: <T>(work: (tx: Queries) => Promise<T>): Promise<T> =>
      turn(async () => {
        const inOrder = makeTurn();
        let over = false;
        const kept = new Kept();
        const tx: Queries = {
          kept,
          query: <R>(sql: string, params: readonly unknown[] = []) => {
            kept.heed(sql);
            return inOrder(() => {
              if (over) throw new Error('the transaction is over');
              return connection.query<R>(sql, params, true);
            });
          },
        };
        const end = (how: string) =>
          inOrder(async () => {
            over = true;
            await connection.simple(how, false);
          });
        await connection.simple('begin', true);
        try {
          const result = await work(tx);
          await end('commit');
          return result;
        } catch (error) {
          if (!over) await end('rollback');
          throw error;
        }
      }),
    script: (sql) =>
      turn(async () => {
        try {
          await db.exec(sql);
        } catch (error) {
          await connection.simple('rollback', false).catch(() => undefined);
          throw error;
        } finally {
          await connection.forget();
        }
      }),
    close: () => turn(() => db.close()),
    shared: null,
    dump: () => turn(async () => (await db.dumpDataDir('none')) as Blob),
  };
}
