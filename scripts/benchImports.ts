import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeCsv } from '../src/core/exchange/csv.ts';
import { makeLabelled } from '../src/demo/labelled.ts';
import { foundOrganization } from '../src/demo/organization.ts';
import { makeRandom } from '../src/demo/random.ts';
import type { Database, Queries } from '../src/server/db/database.ts';
import { migrate } from '../src/server/db/migrate.ts';
import { openPglite } from '../src/server/db/pglite.ts';
import { makeServer } from '../src/server/http/server.ts';
import { demoPassword } from '../src/server/staff/demoSignIns.ts';
import { assemble } from '../src/server/start.ts';

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
const { app, runner } = await assemble(watched, 'a secret of the bench', folder, true);
await db.transaction((tx) => foundOrganization({ tx, now: app.clock.now(), app }));
const server = makeServer(app, {
  runner: () => runner,
  demoSignIns: [],
  dist: null,
  limits: { publicWrites: 1e6, signIns: 1e6 },
});
const http = await new Promise<import('node:http').Server>((resolve) => {
  const s = server.listen(0, '127.0.0.1', () => resolve(s));
});
const origin = `http://127.0.0.1:${(http.address() as { port: number }).port}`;
app.origin = origin;
let cookie = '';
async function call(method: string, path: string, body?: unknown) {
  const r = await fetch(`${origin}${path}`, {
    method,
    headers: { origin, cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const set = r.headers.get('set-cookie');
  if (set) cookie = set.split(';')[0]!;
  const answer = await r.json();
  if (!r.ok) throw new Error(`${method} ${path}: ${r.status} ${JSON.stringify(answer)}`);
  return answer as Record<string, never> & { id: string; state: string; doneRows: number; counts: object };
}
await call('POST', '/api/sign-in', { email: 'odalys@brackenmere.example', password: demoPassword });

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
const results: Record<string, number> = {};
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
  results[name] = Math.round(s * 10) / 10;
  results[`${name}: slowest other request`] = Math.round(slowest) / 1000;
  console.log(
    `  ${name.padEnd(28)} ${s.toFixed(1).padStart(7)} s   another request waited at most ${(slowest / 1000).toFixed(2)} s`,
  );
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
mkdirSync('bench-results', { recursive: true });
writeFileSync(
  'bench-results/imports.json',
  `${JSON.stringify({ rows: people.length, ...results }, null, 2)}\n`,
);
http.closeAllConnections();
http.close();
await runner.stop();
await db.close();
rmSync(folder, { recursive: true, force: true });
