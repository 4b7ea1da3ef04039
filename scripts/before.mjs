// Makes a fixture of an earlier version: node scripts/before.mjs COMMIT. That version is checked out aside, plays the scene of
// scripts/before in its own tests, and what its database holds then is kept in tests/data/before.
import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';

const root = new URL('..', import.meta.url).pathname;
const [commit] = process.argv.slice(2);
if (!commit) {
  console.error('Which version? node scripts/before.mjs COMMIT');
  process.exit(1);
}
const aside = mkdtempSync(join(tmpdir(), 'acolyte-before-'));
const run = (command, args, cwd, env = {}) =>
  execFileSync(command, args, { cwd, stdio: 'inherit', env: { ...process.env, ...env } });
try {
  run('git', ['worktree', 'add', '--detach', aside, commit], root);
  symlinkSync(join(root, 'node_modules'), join(aside, 'node_modules'));
  copyFileSync(join(root, 'scripts/before/scene.mjs'), join(aside, 'tests/api/before.test.ts'));
  const file = join(aside, 'before.json');
  run('npx', ['vitest', 'run', '--project', 'api', 'tests/api/before.test.ts'], aside, {
    ACOLYTE_BEFORE: file,
  });
  const { migrations, ...rest } = JSON.parse(readFileSync(file, 'utf8'));
  const name = migrations.at(-1).name.replace(/_.*$/u, '');
  mkdirSync(join(root, 'tests/data/before'), { recursive: true });
  const to = join(root, 'tests/data/before', `${name}.json.gz`);
  writeFileSync(to, gzipSync(JSON.stringify({ migrations, ...rest }), { level: 9 }));
  console.log(`Kept in ${to}. Left out:`);
  console.log(existsSync(`${file}.left`) ? readFileSync(`${file}.left`, 'utf8') : '');
} finally {
  rmSync(aside, { recursive: true, force: true });
  execFileSync('git', ['worktree', 'prune'], { cwd: root });
}
