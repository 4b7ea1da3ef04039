import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { MessagePort } from 'node:worker_threads';
import type { Piscina } from 'piscina';
import { TableProblem } from '#core/exchange/table.ts';
import { projectRoot } from '../db/root.ts';
import type { Tasks } from './tasks.ts';
import type { ThreadAnswer } from './worker.ts';

/** How many tasks run at once, how long one may take from being asked for, and how much memory each thread may use. */
const limits = { threads: 2, ms: 20_000, megabytes: 768, waiting: 100 } as const;
/** From source a thread compiles all it needs first, which alone can take as long on a slow machine. */
const isSource = import.meta.url.endsWith('.ts');
const mostMs = isSource ? 5 * limits.ms : limits.ms;

let pool: Promise<Piscina> | null = null;

/** Threads are started when there is something to do: built beside the server, or from source while developing. */
function thePool(): Promise<Piscina> {
  pool ??= makePool();
  return pool;
}

async function makePool(): Promise<Piscina> {
  const { Piscina } = await import('piscina');
  const built = join(projectRoot(), 'dist/server/worker.js');
  const fromSource = isSource || !existsSync(built);
  const made = new Piscina({
    filename: pathToFileURL(fromSource ? join(projectRoot(), 'src/server/threads/worker.ts') : built).href,
    ...(fromSource
      ? { execArgv: ['--import', pathToFileURL(createRequire(import.meta.url).resolve('tsx')).href] }
      : {}),
    minThreads: 0,
    maxThreads: limits.threads,
    maxQueue: limits.waiting,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: limits.megabytes },
  });
  // A thread that ends by itself fails its own task; there is nothing else to tell.
  made.on('error', () => {});
  return made;
}

const tooMuch = () => new TableProblem('too-long', { code: 'file-takes-long' });

/**
 * Does a task in a thread of its own, so that nobody waits for it; ended where it takes too long or too much memory.
 * Throws TableProblem for what cannot be read.
 */
export async function inThread<Task extends keyof Tasks>(
  task: Task,
  asked: Parameters<Tasks[Task]>[0],
  /** Milliseconds it may take, where that is more than usual, and what goes over to the thread. */
  { ms = mostMs, over = [] }: { ms?: number; over?: readonly MessagePort[] } = {},
): Promise<Awaited<ReturnType<Tasks[Task]>>> {
  let answer: ThreadAnswer<Awaited<ReturnType<Tasks[Task]>>>;
  try {
    answer = await (await thePool()).run(
      { task, asked },
      { signal: AbortSignal.timeout(ms), transferList: [...over] as never },
    );
  } catch (error) {
    const { code, name } = error as NodeJS.ErrnoException;
    if (code === 'ERR_WORKER_OUT_OF_MEMORY' || name === 'AbortError') throw tooMuch();
    throw error;
  }
  if ('problem' in answer) throw new TableProblem(answer.problem.code, answer.problem.said);
  return answer.result;
}
