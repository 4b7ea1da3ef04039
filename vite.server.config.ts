import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const path = (to: string) => fileURLToPath(new URL(to, import.meta.url));
const alias = Object.fromEntries(
  ['core', 'contract', 'server', 'demo'].map((name) => [`#${name}`, path(`./src/${name}`)]),
);

/** Packages that read files of their own beside their code, or are compiled: these stay where they are. */
const outside = ['@electric-sql/pglite', 'highs', 'pdfkit', 'piscina', 'sharp'];

/** The server as plain JavaScript for Node, packages with it: a thousand small files take half a second to find and read. */
export default defineConfig({
  resolve: { alias },
  ssr: { noExternal: true, external: outside },
  build: {
    ssr: true,
    outDir: path('./dist/server'),
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: {
      input: {
        main: path('./src/server/main.ts'),
        fill: path('./src/demo/fill.ts'),
        backup: path('./src/server/backup/command.ts'),
        move: path('./src/server/db/moveCommand.ts'),
        roster: path('./src/server/roster/command.ts'),
        worker: path('./src/server/threads/worker.ts'),
      },
      output: { entryFileNames: '[name].js', chunkFileNames: 'chunks/[name]-[hash].js' },
    },
  },
});
