import type { Clock, Instant } from '#core/time/clock.ts';
import { first, type Queries } from '../db/database.ts';

/** A clock that stands still until it is moved; where it stands is kept in the database. */
export interface MovableClock extends Clock {
  set(to: Instant): void;
  /** Takes the clock of another database over, also one that stands earlier. */
  reset(to: Instant): void;
}

export function makeMovableClock(at: Instant): MovableClock {
  let now = at;
  return {
    now: () => now,
    set(to) {
      if (to < now) throw new RangeError('the clock only goes forward');
      now = to;
    },
    reset(to) {
      now = to;
    },
  };
}

export interface DemoClockRow {
  standsAt: Instant;
  movingTo: Instant | null;
}

/** The stored clock of a demonstration; null in an organization that lives by the machine's clock. */
export const readDemoClock = (tx: Queries): Promise<DemoClockRow | null> =>
  first<DemoClockRow>(tx, 'select stands_at, moving_to from demo_clock');

export async function storeDemoClock(tx: Queries, row: DemoClockRow): Promise<void> {
  await tx.query(
    `insert into demo_clock (id, stands_at, moving_to) values (1, $1, $2)
     on conflict (id) do update set stands_at = excluded.stands_at, moving_to = excluded.moving_to`,
    [row.standsAt, row.movingTo],
  );
}
