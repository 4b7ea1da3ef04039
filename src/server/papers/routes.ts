import type { papersContract } from '#contract/papers.ts';
import { readPapers } from '../clearance/papers.ts';
import { clearanceOf } from '../clearance/view.ts';
import { eventFor } from '../events/access.ts';
import { theFile } from '../files/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { addPaper, filePaper, removePaper } from './commands.ts';

export const papersHandlers: Handlers<typeof papersContract> = {
  'POST /api/events/:id/clearance/papers': async (c) => {
    const event = await eventFor(c, c.params.id, 'clearance', 'change');
    await addPaper(c, event.id, c.body);
    return clearanceOf(c.tx, event.id, c.staff, c.now);
  },

  'DELETE /api/events/:id/clearance/papers/:paper': async (c) => {
    const event = await eventFor(c, c.params.id, 'clearance', 'change');
    await removePaper(c, event.id, c.params.paper);
    return clearanceOf(c.tx, event.id, c.staff, c.now);
  },

  'GET /api/events/:id/clearance/papers/:paper': async (c) => {
    const event = await eventFor(c, c.params.id, 'clearance', 'see');
    const { name, mediaType, content } = await theFile(
      c.tx,
      filePaper(await readPapers(c.tx, event.id), c.params.paper),
    );
    return new File(name, Buffer.from(content), false, mediaType);
  },
};
