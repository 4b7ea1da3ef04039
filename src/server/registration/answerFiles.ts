import { plusMinutes } from '#core/time/clock.ts';
import type { App, Work } from '../app/app.ts';
import { first, type Queries } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { sentFile } from '../http/sentFile.ts';

/** Bytes that wait at one event for orders which may never come. */
const mostLoose = 200_000_000;
/** Minutes a file waits for the order that names it. */
const waitsMinutes = 24 * 60;

/** Keeps a file until an order names it. Refuses what is not what its name says, as a program. */
export async function keepAnswerFile(
  w: Work,
  eventId: string,
  name: string,
  content: string,
): Promise<{ id: string; name: string }> {
  const { bytes, mediaType } = sentFile(name, content);
  const waiting = await first<{ bytes: number }>(
    w.tx,
    'select coalesce(sum(length(content)), 0)::int as bytes from answer_files where order_id is null and event_id = $1',
    [eventId],
  );
  if (waiting!.bytes + bytes.length > mostLoose) throw refused('too-many', {}, 429);
  const id = w.app.ids.id();
  await w.tx.query(
    `insert into answer_files (id, event_id, name, media_type, content, at) values ($1, $2, $3, $4, decode($5, 'base64'), $6)`,
    [id, eventId, name, mediaType, bytes.toString('base64'), w.now],
  );
  return { id, name };
}

/** Gives files to the order that names them; refuses one that is gone, of another event or of somebody else's order. */
export async function claimFiles(
  w: Work,
  eventId: string,
  orderId: string,
  ids: readonly string[],
): Promise<void> {
  if (!ids.length) return;
  const claimed = await w.tx.query<{ id: string }>(
    'update answer_files set order_id = $2 where id = any($1) and event_id = $3 and (order_id is null or order_id = $2) returning id',
    [ids, orderId, eventId],
  );
  if (claimed.length < new Set(ids).size) throw refused('file-gone');
}

/** A file somebody answered with, and whether it is sensitive; 404 for one of another event. */
export async function answerFileOf(
  tx: Queries,
  eventId: string,
  id: string,
): Promise<{
  name: string;
  mediaType: string;
  content: Uint8Array;
  sensitive: boolean;
  contactId: string | null;
}> {
  const row = await first<{
    name: string;
    mediaType: string;
    content: Uint8Array;
    sensitive: boolean;
    contactId: string | null;
  }>(
    tx,
    `select f.name, f.media_type, f.content, q.sensitive, coalesce(r.contact_id, o.buyer_contact_id) as contact_id
     from answer_files f join answers a on a.order_id = f.order_id and a.value = to_jsonb(f.id::text)
       join questions q on q.id = a.question_id and q.kind = 'file' join orders o on o.id = f.order_id
       left join registrations r on r.id = a.registration_id
     where f.id = $2 and f.event_id = $1 limit 1`,
    [eventId, id],
  );
  if (!row) throw notFound('This file');
  return row;
}

/** The next moment at which files that no order named are let go. */
export const nextLooseFileSql = `select at + interval '${waitsMinutes} minutes' as at, id from answer_files where order_id is null order by at, id limit 1`;

/** Lets go of files that waited long enough. */
export const dropLooseFiles = async (app: App, now: string): Promise<void> => {
  await app.db.query('delete from answer_files where order_id is null and at <= $1', [
    plusMinutes(now, -waitsMinutes),
  ]);
};
