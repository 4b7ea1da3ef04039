import { defineConfig } from 'vitest/config';

const alias = ['core', 'contract', 'server', 'web', 'demo'].map((name) => ({
  find: `#${name}`,
  replacement: new URL(`./src/${name}`, import.meta.url).pathname,
}));

const ofFolders = ['durability', 'folders', 'upkeep', 'turns'];
/** Who may call what, how a request is read, what a page says: whatever keeps the rows. */
const aboveTheDatabase = [
  'accounts',
  'again',
  'agenda',
  'announced',
  'attributes',
  'belonging',
  'clearance',
  'clearanceRules',
  'clearanceTeam',
  'contacts',
  'currencies',
  'desk',
  'doors',
  'duties',
  'events',
  'facts',
  'filling',
  'fuzz',
  'kept',
  'kinds',
  'lifeline',
  'listing',
  'lists',
  'logos',
  'mine',
  'offers',
  'own',
  'page',
  'pageMore',
  'permissions',
  'pictures',
  'plan',
  'planAgain',
  'questions',
  'quiet',
  'reaching',
  'roster',
  'rules',
  'segments',
  'series',
  'sql',
  'team',
  'terms',
  'thread',
  'times',
  'waivers',
  'whatif',
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
        // The same questions on a PostgreSQL server, where many write at once and values are read by another adapter. PGlite is
        // PostgreSQL too: files that are about neither, or about data folders, are asked there alone.
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/api/**/*.test.ts', 'tests/servers/**/*.test.ts'],
          exclude: [...ofFolders, ...aboveTheDatabase].map((f) => `tests/api/${f}.test.ts`),
          globalSetup: ['tests/servers/template.ts'],
          testTimeout: 240_000,
          isolate: false,
          hookTimeout: 240_000,
        },
      },
    ],
  },
});
