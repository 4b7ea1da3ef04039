import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { shiftDate } from '#core/time/dates.ts';
import { recurring } from '#demo/calendar.ts';
import { planRows } from '#demo/history.ts';
import { storeDemoClock } from '#server/app/clocks.ts';
import { insert } from '#server/db/database.ts';
import { openPglite } from '#server/db/pglite.ts';
import { foundWith, takeSeats } from './large.ts';
import { quantile, Report, timed } from './report.ts';
import { begins, filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- pages [contacts] [events] [seats]: what every main screen asks for, over HTTP, of the product as it is shipped, on
// the demonstration and on a large organization; how fast that one starts, and how much memory it takes.
const contacts = Number(process.argv[2] ?? 100_000);
const events = Number(process.argv[3] ?? 2_000);
const seats = Number(process.argv[4] ?? 1_000_000);
const times = 40;
const port = 45_905;
const origin = `http://localhost:${port}`;
const report = new Report('pages');

async function measure(where: string, atMost: number): Promise<void> {
  const headers = { cookie: await signedIn(origin) };
  const ask = async (path: string) => {
    const reply = await fetch(`${origin}${path}`, { headers });
    if (!reply.ok) throw new Error(`${path} was answered ${reply.status}: ${await reply.text()}`);
    return reply.json() as Promise<never>;
  };
  const season: { id: string; state: string; startsAt: string | null; confirmed: number; slug?: string }[] =
    await ask('/api/events');
  const open = season.filter((e) => e.state === 'open').sort((a, b) => b.confirmed - a.confirmed)[0]!;
  const over = season.filter((e) => e.state === 'wrapped').sort((a, b) => b.confirmed - a.confirmed)[0]!;
  const found: { contacts: { id: string }[] } = await ask('/api/contacts?limit=20');
  const page: { plan: { slug: string } } = await ask(`/api/events/${open.id}`);
  const screens: [string, string][] = [
    ['Desk', '/api/desk'],
    ['Season', '/api/events'],
    ['contacts', '/api/contacts'],
    ['contacts, part of a name', '/api/contacts?q=achebe'],
    ['search', '/api/search?q=alder'],
    ['contact page', `/api/contacts/${found.contacts[3]!.id}`],
    ['lifeline', `/api/contacts/${found.contacts[3]!.id}/lifeline`],
    ['Ledger, movements', '/api/ledger'],
    ['Ledger, accounts', '/api/books'],
    ['Ledger, owed', '/api/books/owed'],
    ['Ledger, gifts', '/api/gifts'],
    ['segments', '/api/segments'],
    ['Tray', '/api/tray'],
    ['event page', `/api/events/${open.id}`],
    ['clearance', `/api/events/${open.id}/clearance`],
    ['registrations', `/api/events/${open.id}/registrations`],
    ['crew', `/api/events/${open.id}/crew`],
    ['messages', `/api/events/${open.id}/messages`],
    ['doors', `/api/events/${open.id}/doors`],
    ['wrap-up', `/api/events/${over.id}/figures`],
    ['public list', '/api/public/events'],
    ['public event page', `/api/public/events/${page.plan.slug}`],
  ];
  for (const [name, path] of screens) {
    await timed(3, () => ask(path));
    report.row(`${name}, ${where}, p95`, quantile(await timed(times, () => ask(path)), 0.95), 'ms', {
      goal: { of: 'value', atMost },
    });
  }
}

/** The most memory a process had, in MB. */
const peakOf = (pid: number): number =>
  Number(/VmHWM:\s+(\d+) kB/u.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

const { folder, remove } = await filledFolder();
const small = await startShipped(folder, port);
await measure('demonstration', 100);
await stopped(small);
remove();

process.stdout.write(`  ${contacts} contacts, ${events} events, ${seats} seats …\n`);
const work = mkdtempSync(join(tmpdir(), 'acolyte-pages-'));
const data = join(work, 'data');
await stopped(await startShipped(data, port));
const db = await openPglite({ folder: join(data, 'pg') });
const { founded, ids } = await foundWith(db, contacts, 3, begins);
await storeDemoClock(db, { standsAt: begins, movingTo: null });
for (let n = 0; n < events; n += 1) {
  const of = { ...recurring[n % recurring.length]!, title: `Event ${n}` };
  const date = shiftDate('2020-01-01', Math.round((n / events) * 2_500));
  const coming = date > begins.slice(0, 10);
  const plan = planRows(of, date, founded, ids, begins, {
    state: coming ? 'open' : 'wrapped',
    absencesAt: coming ? null : begins,
  });
  await insert(db, 'events', { ...plan.event, slug: `event-${n}` });
  await insert(db, 'offers', plan.offers);
  await insert(db, 'message_lines', plan.lines);
  await insert(db, 'surveys', plan.surveys);
}
await takeSeats(db, seats, begins);
await db.close();
await stopped(await startShipped(data, port));
const began = performance.now();
const large = await startShipped(data, port);
report.row('start, warm, large', performance.now() - began, 'ms', { goal: { of: 'value', atMost: 2_000 } });
await measure('large', 200);
report.row('memory at its highest, large', peakOf(large.pid!), 'MB', {
  goal: { of: 'value', atMost: 1_000 },
});
await stopped(large);
rmSync(work, { recursive: true, force: true });
report.finish();
process.exit(0);
