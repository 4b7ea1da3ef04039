import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Recorded, recordedFolder } from './recording.ts';
import { filesOf, type Site, sitesOf } from './sites.ts';

/** Folders whose statements are not asked through the API: how databases are opened, moved and kept. */
const aside = ['src/server/db/', 'src/server/backup/', 'src/server/start.ts'];

export interface Asked {
  site: Site;
  sql: string;
}

/** Where a statement stands in the code. */
export const placeOf = (of: { file: string; line: number }): string => `${of.file}:${of.line}`;

/** Every place of the server that asks the database, what the API tests asked from there, and which columns came back empty. */
export function whatWasAsked(): {
  sites: Site[];
  asked: readonly Asked[];
  empty: ReadonlyMap<string, ReadonlySet<string>>;
} {
  const sites = filesOf('src/server')
    .filter((file) => !aside.some((a) => file.startsWith(a)))
    .flatMap(sitesOf);
  const known = new Map(sites.map((site) => [placeOf(site), site]));
  const asked: Asked[] = [];
  const empty = new Map<string, Set<string>>();
  const entries = readdirSync(recordedFolder).flatMap((name) =>
    readFileSync(join(recordedFolder, name), 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Recorded),
  );
  for (const entry of entries)
    if ('empty' in entry) {
      const of = empty.get(entry.sql) ?? new Set();
      empty.set(entry.sql, of);
      for (const column of entry.empty) of.add(column);
    } else {
      const site = known.get(placeOf(entry));
      if (site) asked.push({ site, sql: entry.sql });
    }
  return { sites, asked, empty };
}
