import { parentPort } from 'node:worker_threads';
import { readTable, TableProblem } from '#core/exchange/table.ts';

/** What the reader answers to one file. */
export type ReaderAnswer =
  | { id: number; table: ReturnType<typeof readTable> }
  | { id: number; problem: { code: TableProblem['code']; message: string } }
  | { id: number; error: string };

/** Runs in a thread of its own: reads files as tables, one after the other. */
parentPort!.on('message', ({ id, bytes }: { id: number; bytes: Uint8Array }) => {
  const answer = (a: ReaderAnswer) => parentPort!.postMessage(a);
  try {
    answer({ id, table: readTable(bytes) });
  } catch (error) {
    if (error instanceof TableProblem) answer({ id, problem: { code: error.code, message: error.message } });
    else answer({ id, error: error instanceof Error ? error.message : String(error) });
  }
});
