import { createHash } from 'node:crypto';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { sentFile } from '../http/sentFile.ts';
import { addFile, fileByDigest } from './store.ts';

/** Keeps a file; the same under the same name is kept once. Refuses what is not what its name says, as a program. */
export async function keepFile(
  w: Work,
  name: string,
  content: string,
): Promise<{ id: string; name: string; bytes: number }> {
  const { bytes, mediaType } = sentFile(name, content);
  const digest = createHash('sha256').update(name).update('\0').update(bytes).digest('hex');
  const known = await fileByDigest(w.tx, digest);
  if (known) return { ...known, bytes: bytes.length };
  const id = w.app.ids.id();
  await addFile(w.tx, { id, name, mediaType, digest, broughtBy: w.actor.staffId, at: w.now }, bytes);
  await record(w, 'file kept', { fileId: id, name });
  return { id, name, bytes: bytes.length };
}
