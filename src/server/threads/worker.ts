import { TableProblem } from '#core/exchange/table.ts';
import { type Tasks, tasks } from './tasks.ts';

/** What a thread answers. A problem is carried by its code, as an error loses it on the way. */
export type ThreadAnswer<Result> =
  | { result: Result }
  | { problem: { code: TableProblem['code']; said: TableProblem['said'] } };

/** Runs in a thread of its own: does one task after the other. */
export default async function work({
  task,
  asked,
}: {
  task: keyof Tasks;
  asked: never;
}): Promise<ThreadAnswer<unknown>> {
  try {
    return { result: await tasks[task](asked) };
  } catch (error) {
    if (error instanceof TableProblem) return { problem: { code: error.code, said: error.said } };
    throw error;
  }
}
