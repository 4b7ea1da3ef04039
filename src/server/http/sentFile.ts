import { mediaTypeOf } from '#core/files/kinds.ts';
import { wrongAt } from '#core/words/problems.ts';
import { invalid } from './problem.ts';

/** Bytes a file may have that somebody brings in. */
const mostBytes = 4_000_000;

/** A file as it was sent, in base64, with what it is by its name and content. Refuses what is not what its name says, as a program. */
export function sentFile(name: string, content: string): { bytes: Buffer; mediaType: string } {
  const bytes = Buffer.from(content, 'base64');
  if (bytes.length > mostBytes) throw invalid([wrongAt('content', 'file-over-4')]);
  const mediaType = mediaTypeOf(name, bytes);
  if (!mediaType) throw invalid([wrongAt('content', 'no-such-file-kind')]);
  return { bytes, mediaType };
}
