import { resolve } from 'node:path';
import { build, install, root, run, sayAside } from './shared.mjs';

// npm run roster -- FILE: works out who serves on which shift, from a file as docs/roster.md says, and prints the answer.
sayAside();
await install();
await build();
const [file, ...more] = process.argv.slice(2);
process.exit(await run('node', [`${root}/dist/server/roster.js`, ...(file ? [resolve(file)] : []), ...more]));
