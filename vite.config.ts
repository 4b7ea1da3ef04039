import { fileURLToPath } from 'node:url';
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

export default defineConfig({
  root: path('./src/web'),
  // src/web/public holds the public pages, not files to copy.
  publicDir: false,
  plugins: [react(), shells],
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
