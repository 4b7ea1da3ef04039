import type { Queries } from '../db/database.ts';
import { File } from '../http/handle.ts';
import { theOrganization } from '../staff/store.ts';
import { type Poster, posterPdf } from './poster.ts';

/** A poster of the organization as a PDF to look at and print. */
export async function posterFile(
  tx: Queries,
  file: string,
  poster: Omit<Poster, 'organization'>,
): Promise<File> {
  const { name } = await theOrganization(tx);
  return new File(file, await posterPdf({ organization: name, ...poster }), true);
}
