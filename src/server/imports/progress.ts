import type { App } from '../http/app.ts';

/**
 * How far a long write is. It says so to open pages, and lets other requests have their turn: they cannot ask the
 * database meanwhile, but pages and this very progress arrive.
 */
export class Progress {
  private done = 0;
  private said = 0;
  constructor(
    private readonly app: App,
    private readonly importId: string,
    private readonly all: number,
  ) {}

  async add(n: number): Promise<void> {
    this.done += n;
    if (this.done - this.said < 1000 && this.done < this.all) return;
    this.said = this.done;
    this.app.announcer.announce(`import ${this.importId}`, { done: this.done, all: this.all });
    await new Promise((resolve) => setImmediate(resolve));
  }
}
