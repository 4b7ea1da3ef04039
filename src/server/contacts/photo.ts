import { fileTypeFromBuffer } from 'file-type';
import { imageSize } from 'image-size';
import type { contactsContract } from '#contract/contacts.ts';
import { record } from '../app/record.ts';
import { first } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, notFound } from '../http/problem.ts';
import { contactFor } from './seeing.ts';

const largest = 400_000;
/** A small file can hold a picture that fills the memory of whoever looks at it. */
const mostPixels = 4096;

const kept = ['image/jpeg', 'image/png', 'image/webp'];

/** What a picture is by its own bytes, whatever its name says; null when it is none of the kinds kept here. */
async function mediaTypeOf(bytes: Buffer): Promise<string | null> {
  const type = (await fileTypeFromBuffer(bytes).catch(() => undefined))?.mime;
  return type && kept.includes(type) ? type : null;
}

/** Width and height as the picture itself says; null when it says none. */
function sizeOf(bytes: Buffer): { width: number; height: number } | null {
  try {
    const { width, height } = imageSize(bytes);
    return width && height ? { width, height } : null;
  } catch {
    return null;
  }
}

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
    const { contactId } = await contactFor(c, c.params.id);
    const bytes = Buffer.from(c.body.content, 'base64');
    const mediaType = await mediaTypeOf(bytes);
    if (!mediaType) throw invalid([{ path: 'content', code: 'not-a-picture' }]);
    if (bytes.length > largest) throw invalid([{ path: 'content', code: 'picture-too-large' }]);
    const size = sizeOf(bytes);
    if (!size || Math.max(size.width, size.height) > mostPixels)
      throw invalid([{ path: 'content', code: 'picture-too-wide', params: { pixels: mostPixels } }]);
    await c.tx.query(
      `insert into contact_photos (contact_id, media_type, content, at) values ($1, $2, decode($3, 'base64'), $4)
       on conflict (contact_id) do update set media_type = excluded.media_type, content = excluded.content, at = excluded.at`,
      [contactId, mediaType, bytes.toString('base64'), c.now],
    );
    await record(c, 'contact changed', { contactId, how: 'got a photo' });
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
