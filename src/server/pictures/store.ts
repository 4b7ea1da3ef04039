import type { ShownPicture } from '#core/pictures/picture.ts';
import { first, type Queries } from '../db/database.ts';

export interface PictureRow extends ShownPicture {
  at: string;
  by: string;
}

const columns = 'id, alt, width, height, focus_x, focus_y, at, by';

export const readPictures = (tx: Queries, limit: number, offset: number): Promise<PictureRow[]> =>
  tx.query<PictureRow>(`select ${columns} from pictures order by at desc, id desc limit $1 offset $2`, [
    limit,
    offset,
  ]);

export const pictureByDigest = (tx: Queries, digest: string): Promise<PictureRow | null> =>
  first<PictureRow>(tx, `select ${columns} from pictures where digest = $1`, [digest]);

/** Some pictures, in the order they are asked for; those that are not there are left out. */
export async function picturesById(tx: Queries, ids: readonly string[]): Promise<ShownPicture[]> {
  if (!ids.length) return [];
  const rows = await tx.query<ShownPicture>(
    'select id, alt, width, height, focus_x, focus_y from pictures where id = any($1)',
    [ids],
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** One size of a picture as base64: the smallest that is as wide as asked, else the largest. */
export const readSize = (
  tx: Queries,
  id: string,
  width: number,
  kind: string,
): Promise<{ content: string } | null> =>
  first(
    tx,
    `select encode(content, 'base64') as content from picture_sizes where picture_id = $1 and kind = $3
     order by (width < $2), case when width >= $2 then width else -width end limit 1`,
    [id, width, kind],
  );

export async function addSize(
  tx: Queries,
  id: string,
  size: { width: number; kind: string; content: Buffer },
): Promise<void> {
  await tx.query(
    "insert into picture_sizes (picture_id, width, kind, content) values ($1, $2, $3, decode($4, 'base64'))",
    [id, size.width, size.kind, size.content.toString('base64')],
  );
}
