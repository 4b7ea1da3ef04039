/** Kinds of files people may be given, by how their names end, with the media type they are sent as. */
const kinds = {
  pdf: 'application/pdf',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  png: 'image/png',
  txt: 'text/plain',
  csv: 'text/csv',
  ics: 'text/calendar',
  gpx: 'application/gpx+xml',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pptx: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  odt: 'application/vnd.oasis.opendocument.text',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  odp: 'application/vnd.oasis.opendocument.presentation',
} as const;
type Kind = keyof typeof kinds;

/** The endings a file may have. */
export const fileEndings = Object.keys(kinds) as readonly Kind[];

const begins = (bytes: Uint8Array, ...magic: number[]): boolean =>
  magic.every((byte, at) => bytes[at] === byte);
const zipped: readonly Kind[] = ['docx', 'xlsx', 'pptx', 'odt', 'ods', 'odp'];

/** True for text without control characters; a script's first line says that it is one. */
function isText(bytes: Uint8Array): boolean {
  if (begins(bytes, 0x23, 0x21)) return false;
  if (bytes.some((b) => b < 9 || (b > 13 && b < 32))) return false;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/**
 * The media type of a file, by its name and what is in it; null for one that is no file of that kind, such as a program
 * under another name. Signatures: ISO 32000 for PDF, the PNG specification, JFIF, and the ZIP application note.
 */
export function mediaTypeOf(name: string, bytes: Uint8Array): string | null {
  const ending = /\.(\w{1,5})$/u.exec(name.toLowerCase())?.[1] as Kind | undefined;
  if (!ending || !(ending in kinds) || !bytes.length) return null;
  const is =
    ending === 'pdf'
      ? begins(bytes, 0x25, 0x50, 0x44, 0x46, 0x2d)
      : ending === 'png'
        ? begins(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)
        : ending === 'jpg' || ending === 'jpeg'
          ? begins(bytes, 0xff, 0xd8, 0xff)
          : zipped.includes(ending)
            ? begins(bytes, 0x50, 0x4b, 0x03, 0x04)
            : isText(bytes);
  return is ? kinds[ending] : null;
}
