import { join } from 'node:path';
import { build, install, root, run } from './shared.mjs';

// npm run move -- --to URL: copies the organization of a folder into a PostgreSQL server. ACOLYTE_DATA says which folder.
await install();
await build();
const folder = process.env.ACOLYTE_DATA ?? join(root, 'data/acolyte');
process.exit(await run('node', [join(root, 'dist/server/move.js'), folder, ...process.argv.slice(2)]));
