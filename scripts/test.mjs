import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { build, chromium, install, postgres, root, run, say, stop } from './shared.mjs';

// npm test: lint, unused files and packages, types, unit and API tests, the API tests again on a PostgreSQL server, browser tests. Figures come from
// the runners' own reports. npm test -- --only NAME does one part.
const parts = ['lint', 'unused', 'types', 'core', 'web', 'api', 'server', 'browser'];
const at = process.argv.indexOf('--only');
const only = at < 0 ? null : process.argv[at + 1];
if (at >= 0 && !parts.includes(only)) stop(`The parts of the tests: ${parts.join(', ')}`);
const wanted = (part) => only === null || only === part;

await install();
const reports = join(root, 'test-results');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
let passed = 0;
let failed = 0;
/** What failed, by name: said again at the end, where it is read. */
const failures = [];
const step = async (name, command, args, options) => {
  say(`\n== ${name}`);
  const began = Date.now();
  const code = await run(command, args, options);
  say(`== ${name}: ${code === 0 ? 'done' : 'failed'} in ${Math.round((Date.now() - began) / 1000)} s`);
  return code;
};
const npx = (...args) => ['npx', ['--no-install', ...args]];

// None of these uses both cores by itself: side by side they take as long as the longest.
await Promise.all(
  [
    ['lint', 'biome', 'check', '--error-on-warnings', '.'],
    ['unused', 'knip', '--no-progress'],
    ['types', 'tsc', '-p', '.'],
  ].map(async ([name, ...args]) => {
    if (!wanted(name)) return;
    if ((await step(name, ...npx(...args))) === 0) passed += 1;
    else {
      failed += 1;
      failures.push(name);
    }
  }),
);

for (const [part, name] of [
  ['core', 'unit tests'],
  ['web', 'tests of the kit'],
  ['api', 'API tests'],
  ['server', 'API tests on a PostgreSQL server'],
])
  if (wanted(part)) {
    await vitest(part, name);
    // Looks at what the API tests asked the database.
    if (part === 'api') await vitest('statements', 'statements of the database');
  }

async function vitest(part, name) {
  const env = { ...process.env };
  if (part === 'server' || part === 'statements') {
    const programs = await postgres();
    if (!programs && part === 'server') {
      say(
        '\n== API tests on a PostgreSQL server: SKIPPED. There is no PostgreSQL here, and it could not be installed. Install Debian’s package “postgresql”, or set POSTGRES_BIN to the folder of its programs.',
      );
      return;
    }
    if (programs) env.POSTGRES_BIN = programs;
  }
  const path = join(reports, `${part}.json`);
  const runner = npx('vitest', 'run', '--project', part, '--reporter=default', '--reporter=json');
  const code = await step(name, runner[0], [...runner[1], `--outputFile.json=${path}`], { env });
  count(name, code, () => {
    const report = JSON.parse(readFileSync(path, 'utf8'));
    // A file that does not load counts as one failure.
    const broken = report.testResults.filter((f) => f.status === 'failed' && f.assertionResults.length === 0);
    for (const file of report.testResults)
      for (const test of file.assertionResults)
        if (test.status === 'failed') failures.push(`${name}: ${test.fullName}`);
    for (const file of broken) failures.push(`${name}: ${relative(root, file.name)} does not load`);
    return [report.numPassedTests, report.numFailedTests + broken.length];
  });
}

if (wanted('browser')) {
  await build();
  const browser = await chromium();
  if (!browser)
    stop(
      'The browser tests need Chromium, and it could not be installed here. Install Debian’s package “chromium-headless-shell” or “chromium”, or set CHROMIUM to the program’s path.',
    );
  const path = join(reports, 'browser.json');
  const code = await step('browser tests', ...npx('playwright', 'test'), {
    env: { ...process.env, CHROMIUM: browser, PLAYWRIGHT_JSON_OUTPUT_NAME: path },
  });
  count('browser tests', code, () => {
    const { stats } = JSON.parse(readFileSync(path, 'utf8'));
    return [stats.expected, stats.unexpected + stats.flaky];
  });
}

/** Adds a runner's figures. A runner that failed without a failed test counts as one failure. */
function count(name, code, read) {
  try {
    const [good, bad] = read();
    passed += good;
    failed += bad === 0 && code !== 0 ? 1 : bad;
    if (good === 0) failed += 1;
    if (code !== 0) failures.push(name);
  } catch (error) {
    say(`The report of the ${name} cannot be read: ${error.message}`);
    failed += 1;
  }
}

for (const failure of failures) say(`failed: ${failure}`);
say(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
