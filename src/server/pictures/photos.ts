import type { contactsContract } from '#contract/contacts.ts';
import { inTransaction } from '../app/app.ts';
import { record } from '../app/record.ts';
import { contactFor } from '../contacts/seeing.ts';
import { first } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { makePhoto } from './making.ts';

export const photoHandlers: Pick<
  Handlers<typeof contactsContract>,
  'GET /api/contacts/:id/photo' | 'PUT /api/contacts/:id/photo' | 'DELETE /api/contacts/:id/photo'
> = {
  'GET /api/contacts/:id/photo': async (c) => {
    const { tx } = c;
    const { contactId } = await contactFor(c, c.params.id);
    const photo = await first<{ content: string; mediaType: string }>(
      tx,
      "select media_type, encode(content, 'base64') as content from contact_photos where contact_id = $1",
      [contactId],
    );
    if (!photo) throw notFound('This photo');
    return new File('photo', Buffer.from(photo.content, 'base64'), true, photo.mediaType);
  },

  'PUT /api/contacts/:id/photo': async (c) => {
    const { app, actor, staff, params, body } = c;
    await contactFor(c, params.id);
    // Made before the transaction: it takes a moment, and nobody waits for it.
    const photo = await makePhoto(Buffer.from(body.content, 'base64'));
    await inTransaction(app, actor, async (w) => {
      const { contactId } = await contactFor({ ...w, staff }, params.id);
      await w.tx.query(
        `insert into contact_photos (contact_id, media_type, content, at) values ($1, 'image/jpeg', decode($2, 'base64'), $3)
         on conflict (contact_id) do update set media_type = excluded.media_type, content = excluded.content, at = excluded.at`,
        [contactId, photo.toString('base64'), w.now],
      );
      await record(w, 'contact changed', { contactId, how: 'got a photo' });
    });
    return { done: true };
  },

  'DELETE /api/contacts/:id/photo': async (c) => {
    const { contactId } = await contactFor(c, c.params.id);
    const gone = await c.tx.query('delete from contact_photos where contact_id = $1 returning contact_id', [
      contactId,
    ]);
    if (!gone.length) throw notFound('This photo');
    await record(c, 'contact changed', { contactId, how: 'lost their photo' });
    return { done: true };
  },
};
