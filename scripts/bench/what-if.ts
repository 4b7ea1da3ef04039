import { join } from 'node:path';
import { instantOf, shiftWall } from '#core/time/wallTime.ts';
import { insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { openPglite } from '#server/db/pglite.ts';
import { quantile, Report, timed } from './report.ts';
import { begins, filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- what-if: what other rules of clearance would have meant for two thousand past events, and what moving an event
// of the demonstration by a week would bring about.
const report = new Report('what-if');
const { folder, remove } = await filledFolder();
const events = 2000;
const zone = 'America/Halifax';
const db = await openPglite({ folder: join(folder, 'pg') });
const ids = makeIds({ now: () => begins });
const units = await db.query<{ id: string }>('select id from units order by name');
const venues = await db.query<{ id: string }>('select id from venues where retired_at is null order by name');
await db.transaction(async (tx) => {
  const rows = Array.from({ length: events }, (_, n) => {
    const startsLocal = shiftWall('2025-07-10T18:00', { days: -(n % 900) });
    const endsLocal = shiftWall(startsLocal, { hours: 2 + (n % 5) });
    return {
      id: ids.id(),
      slug: `past-${n}`,
      publicTitle: `Working morning ${n}`,
      unitId: units[n % units.length]!.id,
      venueId: venues[n % venues.length]!.id,
      visibility: 'everyone',
      listed: true,
      state: 'wrapped',
      isTemplate: false,
      startsLocal,
      endsLocal,
      startsAt: instantOf(startsLocal, zone),
      endsAt: instantOf(endsLocal, zone),
      zone,
      capacity: 10 + (n % 150),
      facts: { boats: n % 3 === 0, tools: n % 5 === 0, alcohol: n % 7 === 0, minors: false },
      leftBehind: [],
      version: 1,
      createdAt: begins,
      updatedAt: begins,
    };
  });
  for (let at = 0; at < rows.length; at += 200) await insert(tx, 'events', rows.slice(at, at + 200));
});
await db.query('analyze');
await db.close();

const port = 45_909;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
const headers = { cookie: await signedIn(origin), origin, 'content-type': 'application/json' };
const ask = async <T>(method: string, path: string, body?: object): Promise<T> => {
  const reply = await fetch(`${origin}${path}`, {
    method,
    headers,
    ...(body && { body: JSON.stringify(body) }),
  });
  if (!reply.ok) throw new Error(`${method} ${path} was answered ${reply.status}: ${await reply.text()}`);
  return (await reply.json()) as T;
};
const floor = quantile(await timed(200, () => fetch(`${origin}/healthz`).then((r) => r.text())), 0.95);
const goal = { floor, goal: { of: 'value' as const, atMost: 1000 } };

interface Book {
  rules: { step: string; workingDays: number }[];
  facts: object[];
}
const book = await ask<Book>('GET', '/api/clearance/rules');
const other = {
  facts: book.facts,
  rules: book.rules.map((rule) =>
    rule.step === 'Safety' ? { ...rule, when: [[{ fact: 'headcount', atLeast: 60 }]] } : rule,
  ),
};
const tried = await ask<{ events: number; changed: object[] }>('POST', '/api/clearance/rules/try', other);
if (tried.events < events || !tried.changed.length) throw new Error('the bench of rules saw nothing');
report.row(
  'other rules tried on 2,000 past events, p95',
  quantile(await timed(20, () => ask('POST', '/api/clearance/rules/try', other)), 0.95),
  'ms',
  goal,
);

const season = await ask<{ id: string; title: string; state: string }[]>('GET', '/api/events');
const water = season.find((e) => e.state === 'open' && e.title === 'Open Water Day')!;
const { version } = await ask<{ version: number }>('GET', `/api/events/${water.id}`);
const moved = {
  version,
  change: {
    startsLocal: '2026-08-15T09:00',
    endsLocal: '2026-08-15T16:30',
    doorsLocal: '2026-08-15T08:30',
    registrationClosesLocal: '2026-08-15T07:00',
  },
};
report.row(
  'what moving Open Water Day would bring about, p95',
  quantile(await timed(20, () => ask('POST', `/api/events/${water.id}/what-if`, moved)), 0.95),
  'ms',
  goal,
);
report.finish();
await stopped(child);
remove();
process.exit(0);
