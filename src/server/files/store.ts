import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export const fileByDigest = (tx: Queries, digest: string): Promise<{ id: string; name: string } | null> =>
  first<{ id: string; name: string }>(tx, 'select id, name from files where digest = $1', [digest]);

/** Writes a file down. */
export async function addFile(
  tx: Queries,
  file: { id: string; name: string; mediaType: string; digest: string; broughtBy: string | null; at: string },
  content: Buffer,
): Promise<void> {
  await tx.query(
    `insert into files (id, name, media_type, content, digest, brought_by, at)
     values ($1, $2, $3, decode($4, 'base64'), $5, $6, $7)`,
    [file.id, file.name, file.mediaType, content.toString('base64'), file.digest, file.broughtBy, file.at],
  );
}

/** Some files without what is in them, in the order they are asked for. */
export async function filesById(
  tx: Queries,
  ids: readonly string[],
): Promise<{ id: string; name: string; bytes: number }[]> {
  if (!ids.length) return [];
  const rows = await tx.query<{ id: string; name: string; bytes: number }>(
    'select id, name, length(content)::int as bytes from files where id = any($1)',
    [ids],
  );
  return ids.flatMap((id) => rows.find((row) => row.id === id) ?? []);
}

/** A file with what is in it; throws 404. */
export async function theFile(
  tx: Queries,
  id: string,
): Promise<{ name: string; mediaType: string; content: Uint8Array }> {
  const row = await first<{ name: string; mediaType: string; content: Uint8Array }>(
    tx,
    'select name, media_type, content from files where id = $1',
    [id],
  );
  if (!row) throw notFound('This file');
  return row;
}
