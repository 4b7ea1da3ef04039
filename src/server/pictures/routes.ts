import type { picturesContract } from '#contract/pictures.ts';
import { bindingUnit } from '#core/access/stages.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { withRights } from './access.ts';
import { describePicture, giveLogo, keepPicture } from './commands.ts';
import { readLogos, readPictures, readSize, withPictures } from './store.ts';

const shownAtOnce = 24;

export const picturesHandlers: Handlers<typeof picturesContract> = {
  'GET /api/pictures': async ({ tx, query, staff }) => {
    const rows = await readPictures(tx, bindingUnit(staff), shownAtOnce + 1, query.offset);
    return {
      pictures: await withRights(tx, staff, rows.slice(0, shownAtOnce)),
      more: rows.length > shownAtOnce,
    };
  },

  'POST /api/pictures': async ({ app, actor, staff, body: { content, ...more } }) => {
    const kept = await keepPicture(app, actor, {
      bytes: Buffer.from(content, 'base64'),
      unitId: bindingUnit(staff) ?? null,
      ...more,
    });
    return { ...kept, mayDescribe: true };
  },

  'PATCH /api/pictures/:id': async (c) => {
    await describePicture(c, c.staff, c.params.id, c.body);
    return { done: true };
  },

  'GET /api/logos': async ({ tx }) => withPictures(tx, await readLogos(tx)),

  'PUT /api/logos': async (c) => {
    await giveLogo(c, c.body.unitId, c.body.pictureId);
    return { done: true };
  },

  'GET /api/public/pictures/:id/:size': async ({ tx, params }) => {
    const [width, kind] = params.size.split('.') as [string, 'webp' | 'jpg'];
    const size = await readSize(tx, params.id, Number(width), kind);
    if (!size) throw notFound('This picture');
    return new File(
      params.size,
      Buffer.from(size.content, 'base64'),
      true,
      kind === 'jpg' ? 'image/jpeg' : 'image/webp',
      true,
    );
  },
};
