import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { postgresPrograms } from './postgres.mjs';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

let spoken = process.stdout;
export const say = (text) => spoken.write(`${text}\n`);
/** For commands whose answer is read by another program: what is said beside it goes to the other output. */
export function sayAside() {
  spoken = process.stderr;
}
const saidWith = () => (spoken === process.stderr ? { stdio: ['inherit', 2, 2] } : {});

export function stop(text) {
  process.stderr.write(`\n${text}\n`);
  process.exit(1);
}

/** Runs a command and waits; its output goes through. Answers the exit code. */
export function run(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options });
    child.on('error', () => resolve(127));
    child.on('exit', (code, signal) => resolve(signal ? 1 : (code ?? 1)));
  });
}

/** Installs the packages when they are missing or the lock file changed since. */
export async function install() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules/.acolyte-installed');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  say('Installing packages …');
  // Not “npm ci”: it refuses a lock file in which a registry left out builds for other systems. The lock still decides.
  const code = await run(
    'npm',
    ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel', 'error'],
    saidWith(),
  );
  if (code !== 0)
    stop(
      'The packages could not be installed. npm says why above; a connection to the package registry is needed once.',
    );
  writeFileSync(mark, lock);
}

/** The newest change below some paths, in milliseconds. */
function newest(paths) {
  let latest = 0;
  const look = (path) => {
    const stat = statSync(path);
    if (stat.isDirectory()) for (const entry of readdirSync(path)) look(join(path, entry));
    else latest = Math.max(latest, stat.mtimeMs);
  };
  for (const path of paths) if (existsSync(join(root, path))) look(join(root, path));
  return latest;
}

/** Builds the web application and the server when something changed since they were built. */
export async function build() {
  const mark = join(root, 'dist/built');
  const sources = newest(['src', 'package-lock.json', 'vite.config.ts', 'vite.server.config.ts']);
  if (existsSync(mark) && statSync(mark).mtimeMs > sources) return;
  say('Building …');
  for (const args of [
    ['vite', 'build', '--logLevel', 'error'],
    ['vite', 'build', '--ssr', '--config', 'vite.server.config.ts', '--logLevel', 'error'],
  ]) {
    const code = await run('npx', ['--no-install', ...args], saidWith());
    if (code !== 0) stop('The build failed; the reason is above.');
  }
  mkdirSync(join(root, 'dist'), { recursive: true });
  writeFileSync(mark, 'built\n');
}

/** Installs a package of Debian's where that can be done. */
async function installPackage(name, what) {
  const asRoot = process.getuid?.() === 0;
  if (spawnSync('apt-get', ['--version']).status !== 0 || !asRoot) return;
  say(`Installing ${what} …`);
  const quiet = {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  };
  await run('apt-get', ['update', '-qq'], quiet);
  await run('apt-get', ['install', '-y', '-qq', name], quiet);
}

/** Where the programs of a PostgreSQL server are, installing Debian's when they are missing. Null where that cannot be done. */
export async function postgres() {
  if (!postgresPrograms()) await installPackage('postgresql', 'PostgreSQL for the tests on a server');
  return postgresPrograms();
}

/**
 * Where Chromium is, installing Debian's when it is missing and that can be done. Null where it cannot. The one that never shows
 * a window comes first: it takes a sixth less time.
 */
export async function chromium() {
  const shell = '/usr/bin/chromium-headless-shell';
  const found = (...paths) => paths.find((p) => p && existsSync(p)) ?? null;
  const chosen = found(process.env.CHROMIUM, shell);
  if (chosen) return chosen;
  await installPackage('chromium-headless-shell', 'Chromium for the browser tests');
  const others = [shell, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];
  if (!found(...others)) await installPackage('chromium', 'Chromium for the browser tests');
  return found(...others);
}
