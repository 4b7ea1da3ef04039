import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, root, run, say, stop } from './shared.mjs';

// npm run demo: install, build, fill the demonstration, start. Later starts reuse what is there; -- --fresh begins again.
if (Number(process.versions.node.split('.')[0]) < 20) stop('Acolyte needs Node.js 20.19 or later.');
await install();
await build();
const folder = process.env.ACOLYTE_DATA ?? join(root, 'data/demo');
const port = process.env.PORT ?? '4400';
if (process.argv.includes('--fresh') && existsSync(folder)) {
  say('Beginning again …');
  // The folder's own lock says whether somebody holds it; filling checks that first.
  rmSync(join(folder, 'complete'), { force: true });
}
if (!existsSync(join(folder, 'complete'))) {
  if (existsSync(join(folder, 'pg')) && !process.argv.includes('--fresh') && process.env.ACOLYTE_DATA)
    stop(
      `${folder} holds data that is not the demonstration's, or a filling that was cut short. Choose another folder, or say “npm run demo -- --fresh” to replace it.`,
    );
  say('Filling Brackenmere Wetland Trust (under a minute, once) …');
  const code = await run('node', [join(root, 'dist/server/fill.js'), folder]);
  if (code !== 0) stop('The demonstration could not be filled; the reason is above.');
}
say('');
say(`  Coordinator     http://localhost:${port}/desk`);
say(`  Public pages    http://localhost:${port}/`);
say('  Sign in as      odalys@brackenmere.example   marsh-wren-2026   (coordinator)');
say('                  everybody else is listed on the sign-in page, same password');
say('  The clock       stands at Thu 9 Jul 2026, 09:20; move it from the top bar');
say('');
const code = await run('node', [join(root, 'dist/server/main.js')], {
  env: { ACOLYTE_LOG: 'off', ...process.env, NODE_ENV: 'production', ACOLYTE_DATA: folder, PORT: port },
});
process.exit(code);
