import { fileURLToPath } from 'node:url';
import { mergeConfig } from 'vite';
import web from './vite.config.ts';

const path = (to: string) => fileURLToPath(new URL(to, import.meta.url));

/** The page of the kit's parts, built for the tests; it is no part of the product. */
export default mergeConfig(web, {
  build: { outDir: path('./dist/kit'), rolldownOptions: { input: path('./src/web/kit.html') } },
});
