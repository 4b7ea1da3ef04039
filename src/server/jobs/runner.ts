import type { Instant } from '#core/time/clock.ts';
import type { App } from '../app/app.ts';
import { type MovableClock, readDemoClock, storeDemoClock } from '../app/clocks.ts';
import { byClock } from '../app/reading.ts';

/** One thing that is due: what kind, when and which row. */
export interface Due {
  at: Instant;
  id: string;
}

/**
 * A kind of due work. The rows themselves say what is due, so nothing is lost when the process is killed; what does it works in
 * transactions of its own and leaves it no longer due.
 */
export type DueKind = {
  what: string;
  /** A query for the earliest one: its moment as `at`, its row as `id`. */
  next: string;
} & (
  | {
      /** Does one of them. */
      run(app: App, due: Due): Promise<void>;
    }
  | {
      /** Of what comes by the thousand: several at once, which takes less than one after the other. */
      together: {
        /** A query for those due at the instant $1 or before $2, in their order: their rows as `id`, as many as are done at once. */
        next: string;
        /** Does them, each as it would be done alone, and leaves the rest once `goesOn` says no. Answers how many it looked at. */
        run(app: App, ids: readonly string[], goesOn: () => boolean): Promise<number>;
      };
    }
);

/** Lets whoever asks for something have their turn: where the database is embedded, nothing else gives them one. */
export const breathe = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** The lease of whoever does due work, and what is announced when the demonstration's clock was moved. */
const dueWork = 'due work';
export const clockMoved = 'clock moved';

export interface Done {
  what: string;
  count: number;
}

export interface Runner {
  /** Does everything due by now, in the order it came due. */
  run(): Promise<Done[]>;
  /** Moves the demonstration clock to an instant, stopping at every due moment on the way. */
  moveTo(to: Instant): Promise<Done[]>;
  /** Goes on with a move that was cut short. */
  resume(): Promise<void>;
  next(): Promise<{ at: Instant; what: string } | null>;
  /** Looks for due work soon; calls are gathered. */
  wake(): void;
  stop(): Promise<void>;
}

/** Makes the runner, which looks every so many milliseconds, or never by itself. One piece of work runs at a time, in the order of its due moments. */
export function makeRunner(
  app: App,
  kinds: readonly DueKind[],
  movable: MovableClock | null,
  everyMs: number | null,
): Runner {
  let queue: Promise<unknown> = Promise.resolve();
  let stopped = false;
  let woken = false;
  const oneAtATime = <T>(work: () => Promise<T>): Promise<T> => {
    const run = queue.then(work, work);
    queue = run.catch(() => undefined);
    return run;
  };

  // One query asks all kinds, the earliest of each; at the same instant the order of the list holds.
  const earliestSql = `select kind, at, id from (${kinds
    .map((k, at) => `(select ${at} as kind, n${at}.at, n${at}.id::text as id from (${k.next}) n${at})`)
    .join(' union all ')}) d order by at, kind limit 2`;

  /** What is due first; `nextAt` is when something of another kind is. */
  async function earliest(): Promise<{ kind: DueKind; due: Due; nextAt: Instant | null } | null> {
    const [found, other] = await app.db.query<Due & { kind: number }>(earliestSql);
    if (!found) return null;
    return { kind: kinds[found.kind]!, due: { at: found.at, id: found.id }, nextAt: other?.at ?? null };
  }

  /** Does what is due first, and of what comes by the thousand what is due with it. Answers how many were done. */
  async function doIt(
    { kind, due, nextAt }: NonNullable<Awaited<ReturnType<typeof earliest>>>,
    /** Up to when; while the clock is moved, everything has its own moment. */
    until: Instant,
    goesOn: () => boolean,
  ): Promise<number> {
    if (!('together' in kind)) {
      await kind.run(app, due);
      return 1;
    }
    const { together } = kind;
    const before = nextAt !== null && nextAt < until ? nextAt : until;
    const more = await app.db.query<{ id: string }>(together.next, [due.at, before]);
    return together.run(app, [...new Set([due.id, ...more.map((m) => m.id)])], goesOn);
  }

  async function work(until: () => Instant, move: boolean, held: () => boolean): Promise<Done[]> {
    const done = new Map<string, number>();
    const goesOn = () => !stopped && held();
    while (goesOn()) {
      const found = await earliest();
      if (!found || found.due.at > until()) break;
      if (move && movable && found.due.at > movable.now()) {
        await storeDemoClock(app.db, { standsAt: found.due.at, movingTo: until() });
        setTo(found.due.at);
      }
      const count = await byClock(app.face, () => doIt(found, move ? found.due.at : until(), goesOn));
      done.set(found.kind.what, (done.get(found.kind.what) ?? 0) + count);
      await breathe();
    }
    return [...done].map(([what, count]) => ({ what, count }));
  }

  /** Sets the clock, and those of the other processes. */
  function setTo(at: Instant): void {
    movable?.set(at);
    app.announcer.announce(clockMoved);
  }

  async function move(to: Instant, held: () => boolean): Promise<Done[]> {
    if (!movable) throw new Error('this clock cannot be moved');
    await storeDemoClock(app.db, { standsAt: movable.now(), movingTo: to });
    const done = await work(() => to, true, held);
    if (stopped || !held()) return done;
    await storeDemoClock(app.db, { standsAt: to, movingTo: null });
    setTo(to);
    return done;
  }

  const runner: Runner = {
    run: () =>
      oneAtATime(async () => {
        const held = await app.leases.hold(dueWork, (held) => work(() => app.clock.now(), false, held));
        return held?.result ?? [];
      }),
    moveTo: (to) =>
      oneAtATime(async () => {
        for (;;) {
          const held = await app.leases.hold(dueWork, (held) => move(to, held));
          if (held) return held.result;
          if (stopped) return [];
          // Another process does what is due now; it lets go once that is done.
          await new Promise((resolve) => setTimeout(resolve, 100));
        }
      }),
    async resume() {
      const row = await readDemoClock(app.db);
      if (movable && row?.movingTo) await runner.moveTo(row.movingTo);
      await runner.run();
    },
    async next() {
      const found = await earliest();
      return found && { at: found.due.at, what: found.kind.what };
    },
    wake() {
      if (woken || stopped) return;
      woken = true;
      setImmediate(() => {
        woken = false;
        runner.run().catch((error) => app.log.error({ error: String(error) }, 'due work failed'));
      });
    },
    async stop() {
      stopped = true;
      if (timer) clearInterval(timer);
      await queue;
    },
  };
  const timer = everyMs === null ? null : setInterval(() => runner.wake(), everyMs);
  timer?.unref();
  return runner;
}
