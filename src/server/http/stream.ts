import type { Response } from 'express';
import type { Announcer } from '../app/announcer.ts';
import { File } from './handle.ts';

/** Announced whenever sessions ended or rights changed: streams look whether they may go on. */
export const sessionsEnded = 'sessions ended';

/** Seconds between signs of life, so that a broken connection is noticed. */
const beatSeconds = 20;

/** Server-sent events (WHATWG HTML section 9.2): one event for every announcement of a topic. */
export class Stream extends File {
  constructor(
    private readonly announcer: Announcer,
    private readonly topic: string,
    /** Whether whoever listens still may; asked at every beat and whenever sessions end. */
    private readonly still: () => Promise<boolean> = async () => true,
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
    const check = () => {
      this.still().then(
        (may) => {
          if (!may) response.end('event: over\ndata: {}\n\n');
        },
        () => response.end(),
      );
    };
    const ended = this.announcer.listen(sessionsEnded, check);
    const beat = setInterval(() => {
      response.write(': here\n\n');
      check();
    }, beatSeconds * 1000);
    response.on('close', () => {
      stop();
      ended();
      clearInterval(beat);
    });
  }
}
