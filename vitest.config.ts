import { defineConfig } from 'vitest/config';

const alias = ['core', 'contract', 'server', 'web', 'demo'].map((name) => ({
  find: `#${name}`,
  replacement: new URL(`./src/${name}`, import.meta.url).pathname,
}));

/**
 * What many writers at once, large values or another adapter could make differ: asked of a PostgreSQL server, too. That a server
 * takes every other statement as well is seen by `statements`.
 */
const onServers = [
  'accepting',
  'attacks',
  'bank',
  'before',
  'bookings',
  'cards',
  'followers',
  'imports',
  'killedSending',
  'letterTexts',
  'money',
  'racing',
  'receipts',
  'registration',
  'sendingMany',
  'settling',
  'stopping',
  'streams',
  'together',
];

export default defineConfig({
  resolve: { alias },
  test: {
    reporters: ['default'],
    maxWorkers: 2,
    // Not isolated: no test leans on what a module keeps, and loading the server anew for every file doubled the time.
    projects: [
      {
        resolve: { alias },
        test: { name: 'core', include: ['src/core/**/*.test.ts'], testTimeout: 60_000, isolate: false },
      },
      {
        resolve: { alias },
        test: {
          name: 'api',
          include: ['tests/api/**/*.test.ts'],
          globalSetup: ['tests/api/template.ts'],
          testTimeout: 240_000,
          isolate: false,
          hookTimeout: 240_000,
        },
      },
      {
        // Parts of the kit in a document of their own.
        resolve: { alias },
        test: {
          name: 'web',
          include: ['src/web/**/*.test.{ts,tsx}'],
          environment: 'happy-dom',
          testTimeout: 240_000,
        },
      },
      {
        // What the API tests asked, looked at afterwards.
        resolve: { alias },
        test: {
          name: 'statements',
          include: ['tests/statements/**/*.test.ts'],
          globalSetup: ['tests/api/template.ts'],
          testTimeout: 240_000,
        },
      },
      {
        // The same questions on a PostgreSQL server.
        resolve: { alias },
        test: {
          name: 'server',
          include: [...onServers.map((f) => `tests/api/${f}.test.ts`), 'tests/servers/**/*.test.ts'],
          globalSetup: ['tests/servers/template.ts'],
          testTimeout: 240_000,
          isolate: false,
          hookTimeout: 240_000,
        },
      },
    ],
  },
});
