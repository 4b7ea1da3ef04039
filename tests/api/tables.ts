import type { World } from './harness.ts';

/** What comes and goes by itself: sessions, leases of due work, answers kept for a second request. */
const fleeting = ['sessions', 'idempotency', 'leases'];

/** What remembers that something was done and undone. */
export const remembers = [
  'audit',
  // Seats were changed and changed back: what is kept of them in memory is read anew all the same.
  'event_touched',
  'changes',
  'change_files',
  'change_rows',
  'plan_parts',
  'event_states',
  'events',
  'plan_changes',
  // What was posted and taken back is posted back: the books only grow, and stand as the orders do.
  'postings',
  'entries',
  'book_sums',
];

/** Every table's rows as one sum each: what a try, or a change that was taken back, must leave as it was. */
export async function everything(
  { app, runner }: Pick<World, 'app' | 'runner'>,
  but: readonly string[] = [],
): Promise<Record<string, string>> {
  // What is due goes on between two requests: it is done before rows are looked at.
  await runner.run();
  const tables = await app.db.query<{ name: string }>(
    "select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace and relname <> all($1) order by 1",
    [[...fleeting, ...but]],
  );
  const sums: Record<string, string> = {};
  for (const { name } of tables) {
    const [row] = await app.db.query<{ sum: string }>(
      `select coalesce(md5(string_agg(t::text, '|' order by t::text)), '') as sum from "${name}" t`,
    );
    sums[name] = row!.sum;
  }
  return sums;
}
