import type { Kept } from './kept.ts';

/** What can be asked of the database, inside a transaction or outside one. */
export interface Queries {
  /**
   * Runs one statement and returns its rows with camelCase keys. Instants come as ISO text in UTC, wall times as
   * `2026-08-08T09:00`, dates as `2026-08-08`, bigint and numeric as numbers.
   */
  query<T = Record<string, unknown>>(sql: string, params?: readonly unknown[]): Promise<T[]>;
  /** What was read once for a whole transaction, by `once`; there is none outside of one. */
  kept?: Kept;
}

/**
 * Reads something once in a transaction, however many ask for it: until the transaction writes into one of the tables it is read
 * from. `anew` reads it whatever was read before.
 */
export function once<T>(
  tx: Queries,
  what: string,
  from: readonly string[],
  read: () => Promise<T>,
  anew = false,
): Promise<T> {
  const known = anew ? undefined : tx.kept?.get<T>(what);
  if (known) return known;
  const reading = read();
  tx.kept?.set(what, reading, from);
  return reading;
}

export interface Database extends Queries {
  /** Runs `work` in one transaction: all of it is kept, or, when it throws, none. */
  transaction<T>(work: (tx: Queries) => Promise<T>): Promise<T>;
  /** Runs a script of several statements. Only for migrations. */
  script(sql: string): Promise<void>;
  close(): Promise<void>;
  /** How the processes of one database tell each other things; null where one process has it to itself. */
  shared: Shared | null;
}

/** What goes between the processes of one database. */
export interface Shared {
  /** Tells the others that something changed. What is told may be lost, never what was written. */
  tell(topic: string, figures: Record<string, number>): void;
  /** Hears the others; `missed` is called when something may have been told unheard. Answers how to stop. */
  hear(
    heard: (topic: string, figures: Record<string, number>) => void,
    missed: () => void,
  ): Promise<() => Promise<void>>;
}

/** Turns a key into a column name: `startsAt` → `starts_at`. */
export const snake = (key: string): string => key.replace(/[A-Z]/gu, (c) => `_${c.toLowerCase()}`);

/** Turns a column name into a key: `starts_at` → `startsAt`. */
export const camel = (column: string): string =>
  column.replace(/_([a-z0-9])/gu, (_, c: string) => c.toUpperCase());

/** A table or column name as written in code; never from outside. */
const identifier = (name: string): string => {
  if (!/^[a-z_][a-z0-9_]*$/u.test(name)) throw new Error(`not an identifier: ${name}`);
  return name;
};

/**
 * Inserts one or many rows given as objects with camelCase keys; the keys of the first row are the columns.
 * Values travel as one JSON parameter, so arrays, JSON columns and instants need no care of their own.
 */
export async function insert(
  tx: Queries,
  table: string,
  rows: object | readonly object[],
  conflict: '' | 'on conflict do nothing' = '',
): Promise<void> {
  const list = (Array.isArray(rows) ? rows : [rows]) as Record<string, unknown>[];
  if (!list.length) return;
  const keys = Object.keys(list[0]!);
  const columns = keys.map((k) => identifier(snake(k)));
  const name = identifier(table);
  for (let from = 0; from < list.length; from += 2000) {
    const part = list
      .slice(from, from + 2000)
      .map((row) => Object.fromEntries(keys.map((k, at) => [columns[at]!, row[k] ?? null])));
    await tx.query(
      `insert into ${name} (${columns.join(', ')}) select ${columns.join(', ')}
       from jsonb_populate_recordset(null::${name}, $1::jsonb) ${conflict}`,
      [JSON.stringify(part)],
    );
  }
}

/** Changes the row with this id. Keys are camelCase column names; JSON columns take JSON values. */
export async function update(tx: Queries, table: string, id: string, change: object): Promise<void> {
  const keys = Object.keys(change);
  if (!keys.length) return;
  const columns = keys.map((k) => identifier(snake(k)));
  const name = identifier(table);
  const values = Object.fromEntries(
    keys.map((k, at) => [columns[at]!, (change as Record<string, unknown>)[k] ?? null]),
  );
  await tx.query(
    `update ${name} set ${columns.map((c) => `${c} = r.${c}`).join(', ')}
     from jsonb_populate_record(null::${name}, $2::jsonb) r where ${name}.id = $1`,
    [id, JSON.stringify(values)],
  );
}

/** Rows by what they belong to; whoever has none gets an empty list. */
export function byOwner<T>(
  owners: readonly string[],
  rows: readonly T[],
  ownerOf: (row: T) => string,
): ReadonlyMap<string, T[]> {
  const of = new Map<string, T[]>(owners.map((id) => [id, []]));
  for (const row of rows) of.get(ownerOf(row))?.push(row);
  return of;
}

/** The only row of a query, or null. */
export async function first<T>(tx: Queries, sql: string, params?: readonly unknown[]): Promise<T | null> {
  const rows = await tx.query<T>(sql, params);
  return rows[0] ?? null;
}

/** Does something within a transaction so that, where it throws, only that is taken back and the rest goes on. */
export async function apart<T>(tx: Queries, work: () => Promise<T>): Promise<T> {
  await tx.query('savepoint apart');
  try {
    const result = await work();
    await tx.query('release savepoint apart');
    return result;
  } catch (error) {
    await tx.query('rollback to savepoint apart');
    // What was read meanwhile may have been of what is gone.
    tx.kept?.clear();
    throw error;
  }
}
