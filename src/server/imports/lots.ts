import { type Actor, type App, inTransaction, type Work } from '../app/app.ts';

/** Milliseconds that one lot should hold the database, and how many rows the first one has. */
const lotMs = 40;
const firstLot = 40;
const largestLot = 2_000;

/** Long work that is under way on a database, so that it can be stopped between lots. */
interface Running {
  stopped: boolean;
  works: Set<Promise<void>>;
}
const all = new WeakMap<App, Running>();
const runningOf = (app: App): Running => {
  const known = all.get(app) ?? { stopped: false, works: new Set() };
  all.set(app, known);
  return known;
};

/**
 * Does long work in lots, each a transaction of its own that says how far it came. Between lots everybody else has a
 * turn; lots grow and shrink so that each holds the database for a moment only. `lot` answers whether all is done.
 */
export async function inLots(
  app: App,
  actor: Actor,
  lot: (w: Work, size: number) => Promise<boolean>,
): Promise<void> {
  const own = runningOf(app);
  let size = firstLot;
  const work = (async () => {
    for (;;) {
      if (own.stopped) return;
      const began = performance.now();
      if (await inTransaction(app, actor, (w) => lot(w, Math.round(size)))) return;
      const took = Math.max(1, performance.now() - began);
      size = Math.min(largestLot, Math.max(5, size * Math.min(2, Math.max(0.3, lotMs / took))));
      // A moment for requests that ask the database several times.
      await new Promise((resolve) => setTimeout(resolve, 4));
    }
  })();
  own.works.add(work);
  try {
    await work;
  } finally {
    own.works.delete(work);
  }
}

/** Stops long work after the lot under way. */
export async function stopLots(app: App): Promise<void> {
  const own = runningOf(app);
  own.stopped = true;
  await Promise.allSettled([...own.works]);
}

/** Lets long work begin again on a database that was stopped. */
export const allowLots = (app: App): void => {
  runningOf(app).stopped = false;
};
