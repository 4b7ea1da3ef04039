import type { filesContract } from '#contract/files.ts';
import { silentStates } from '#core/events/states.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { orderByLink } from '../registration/links.ts';
import { readOrder, readSeats } from '../registration/store.ts';
import { keepFile } from './commands.ts';
import { filesById, theFile } from './store.ts';

/** A file that an event gives; 404 for any other. It is never shown within our own pages. */
async function fileOf(tx: Queries, event: EventRow, fileId: string): Promise<File> {
  if (!event.dayFiles.some((f) => f.fileId === fileId)) throw notFound('This file');
  const { name, mediaType, content } = await theFile(tx, fileId);
  return new File(name, Buffer.from(content), false, mediaType);
}

export const filesHandlers: Handlers<typeof filesContract> = {
  'POST /api/files': (c) => keepFile(c, c.body.name, c.body.content),

  'GET /api/events/:id/files': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'see');
    return filesById(
      c.tx,
      event.dayFiles.flatMap((f) => f.fileId ?? []),
    );
  },

  'GET /api/events/:id/files/:file': async (c) =>
    fileOf(c.tx, await eventFor(c, c.params.id, 'plan', 'see'), c.params.file),

  'GET /api/public/orders/:token/files/:file': async ({ tx, params }) => {
    const order = await readOrder(tx, await orderByLink(tx, params.token));
    const event = await readEvent(tx, order.eventId);
    const seats = await readSeats(tx, order.id);
    if (silentStates.includes(event.state) || !seats.some((s) => s.state === 'confirmed'))
      throw notFound('This file');
    return fileOf(tx, event, params.file);
  },
};
