import type { Database, Queries } from './database.ts';

/** A database that can be exchanged for another while others use it: they wait, and go on with the new one. */
export interface Gate extends Database {
  /** Waits until nobody is in the middle of anything, exchanges, and lets everybody go on. */
  exchange(change: (old: Database) => Promise<Database>): Promise<void>;
}

export function makeGate(first: Database): Gate {
  let inner = first;
  let inside = 0;
  let closed: Promise<void> | null = null;
  let emptied: (() => void) | null = null;
  const through = async <T>(work: (db: Database) => Promise<T>): Promise<T> => {
    while (closed) await closed;
    inside += 1;
    try {
      return await work(inner);
    } finally {
      inside -= 1;
      if (inside === 0) emptied?.();
    }
  };
  return {
    query: <T>(sql: string, params?: readonly unknown[]) => through((db) => db.query<T>(sql, params)),
    transaction: <T>(work: (tx: Queries) => Promise<T>) => through((db) => db.transaction(work)),
    script: (sql) => through((db) => db.script(sql)),
    close: () => inner.close(),
    shared: first.shared,
    async exchange(change) {
      while (closed) await closed;
      let open = () => {};
      closed = new Promise((resolve) => {
        open = resolve;
      });
      try {
        if (inside > 0)
          await new Promise<void>((resolve) => {
            emptied = resolve;
          });
        inner = await change(inner);
      } finally {
        emptied = null;
        closed = null;
        open();
      }
    },
  };
}
