import { execFileSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { btree_gist } from '@electric-sql/pglite/contrib/btree_gist';
import { pg_trgm } from '@electric-sql/pglite/contrib/pg_trgm';
import pg from 'pg';
import { beforeAll, expect, test } from 'vitest';
import { camel } from '#server/db/database.ts';
import { templatePath } from '../api/founded.ts';
import { type Asked, placeOf, whatWasAsked } from './asked.ts';
import { root, type Site } from './sites.ts';

// Run after the API tests, which write down what they asked: every statement of the server is among it, the database
// takes it, and its columns are those of the type it is read as.

let sites: Site[] = [];
let asked: readonly Asked[] = [];
let empty: ReadonlyMap<string, ReadonlySet<string>> = new Map();
const at = placeOf;

beforeAll(() => {
  ({ sites, asked, empty } = whatWasAsked());
});

test('every statement of the server is asked by a test', () => {
  const of = new Set(asked.map((a) => at(a.site)));
  expect(sites.filter((site) => !of.has(at(site))).map(at)).toEqual([]);
});

test('routes and commands hold no SQL: it stands in stores, and in files about one thing that only they ask', () => {
  const kept = sites.filter(({ file, by }) => {
    if (/(^|\/)(due|[a-z]*[rR]outes)\.ts$/u.test(file)) return true;
    return /(^|\/)(facts|[a-z]*[cC]ommands)\.ts$/u.test(file) && (by === 'query' || by === 'first');
  });
  expect(kept.map(at)).toEqual([]);
});

const { builtins } = pg.types;
/** What a column of a type is read as, in TypeScript; anything for JSON. */
const readAs: Readonly<Record<number, string>> = {
  [builtins.BOOL]: 'boolean',
  [builtins.INT2]: 'number',
  [builtins.INT4]: 'number',
  [builtins.INT8]: 'number',
  [builtins.NUMERIC]: 'number',
  [builtins.FLOAT4]: 'number',
  [builtins.FLOAT8]: 'number',
  [builtins.JSON]: 'any',
  [builtins.JSONB]: 'any',
  [builtins.BYTEA]: 'Uint8Array',
  1000: 'readonly boolean[]',
  1001: 'readonly Uint8Array[]',
  1005: 'readonly number[]',
  1007: 'readonly number[]',
  1016: 'readonly number[]',
  1231: 'readonly number[]',
  199: 'readonly any[]',
  3807: 'readonly any[]',
  1009: 'readonly string[]',
  1015: 'readonly string[]',
  1115: 'readonly string[]',
  1182: 'readonly string[]',
  1185: 'readonly string[]',
  2951: 'readonly string[]',
};
const typeOf = (oid: number): string => readAs[oid] ?? 'string';

test('the columns of every statement are those of the type it is read as', { timeout: 300_000 }, async () => {
  const db = await PGlite.create({
    loadDataDir: new Blob([readFileSync(templatePath)]),
    extensions: { btree_gist, pg_trgm },
  });
  const copy = join(root, 'test-results/statements/checked');
  rmSync(copy, { recursive: true, force: true });
  cpSync(join(root, 'src'), join(copy, 'src'), {
    recursive: true,
    filter: (from) => !from.endsWith('.test.ts') && !/\/src\/web(\/|$)/u.test(from),
  });
  const rowTypes = new Map<string, string>();
  const lines: string[] = [];
  const places: string[] = [];
  const wrong: string[] = [];
  for (const { site, sql } of asked) {
    const described = await db.describeQuery(sql).catch((error: Error) => {
      wrong.push(`${at(site)}: ${error.message}`);
      return null;
    });
    const columns = described?.resultFields ?? [];
    if (!columns.length || !site.type) continue;
    const name = rowTypes.get(at(site)) ?? `RowOf${rowTypes.size}`;
    rowTypes.set(at(site), name);
    const none = empty.get(sql);
    const members = columns.map((c) => {
      const key = camel(c.name);
      const read = typeOf(c.dataTypeID);
      return none?.has(key)
        ? `${key}: orNull<${read}, ${name}, '${key}'>(null)`
        : `${key}: as<${read}, ${name}, '${key}'>()`;
    });
    lines.push(`export const of${lines.length}: ${name} = { ${members.join(', ')} };`);
    places.push(at(site));
  }
  await db.close();

  const typed = sites.filter((s) => rowTypes.has(at(s)));
  const exports = new Map(typed.map(({ file }) => [file, typed.filter((s) => s.file === file)]));
  const imports: string[] = [];
  for (const [file, of] of exports) {
    const path = join(copy, file);
    const types = of.map((s) => `export type ${rowTypes.get(at(s))} = ${s.type};`);
    writeFileSync(path, `${readFileSync(path, 'utf8')}\n${types.join('\n')}\n`);
    imports.push(`import type { ${of.map((s) => rowTypes.get(at(s))).join(', ')} } from './${file}';`);
  }
  const head = [
    ...imports,
    '/** What a column is read as; of a row of several kinds, in whichever has it. */',
    'type Column<Row, Key> = Row extends unknown ? (Key extends keyof Row ? Row[Key] : never) : never;',
    'type Fits<T, C> = T extends NonNullable<C> ? any : NonNullable<C> extends T ? any : { notOf: C };',
    '/** A value of a column that never came back empty. */',
    'declare function as<T, Row, Key>(): Fits<T, Column<Row, Key>>;',
    '/** A value of a column that came back empty. */',
    'declare function orNull<T, Row, Key>(none: null extends Column<Row, Key> ? null : never): Fits<T, Column<Row, Key>>;',
  ];
  mkdirSync(copy, { recursive: true });
  writeFileSync(join(copy, 'check.ts'), `${[...head, ...lines].join('\n')}\n`);
  writeFileSync(
    join(copy, 'tsconfig.json'),
    JSON.stringify({
      extends: '../../../tsconfig.json',
      compilerOptions: {
        noUnusedLocals: false,
        paths: Object.fromEntries(
          ['core', 'contract', 'server', 'demo'].map((n) => [`#${n}/*`, [`./src/${n}/*`]]),
        ),
      },
      include: ['check.ts'],
    }),
  );
  try {
    execFileSync('npx', ['--no-install', 'tsc', '-p', copy, '--pretty', 'false'], {
      cwd: root,
      encoding: 'utf8',
    });
  } catch (error) {
    const said = String((error as { stdout?: string }).stdout);
    for (const line of said.split('\n').filter((l) => l.includes('error TS'))) {
      const here = /check\.ts\((\d+),/u.exec(line);
      const place = here ? places[Number(here[1]) - head.length - 1] : relative(root, dirname(line));
      wrong.push(`${place}: ${line.replace(/^.*?error /u, '')}`);
    }
  }
  expect(wrong).toEqual([]);
});
