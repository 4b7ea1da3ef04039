import { join, resolve } from 'node:path';
import { build, install, root, run, stop } from './shared.mjs';

// npm run backup -- FILE and npm run restore -- FILE; also while the server runs. ACOLYTE_DATA says which folder.
const [what, file] = process.argv.slice(2);
if (!file) stop(`Say which file: npm run ${what} -- FILE`);
await install();
await build();
const folder = process.env.ACOLYTE_DATA ?? join(root, 'data/acolyte');
process.exit(await run('node', [join(root, 'dist/server/backup.js'), what, folder, resolve(file)]));
