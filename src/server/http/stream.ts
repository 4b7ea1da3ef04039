import type { Response } from 'express';
import type { Announcer } from './announcer.ts';
import { File } from './handle.ts';

/** Seconds between signs of life, so that a broken connection is noticed. */
const beatSeconds = 20;

/** Server-sent events (WHATWG HTML section 9.2): one event for every announcement of a topic. */
export class Stream extends File {
  constructor(
    private readonly announcer: Announcer,
    private readonly topic: string,
  ) {
    super('stream', '');
  }

  start(response: Response): void {
    response
      .status(200)
      .set({ 'content-type': 'text/event-stream', 'cache-control': 'no-store', connection: 'keep-alive' });
    response.flushHeaders();
    response.write('event: ready\ndata: {}\n\n');
    const stop = this.announcer.listen(this.topic, (figures) =>
      response.write(`event: changed\ndata: ${JSON.stringify(figures)}\n\n`),
    );
    const beat = setInterval(() => response.write(': here\n\n'), beatSeconds * 1000);
    response.on('close', () => {
      stop();
      clearInterval(beat);
    });
  }
}
