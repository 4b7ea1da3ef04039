import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, root, run, say, stop } from './shared.mjs';

// npm run bench [-- NAME …]: one part, or all of them. Each prints what it measured and what is not met, and writes
// bench-results/NAME.json: rows of { measure, value, unit, floor, ratio, goal, met }.
const folder = join(root, 'scripts/bench');
const aside = ['report', 'site', 'browser', 'large'];
const parts = readdirSync(folder)
  .map((file) => file.replace(/\.ts$/u, ''))
  .filter((name) => !aside.includes(name));
const [wanted, ...more] = process.argv.slice(2);
if (wanted && !parts.includes(wanted)) stop(`The parts of the bench: ${parts.join(', ')}`);
await install();
await build();
let worst = 0;
for (const part of wanted ? [wanted] : parts) {
  say(`\n== ${part}`);
  const code = await run('npx', ['--no-install', 'tsx', join(folder, `${part}.ts`), ...more]);
  worst = Math.max(worst, code);
}
process.exit(worst);
