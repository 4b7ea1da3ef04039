import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeCsv } from '#core/exchange/csv.ts';
import { makeLabelled } from '#demo/labelled.ts';
import { makeRandom } from '#demo/random.ts';
import type { Database, Queries } from '#server/db/database.ts';
import { migrate } from '#server/db/migrate.ts';
import { openPglite } from '#server/db/pglite.ts';
import { Report } from './report.ts';
import { openSite } from './site.ts';

// npm run bench -- imports [rows]: one large file over HTTP: checked, applied, brought again, undone. Beside it the
// slowest answer another request got meanwhile, and the bare loop that writes the same contacts.
const rows = Number(process.argv[2] ?? 100_000);
const folder = mkdtempSync(join(tmpdir(), 'acolyte-imports-'));
const db = await openPglite({ folder: join(folder, 'pg') });
await migrate(db);
const spent = new Map<string, { ms: number; n: number }>();
const timed = (q: Queries): Queries => ({
  async query(sql, params) {
    const began = performance.now();
    const answer = await q.query(sql, params);
    const key = sql.replace(/\s+/gu, ' ').slice(0, 90);
    const sum = spent.get(key) ?? { ms: 0, n: 0 };
    spent.set(key, { ms: sum.ms + performance.now() - began, n: sum.n + 1 });
    return answer as never;
  },
});
const watched: Database = process.env.SHOW
  ? { ...db, ...timed(db), transaction: (work) => db.transaction((tx) => work(timed(tx))) }
  : db;
const site = await openSite(watched, makeRandom(7).bytes);
const { origin } = site;
async function call(method: string, path: string, body?: unknown) {
  const r = await fetch(`${origin}${path}`, {
    method,
    headers: { ...site.headers, ...(body ? { 'content-type': 'application/json' } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const answer = await r.json();
  if (!r.ok) throw new Error(`${method} ${path}: ${r.status} ${JSON.stringify(answer)}`);
  return answer as Record<string, never> & { id: string; state: string; doneRows: number; counts: object };
}

const people = makeLabelled(makeRandom(5), Math.round(rows / 1.5)).slice(0, rows);
const csv = writeCsv(
  ['First name', 'Last name', 'Email', 'Telephone', 'Birth date', 'Street', 'Postal code', 'Newsletter'],
  people.map((p) => [
    p.given,
    p.family,
    p.emails.join('; '),
    p.phones.join('; '),
    p.birthDate,
    p.street,
    p.postalCode,
    'yes',
  ]),
);
const content = Buffer.from(csv).toString('base64');
console.log(`  ${people.length} rows, ${(csv.length / 1e6).toFixed(1)} MB`);

let slowest = 0;
let asked = 0;
let watching = true;
const watcher = (async () => {
  while (watching) {
    const began = performance.now();
    asked = began;
    await call('GET', '/api/search?q=wren').catch(() => undefined);
    slowest = Math.max(slowest, performance.now() - began);
    asked = 0;
    await new Promise((r) => setTimeout(r, 100));
  }
})();
const report = new Report('imports');
async function step(name: string, run: () => Promise<unknown>) {
  slowest = 0;
  const began = performance.now();
  await run();
  const s = (performance.now() - began) / 1000;
  slowest = Math.max(slowest, asked ? performance.now() - asked : 0);
  for (const [sql, { ms, n }] of [...spent].sort((a, b) => b[1].ms - a[1].ms).slice(0, 12))
    if (ms > 100)
      console.log(`      ${(ms / 1000).toFixed(2).padStart(7)} s ${String(n).padStart(7)} × ${sql}`);
  spent.clear();
  report.row(`${people.length} rows ${name}`, s, 's');
  report.row('another request waited meanwhile at most', slowest / 1000, 's', {
    goal: { of: 'value', atMost: 0.5 },
  });
}
const settled = async (id: string) => {
  let last = 0;
  for (;;) {
    const now = await call('GET', `/api/imports/${id}`);
    if (now.state !== 'checking') return now;
    if (process.env.SHOW && now.doneRows - last >= 10_000) {
      last = now.doneRows;
      console.log(`    ${last} at ${new Date().toISOString().slice(14, 19)}`);
    }
    await new Promise((r) => setTimeout(r, 200));
  }
};
let id = '';
await step('brought and read', async () => {
  id = (await call('POST', '/api/imports', { fileName: 'people.csv', content })).id;
});
await step('checked', async () => console.log(`    ${JSON.stringify((await settled(id)).counts)}`));
await step('applied', () => call('POST', `/api/imports/${id}/apply`, {}));
let again = '';
await step('the same file checked again', async () => {
  again = (await call('POST', '/api/imports', { fileName: 'people.csv', content })).id;
  console.log(`    ${JSON.stringify((await settled(again)).counts)}`);
});
await step('undone', () => call('POST', `/api/imports/${id}/undo`, {}));
watching = false;
await watcher;
report.finish();
await site.close();
rmSync(folder, { recursive: true, force: true });
process.exit(0);
