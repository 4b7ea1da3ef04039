import { spawn } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { build, install, root, run, say } from './shared.mjs';

// npm run bench: a table on the screen and figures as JSON. Ratios are against a floor measured in the same run.
await install();
// npm run bench -- matching | segments | imports | safety: one part alone.
const part = {
  matching: 'benchMatching.ts',
  segments: 'benchSegments.ts',
  imports: 'benchImports.ts',
  safety: 'benchSafety.ts',
}[process.argv[2]];
// It measures the server as it is shipped, in a process of its own.
if (process.argv[2] === 'safety') await build();
if (part)
  process.exit(
    await run('npx', ['--no-install', 'tsx', join(root, 'scripts', part), ...process.argv.slice(3)]),
  );
await build();
const work = mkdtempSync(join(tmpdir(), 'acolyte-bench-'));
const results = { at: new Date().toISOString(), node: process.version };

// What the database alone does, and what the core's search costs over the bare query.
const inner = join(work, 'inner.json');
const code = await run('npx', ['--no-install', 'tsx', join(root, 'scripts/benchInner.ts'), inner]);
if (code !== 0) process.exit(code);
Object.assign(results, JSON.parse(readFileSync(inner, 'utf8')));

// Starting: fresh (an empty folder), then warm (the same folder again).
const folder = join(work, 'start');
const started = async () => {
  const began = performance.now();
  const child = spawn('node', [join(root, 'dist/server/main.js')], {
    env: { ...process.env, NODE_ENV: 'production', ACOLYTE_DATA: folder, ACOLYTE_LOG: 'off', PORT: '45901' },
    stdio: 'ignore',
  });
  for (;;) {
    const up = await fetch('http://127.0.0.1:45901/healthz').then(
      (r) => r.ok,
      () => false,
    );
    if (up) break;
    await new Promise((r) => setTimeout(r, 20));
  }
  const ms = Math.round(performance.now() - began);
  child.kill('SIGTERM');
  await new Promise((r) => child.on('exit', r));
  return ms;
};
results.startFreshMs = await started();
results.startWarmMs = await started();

// Script that has to arrive before a page can be used: the entry, and everything it imports at once.
const assets = join(root, 'dist/web/assets');
const entryOf = (html) =>
  [
    ...readFileSync(join(root, 'dist/web', html), 'utf8').matchAll(/(?:src|href)="\/assets\/([^"]+\.js)"/gu),
  ].map((m) => m[1]);
const closure = (entries) => {
  const seen = new Set();
  const visit = (file) => {
    if (seen.has(file) || !existsSync(join(assets, file))) return;
    seen.add(file);
    for (const m of readFileSync(join(assets, file), 'utf8').matchAll(
      /(?:from|import)\s*["']\.\/([^"']+\.js)["']/gu,
    ))
      visit(m[1]);
  };
  for (const e of entries) visit(e);
  return [...seen];
};
const gzipped = (files) => files.reduce((sum, f) => sum + gzipSync(readFileSync(join(assets, f))).length, 0);
results.publicEventScriptBytes = gzipped(closure(entryOf('public.html')));
const desk = readdirSync(assets).filter((f) => /^Desk-.*\.js$/u.test(f));
results.coordinatorFirstPageScriptBytes = gzipped(closure([...entryOf('app.html'), ...desk]));

const kb = (n) => `${(n / 1000).toFixed(1)} kB`;
const rows = [
  ['registrations/s, bare loop writing the same rows', results.floorPerSecond.toFixed(1), ''],
  [
    'registrations/s over HTTP, 1 client',
    results.one.perSecond.toFixed(1),
    `${Math.round((results.one.perSecond / results.floorPerSecond) * 100)} % of the floor`,
  ],
  [
    'registrations/s over HTTP, 50 clients',
    results.fifty.perSecond.toFixed(1),
    `${Math.round((results.fifty.perSecond / results.floorPerSecond) * 100)} % of the floor, ${results.fifty.oversold} oversold`,
  ],
  [
    'contact search p95, bare query',
    `${results.search.bareP95.toFixed(1)} ms`,
    `${results.search.contacts} contacts`,
  ],
  [
    'contact search p95 over HTTP',
    `${results.search.httpP95.toFixed(1)} ms`,
    `${(results.search.httpP95 / results.search.bareP95).toFixed(1)} × the bare query`,
  ],
  ['start, fresh', `${results.startFreshMs} ms`, ''],
  ['start, warm', `${results.startWarmMs} ms`, ''],
  [
    'script before a public event page can be used',
    kb(results.publicEventScriptBytes),
    'gzipped; aim under 150 kB',
  ],
  ["script before the coordinator's first page", kb(results.coordinatorFirstPageScriptBytes), 'gzipped'],
];
say('');
for (const [what, value, more] of rows) say(`  ${what.padEnd(50)} ${String(value).padStart(10)}   ${more}`);
mkdirSync(join(root, 'bench-results'), { recursive: true });
writeFileSync(join(root, 'bench-results/bench.json'), `${JSON.stringify(results, null, 2)}\n`);
say('\n  written to bench-results/bench.json');
rmSync(work, { recursive: true, force: true });
