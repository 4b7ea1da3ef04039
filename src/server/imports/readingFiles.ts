import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import { type Table, TableProblem } from '#core/exchange/table.ts';
import { projectRoot } from '../db/root.ts';
import type { ReaderAnswer } from './reader.ts';

/** How long one file may take to read, and how much memory the thread may use. */
const readingLimits = { ms: 20_000, megabytes: 768 } as const;

interface Reader {
  worker: Worker;
  waiting: Map<
    number,
    { resolve: (table: Table) => void; reject: (error: Error) => void; timer: NodeJS.Timeout }
  >;
}
let reader: Reader | null = null;
let last = 0;

/** The thread that reads files: built beside the server, or from its source while developing. */
function startWorker(): Worker {
  const limits = { resourceLimits: { maxOldGenerationSizeMb: readingLimits.megabytes } };
  const built = join(projectRoot(), 'dist/server/reader.js');
  const source = join(projectRoot(), 'src/server/imports/reader.ts');
  if (!import.meta.url.endsWith('.ts') && existsSync(built)) return new Worker(built, limits);
  const from = JSON.stringify(pathToFileURL(source).href);
  return new Worker(`import('tsx/esm/api').then((tsx) => { tsx.register(); return import(${from}); })`, {
    ...limits,
    eval: true,
  });
}

const tooMuch = () =>
  new TableProblem(
    'too-long',
    'This file takes too long to read. Is it really a table or an address book? Save it anew, or in parts.',
  );

function theReader(): Reader {
  if (reader) return reader;
  const own: Reader = { worker: startWorker(), waiting: new Map() };
  reader = own;
  own.worker.unref();
  own.worker.on('message', (answer: ReaderAnswer) => {
    const asked = own.waiting.get(answer.id);
    if (!asked) return;
    own.waiting.delete(answer.id);
    clearTimeout(asked.timer);
    if (own.waiting.size === 0) own.worker.unref();
    if ('table' in answer) asked.resolve(answer.table);
    else if ('problem' in answer) asked.reject(new TableProblem(answer.problem.code, answer.problem.message));
    else asked.reject(new Error(answer.error));
  });
  // Out of memory, or ended: whoever waits is told, and the next file gets a new thread.
  const over = (error: Error) => {
    if (reader === own) reader = null;
    for (const { reject, timer } of own.waiting.values()) {
      clearTimeout(timer);
      reject(error);
    }
    own.waiting.clear();
  };
  own.worker.on('error', (error: NodeJS.ErrnoException) =>
    over(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooMuch() : error),
  );
  own.worker.on('exit', () => over(tooMuch()));
  return own;
}

/**
 * Reads a file as a table in a thread of its own, so that nobody waits for it; ended where it takes too long or too much
 * memory. Throws TableProblem.
 */
export function readFile(bytes: Uint8Array): Promise<Table> {
  const own = theReader();
  own.worker.ref();
  last += 1;
  const id = last;
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => {
      reader = null;
      void own.worker.terminate();
    }, readingLimits.ms);
    own.waiting.set(id, { resolve, reject, timer });
    own.worker.postMessage({ id, bytes });
  });
}
