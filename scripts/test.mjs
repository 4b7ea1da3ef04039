import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, chromium, install, root, run, say, stop } from './shared.mjs';

// npm test: lint, types, unit and API tests, browser tests. Figures come from the runners' own reports.
await install();
const reports = join(root, 'test-results');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
let passed = 0;
let failed = 0;
const step = async (name, command, args, options) => {
  say(`\n== ${name}`);
  const began = Date.now();
  const code = await run(command, args, options);
  say(`== ${name}: ${code === 0 ? 'done' : 'failed'} in ${Math.round((Date.now() - began) / 1000)} s`);
  return code;
};
const npx = (...args) => ['npx', ['--no-install', ...args]];

for (const [name, ...args] of [
  ['lint', 'biome', 'check', '--error-on-warnings', '.'],
  ['types', 'tsc', '-p', '.'],
])
  if ((await step(name, ...npx(...args))) === 0) passed += 1;
  else failed += 1;

const vitestReport = join(reports, 'vitest.json');
const vitestCode = await step(
  'unit and API tests',
  ...npx('vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${vitestReport}`),
);
count('unit and API tests', vitestCode, () => {
  const report = JSON.parse(readFileSync(vitestReport, 'utf8'));
  // A file that does not load counts as one failure.
  const broken = report.testResults.filter(
    (f) => f.status === 'failed' && f.assertionResults.length === 0,
  ).length;
  return [report.numPassedTests, report.numFailedTests + broken];
});

await build();
const browser = await chromium();
if (!browser)
  stop(
    'The browser tests need Chromium, and it could not be installed here. Install Debian’s package “chromium”, or set CHROMIUM to the program’s path.',
  );
const browserReport = join(reports, 'browser.json');
const browserCode = await step('browser tests', ...npx('playwright', 'test'), {
  env: { ...process.env, CHROMIUM: browser, PLAYWRIGHT_JSON_OUTPUT_NAME: browserReport },
});
count('browser tests', browserCode, () => {
  const { stats } = JSON.parse(readFileSync(browserReport, 'utf8'));
  return [stats.expected, stats.unexpected + stats.flaky];
});

/** Adds a runner's figures. A runner that failed without a failed test counts as one failure. */
function count(name, code, read) {
  try {
    const [good, bad] = read();
    passed += good;
    failed += bad === 0 && code !== 0 ? 1 : bad;
    if (good === 0) failed += 1;
  } catch (error) {
    say(`The report of the ${name} cannot be read: ${error.message}`);
    failed += 1;
  }
}

say(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
