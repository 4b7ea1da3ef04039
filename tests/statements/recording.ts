import { appendFileSync, mkdirSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Database, Queries } from '#server/db/database.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
/** Where the processes of the API tests write down what they asked; made empty by the first of them. */
export const recordedFolder = join(root, 'test-results/statements/recorded');

/** A statement as it was asked: from which line of the server, and which of its columns came back empty at least once. */
export type Recorded =
  | { sql: string; file: string; line: number }
  | { sql: string; empty: readonly string[] };

/** Of every statement: the places it was written down for, and its columns that came back empty. */
const known = new Map<string, { places: Set<string>; empty: Set<string> }>();
const path = join(recordedFolder, `${process.pid}.jsonl`);
mkdirSync(dirname(path), { recursive: true });
const write = (entry: Recorded) => appendFileSync(path, `${JSON.stringify(entry)}\n`);

/** Columns are looked at in this many rows of an answer. */
const rowsLookedAt = 50;
/** True of a file that asks for itself, and does not pass on what others ask. */
const asks = (file: string): boolean => file.includes('/src/') && !file.includes('/src/server/db/');

/** Where in the code as it runs a statement is asked from: cheap enough for every one of them. */
function runningPlace(): string {
  const { prepareStackTrace, stackTraceLimit } = Error;
  Error.stackTraceLimit = 12;
  Error.prepareStackTrace = (_, frames) => {
    const frame = frames.find((f) => asks(f.getFileName() ?? ''));
    return frame ? `${frame.getFileName()}:${frame.getLineNumber()}:${frame.getColumnNumber()}` : '';
  };
  const place = String(new Error('where').stack);
  Error.prepareStackTrace = prepareStackTrace;
  Error.stackTraceLimit = stackTraceLimit;
  return place;
}

/** The same as a line of the source. */
function sourcePlace(): { file: string; line: number } | null {
  const { stackTraceLimit } = Error;
  Error.stackTraceLimit = 30;
  const stack = new Error('where').stack ?? '';
  Error.stackTraceLimit = stackTraceLimit;
  for (const [, place, line] of stack.matchAll(/\(?(?:file:\/\/)?(\/[^\s()]+?):(\d+):\d+\)?$/gmu)) {
    const file = place!.replace(/\?.*$/u, '');
    if (asks(file)) return { file: relative(root, file), line: Number(line) };
  }
  return null;
}

function noted<Q extends Queries>(of: Q): Q {
  return {
    ...of,
    async query<T>(sql: string, params?: readonly unknown[]): Promise<T[]> {
      const { places, empty } = known.get(sql) ?? { places: new Set<string>(), empty: new Set<string>() };
      known.set(sql, { places, empty });
      const running = runningPlace();
      if (running && !places.has(running)) {
        places.add(running);
        const place = sourcePlace();
        if (place) write({ sql, ...place });
      }
      const rows = await of.query<T>(sql, params);
      const fresh: string[] = [];
      for (const row of rows.slice(0, rowsLookedAt))
        for (const key in row)
          if (row[key] === null && !empty.has(key)) {
            empty.add(key);
            fresh.push(key);
          }
      if (fresh.length) write({ sql, empty: fresh });
      return rows;
    },
  };
}

/** A database that writes down every statement it is asked, for the tests of statements. */
export const recorded = (db: Database): Database => ({
  ...noted(db),
  transaction: (work) => db.transaction((tx) => work(noted(tx))),
});
