import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, root, run, say } from './shared.mjs';

// npm run dev: the server restarts and the pages reload as files change. Works on the demonstration's data.
await install();
const folder = process.env.ACOLYTE_DATA ?? join(root, 'data/demo');
if (!existsSync(join(folder, 'complete'))) {
  await build();
  await run('node', [join(root, 'dist/server/fill.js'), folder]);
}
say('Acolyte while developing: http://localhost:4401/desk');
const children = [
  spawn('npx', ['--no-install', 'tsx', 'watch', '--clear-screen=false', 'src/server/main.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ACOLYTE_DATA: folder, ACOLYTE_PAGES: 'off', PORT: '4400' },
  }),
  spawn('npx', ['--no-install', 'vite'], { cwd: root, stdio: 'inherit' }),
];
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    for (const child of children) child.kill(signal);
  });
