import { shiftDate } from '#core/time/dates.ts';
import { recurring } from '#demo/calendar.ts';
import { planRows } from '#demo/history.ts';
import { makePeople, storePeople } from '#demo/people.ts';
import { makeRandom } from '#demo/random.ts';
import { insert } from '#server/db/database.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { quantile, Report, timed } from './report.ts';
import { begins, filledFolder, openSite, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- pages [contacts] [events]: what the main pages ask for, over HTTP, on the demonstration and on a large
// organization.
const contacts = Number(process.argv[2] ?? 100_000);
const events = Number(process.argv[3] ?? 2_000);
const times = 60;
const report = new Report('pages');

async function measure(
  where: string,
  origin: string,
  headers: Record<string, string>,
  atMost: number,
): Promise<void> {
  const ask = async (path: string) => {
    const reply = await fetch(`${origin}${path}`, { headers });
    if (!reply.ok) throw new Error(`${path} was answered ${reply.status}`);
    return reply.json() as Promise<never>;
  };
  const season: { id: string; state: string }[] = await ask('/api/events');
  const event = season.find((e) => e.state === 'open') ?? season[0]!;
  const found: { contacts: { id: string }[] } = await ask('/api/contacts?limit=20');
  const pages: [string, string][] = [
    ['Desk', '/api/desk'],
    ['event page', `/api/events/${event.id}`],
    ['contact page', `/api/contacts/${found.contacts[3]!.id}`],
    ['public list', '/api/public/events'],
  ];
  for (const [name, path] of pages) {
    await timed(5, () => ask(path));
    report.row(`${name}, ${where}, p95`, quantile(await timed(times, () => ask(path)), 0.95), 'ms', {
      goal: { of: 'value', atMost },
    });
  }
}

const { folder, remove } = await filledFolder();
const port = 45_905;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
await measure('demonstration', origin, { cookie: await signedIn(origin) }, 100);
await stopped(child);
remove();

process.env.NODE_ENV = 'production';
const random = makeRandom(3);
const db = await openPglite({});
await migrate(db);
const site = await openSite(db, random.bytes);
const { ids } = site.app;
process.stdout.write(`  ${contacts} contacts, ${events} events …\n`);
const units = Object.keys(site.founded.units);
const people = makePeople(random, () => ids.id(), contacts, units, '2023-07-01', '2026-06-10');
await storePeople(db, people, random, ids);
for (let n = 0; n < events; n += 1) {
  const of = { ...recurring[n % recurring.length]!, title: `Event ${n}` };
  const date = shiftDate('2020-01-01', Math.round((n / events) * 2_500));
  const coming = date > begins.slice(0, 10);
  const plan = planRows(of, date, site.founded, ids, begins, {
    state: coming ? 'open' : 'wrapped',
    absencesAt: coming ? null : begins,
  });
  await insert(db, 'events', { ...plan.event, slug: `event-${n}` });
  await insert(db, 'offers', plan.offers);
  await insert(db, 'message_steps', plan.steps);
  await insert(db, 'surveys', plan.survey);
}
await db.query('analyze');
await measure(`${contacts} contacts and ${events} events`, site.origin, site.headers, 200);
report.finish();
await site.close();
process.exit(0);
