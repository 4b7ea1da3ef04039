import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { Report } from './report.ts';

// npm run bench -- script: script that has to arrive before a page can be used: its entry, and everything that imports at
// once.
const assets = 'dist/web/assets';
const entryOf = (html: string): string[] =>
  [...readFileSync(join('dist/web', html), 'utf8').matchAll(/(?:src|href)="\/assets\/([^"]+\.js)"/gu)].map(
    (m) => m[1]!,
  );
function closure(entries: readonly string[]): string[] {
  const seen = new Set<string>();
  const visit = (file: string) => {
    if (seen.has(file) || !existsSync(join(assets, file))) return;
    seen.add(file);
    for (const m of readFileSync(join(assets, file), 'utf8').matchAll(
      /(?:from|import)\s*["']\.\/([^"']+\.js)["']/gu,
    ))
      visit(m[1]!);
  };
  for (const entry of entries) visit(entry);
  return [...seen];
}
const gzipped = (files: readonly string[]): number =>
  files.reduce((sum, file) => sum + gzipSync(readFileSync(join(assets, file))).length, 0) / 1000;
const desk = readdirSync(assets).filter((f) => /^Desk-.*\.js$/u.test(f));
const report = new Report('script');
report.row('a public event page, gzipped', gzipped(closure(entryOf('public.html'))), 'kB', {
  goal: { of: 'value', atMost: 190 },
});
report.row(
  "the coordinator's first page, gzipped",
  gzipped(closure([...entryOf('app.html'), ...desk])),
  'kB',
);
report.finish();
