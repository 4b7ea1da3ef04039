import { randomUUID } from 'node:crypto';
import type { Database } from './database.ts';

/** Seconds that a lease lasts without being renewed, and between renewals. */
const lastsSeconds = 30;
const renewSeconds = 10;

/** Who does work that only one process may do at a time. */
export interface Leases {
  /**
   * Does `work` while this process holds the lease of that name, and answers its result; null when another process holds
   * it. `held` tells whether it still does: a process that stood still for long may have lost it.
   */
  hold<T>(name: string, work: (held: () => boolean) => Promise<T>): Promise<{ result: T } | null>;
}

/** One process has the database to itself: every lease is its own. */
const alone: Leases = { hold: async (_name, work) => ({ result: await work(() => true) }) };

/** Leases as rows, by the clock of the database: a process that dies loses them when they run out. */
export function makeLeases(db: Database): Leases {
  if (!db.shared) return alone;
  const holder = randomUUID();
  return {
    async hold(name, work) {
      const [got] = await db.query(
        `insert into leases (name, holder, until)
         values ($1, $2, clock_timestamp() + make_interval(secs => $3))
         on conflict (name) do update set holder = excluded.holder, until = excluded.until
         where leases.until < clock_timestamp() returning name`,
        [name, holder, lastsSeconds],
      );
      if (!got) return null;
      let until = performance.now() + lastsSeconds * 1000;
      const renewing = setInterval(() => {
        const asked = performance.now();
        db.query(
          `update leases set until = clock_timestamp() + make_interval(secs => $3)
           where name = $1 and holder = $2 returning name`,
          [name, holder, lastsSeconds],
        ).then(
          ([still]) => {
            until = still ? asked + lastsSeconds * 1000 : 0;
          },
          () => undefined,
        );
      }, renewSeconds * 1000);
      renewing.unref();
      try {
        return { result: await work(() => performance.now() < until) };
      } finally {
        clearInterval(renewing);
        await db.query('delete from leases where name = $1 and holder = $2', [name, holder]);
      }
    },
  };
}
