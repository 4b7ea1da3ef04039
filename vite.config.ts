import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { brotliCompress, gzip } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

const path = (to: string) => fileURLToPath(new URL(to, import.meta.url));
const staffPaths =
  /^\/(?:desk|clearance|season|events|contacts|import|ledger|records|tray|team|doors|account|sign-in|forgotten|reset|setup|invitation)(?:\/|$)/u;

/** While developing: the right shell for every page, as the server chooses it in production. */
const shells: Plugin = {
  name: 'shells',
  configureServer(server) {
    server.middlewares.use((request, _, next) => {
      const url = request.url ?? '/';
      const page = request.headers.accept?.includes('text/html') && !url.startsWith('/api');
      if (page)
        request.url = /^\/kit(?:[/?]|$)/u.test(url)
          ? '/kit.html'
          : staffPaths.test(url)
            ? '/app.html'
            : '/public.html';
      next();
    });
  },
};

/** Beside every script and style of the build, what is sent of it: packed once, as tightly as can be. */
const packed: Plugin = {
  name: 'packed',
  apply: 'build',
  async closeBundle() {
    const folder = path('./dist/web/assets');
    const files = (await readdir(folder)).filter((name) => /\.(?:js|css|svg|wasm)$/u.test(name));
    const pack = async (name: string) => {
      const whole = await readFile(join(folder, name));
      await writeFile(join(folder, `${name}.br`), await promisify(brotliCompress)(whole));
      await writeFile(join(folder, `${name}.gz`), await promisify(gzip)(whole, { level: 9 }));
    };
    await Promise.all(files.map(pack));
  },
};

export default defineConfig({
  root: path('./src/web'),
  // src/web/public holds the public pages, not files to copy.
  publicDir: false,
  plugins: [react(), shells, packed],
  resolve: {
    alias: { '#core': path('./src/core'), '#contract': path('./src/contract'), '#web': path('./src/web') },
  },
  build: {
    outDir: path('./dist/web'),
    emptyOutDir: true,
    target: 'es2022',
    assetsInlineLimit: 0,
    rolldownOptions: { input: { app: path('./src/web/app.html'), public: path('./src/web/public.html') } },
    chunkSizeWarningLimit: 900,
  },
  server: { port: 4401, proxy: { '^/api/': { target: 'http://localhost:4400', changeOrigin: false } } },
});
