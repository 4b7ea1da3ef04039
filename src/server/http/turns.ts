import type { Request, Response } from 'express';
import type { App, SignedIn } from '../app/app.ts';
import { refused } from './problem.ts';

/** Requests of one caller that are worked on at once, and how many more of theirs may wait. */
export interface TurnLimits {
  atOnce: number;
  waiting: number;
}
const usual: TurnLimits = { atOnce: 4, waiting: 1000 };

interface Line {
  running: number;
  waiting: (() => void)[];
}

/**
 * Lets every caller have a few requests worked on at once. Whoever asks for more waits behind themselves, and not
 * everybody behind them.
 */
export class Turns {
  private readonly lines = new Map<string, Line>();
  constructor(private readonly limits: TurnLimits = usual) {}

  /** Does the work when it is the caller's turn. `gone` tells whether anybody still waits for it; else it is left. */
  async take<T>(caller: string, gone: () => boolean, work: () => Promise<T>): Promise<T | undefined> {
    const line = this.lines.get(caller) ?? { running: 0, waiting: [] };
    this.lines.set(caller, line);
    if (line.running < this.limits.atOnce) line.running += 1;
    else {
      if (line.waiting.length >= this.limits.waiting) throw refused('too-many', {}, 429);
      // The turn is handed over, so that nobody comes in between.
      await new Promise<void>((resolve) => line.waiting.push(resolve));
    }
    try {
      return gone() ? undefined : await work();
    } finally {
      const next = line.waiting.shift();
      if (next) next();
      else {
        line.running -= 1;
        if (line.running === 0) this.lines.delete(caller);
      }
    }
  }
}

const all = new WeakMap<App, Turns>();

/** Answers a request when it is its caller's turn: a member of staff, or the address of a stranger. */
export async function inTurn(
  app: App,
  request: Request,
  response: Response,
  staff: SignedIn | null,
  work: () => Promise<void>,
): Promise<void> {
  const turns = all.get(app) ?? new Turns();
  all.set(app, turns);
  await turns.take(staff?.id ?? request.ip ?? 'unknown', () => response.closed, work);
}
