import { searchWords } from '#core/contacts/search.ts';
import { makePeople, storePeople } from '#demo/people.ts';
import { makeRandom } from '#demo/random.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { vacuumTables } from '#server/db/upkeep.ts';
import { quantile, Report, timed } from './report.ts';
import { openSite } from './site.ts';

// npm run bench -- search [contacts]: finding somebody by pieces of a name or an address, over HTTP, beside the bare query.
process.env.NODE_ENV = 'production';
const contacts = Number(process.argv[2] ?? 100_000);
const random = makeRandom(1);
const db = await openPglite({});
await migrate(db);
const site = await openSite(db, random.bytes);
const { ids } = site.app;
process.stdout.write(`  ${contacts} contacts …\n`);
const units = Object.keys(site.founded.units);
const people = makePeople(random, () => ids.id(), contacts, units, '2023-07-01', '2026-06-10');
await storePeople(db, people, random, ids);
await vacuumTables(db);
const queries = Array.from({ length: 300 }, (_, n) => {
  const p = random.pick(people);
  const kinds = [
    `${p.family.slice(0, 4)} ${p.given.slice(0, 3)}`,
    (p.email ?? p.family).slice(0, 9),
    p.family,
    p.phone?.slice(-7) ?? p.given,
    `${p.given} ${p.family.slice(0, 3)}${p.family.slice(4)}`,
  ];
  return kinds[n % kinds.length]!;
});
const bare = await timed(queries.length, (n) => {
  const words = searchWords(queries[n]!).map((w) => `%${w}%`);
  return db.query(
    `select id, given_name, family_name from contacts where ${words.map((_, at) => `search_text like $${at + 1}`).join(' and ')} limit 8`,
    words,
  );
});
const over = await timed(queries.length, async (n) =>
  (
    await fetch(`${site.origin}/api/search?q=${encodeURIComponent(queries[n]!)}`, { headers: site.headers })
  ).json(),
);
const report = new Report('search');
const floor = quantile(bare, 0.95);
report.row('the bare query, p95', floor, 'ms');
report.row('search over HTTP, median', quantile(over, 0.5), 'ms', { floor: quantile(bare, 0.5) });
report.row('search over HTTP, p95', quantile(over, 0.95), 'ms', {
  floor,
  goal: { of: 'value', atMost: 100 },
});
report.finish();
await site.close();
process.exit(0);
