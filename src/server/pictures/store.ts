import { shownToPublic } from '#core/events/states.ts';
import type { ShownPicture } from '#core/pictures/picture.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';

export interface PictureRow extends ShownPicture {
  at: string;
  by: string;
}

const columns = 'id, alt, width, height, focus_x, focus_y, at, by';

/** Brought in by people of a unit. */
const ofUnit = (unit: string) =>
  `exists (select 1 from staff s where s.id = p.brought_by and s.unit_id = ${unit})`;

/**
 * Pictures that were used before, newest first: with `unitId` those that people of the unit brought in, and those on pages
 * that everybody may see; without, all.
 */
export const readPictures = (
  tx: Queries,
  unitId: string | null | undefined,
  limit: number,
  offset: number,
): Promise<PictureRow[]> =>
  tx.query<PictureRow>(
    `select ${columns} from pictures p
     where $1 or ${ofUnit('$2::uuid')} or exists (
       select 1 from events e where e.state in ${among(shownToPublic)} and e.visibility = 'everyone'
         and (e.banner_id = p.id or p.id = any(e.gallery)))
     order by at desc, id desc limit $3 offset $4`,
    [unitId === undefined, unitId ?? null, limit, offset],
  );

/** Those of some pictures that people of a unit brought in. */
export async function broughtInBy(
  tx: Queries,
  ids: readonly string[],
  unitId: string | null,
): Promise<ReadonlySet<string>> {
  if (!ids.length) return new Set();
  const rows = await tx.query<{ id: string }>(
    `select p.id from pictures p where p.id = any($1) and ${ofUnit('$2::uuid')}`,
    [ids, unitId],
  );
  return new Set(rows.map((row) => row.id));
}

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

/** Rows with the picture itself in the place of its id; null where a row has none. */
export async function withPictures<Row extends { pictureId: string | null }>(
  tx: Queries,
  rows: readonly Row[],
): Promise<(Omit<Row, 'pictureId'> & { picture: ShownPicture | null })[]> {
  const pictures = await picturesById(
    tx,
    rows.flatMap((row) => row.pictureId ?? []),
  );
  const byId = new Map(pictures.map((p) => [p.id, p]));
  return rows.map(({ pictureId, ...row }) => ({
    ...row,
    picture: (pictureId && byId.get(pictureId)) || null,
  }));
}

/** The logos there are; a unit of null is the organization. */
export const readLogos = (tx: Queries): Promise<{ unitId: string | null; pictureId: string }[]> =>
  tx.query(
    `select null::uuid as unit_id, logo_id as picture_id from organization where logo_id is not null
     union all select id, logo_id from units where logo_id is not null`,
  );

/** The logo of the organization, or of a unit; null where there is none. */
export const logoOf = (tx: Queries, unitId: string | null): Promise<ShownPicture | null> =>
  first<ShownPicture>(
    tx,
    `select id, alt, width, height, focus_x, focus_y from pictures where id =
       case when $1::uuid is null then (select logo_id from organization) else (select logo_id from units where id = $1) end`,
    [unitId],
  );

/** Sets a logo; answers whose it is by name, and null where there is no such unit. */
export const setLogo = (
  tx: Queries,
  unitId: string | null,
  pictureId: string | null,
): Promise<{ name: string } | null> =>
  unitId === null
    ? first(tx, 'update organization set logo_id = $1 returning name', [pictureId])
    : first(tx, 'update units set logo_id = $1 where id = $2 returning name', [pictureId, unitId]);

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
