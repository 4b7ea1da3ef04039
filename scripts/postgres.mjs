import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

const debian = '/usr/lib/postgresql';

/** Where the programs of a PostgreSQL server of version 15 or later are; null where there are none. Debian keeps them off the path. */
export function postgresPrograms() {
  const versions = existsSync(debian) ? readdirSync(debian).map(Number) : [];
  const folders = [
    process.env.POSTGRES_BIN ?? '',
    ...versions
      .filter((version) => version >= 15)
      .sort((a, b) => b - a)
      .map((version) => join(debian, String(version), 'bin')),
    ...(process.env.PATH ?? '').split(':'),
  ];
  return folders.find((f) => f && existsSync(join(f, 'initdb')) && existsSync(join(f, 'postgres'))) ?? null;
}
