import { join } from 'node:path';
import { build, install, root, run, say } from './shared.mjs';

// npm start: production. An empty data folder means that the first visit sets up the organization.
await install();
await build();
say(`Acolyte: http://localhost:${process.env.PORT ?? '4400'}/desk`);
process.exit(
  await run('node', [join(root, 'dist/server/main.js')], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      ACOLYTE_DATA: process.env.ACOLYTE_DATA ?? join(root, 'data/acolyte'),
    },
  }),
);
