import { resolve } from 'node:path';
import { build, install, root, run } from './shared.mjs';

// npm run roster -- FILE: works out who serves on which shift, from a file as docs/roster.md says, and prints the answer.
await install(process.stderr);
await build(process.stderr);
const [file, ...more] = process.argv.slice(2);
process.exit(await run('node', [`${root}/dist/server/roster.js`, ...(file ? [resolve(file)] : []), ...more]));
