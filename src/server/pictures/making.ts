import { fileTypeFromBuffer } from 'file-type';
import type { Sharp } from 'sharp';
import { cutAround, focusIn, type Shape, widthsOf } from '#core/pictures/picture.ts';
import { invalid } from '../http/problem.ts';
import { loadSharp } from './sharp.ts';

/** Bytes a picture may have, and pixels: a small file can hold a picture that fills the memory of whoever looks at it. */
const limits = { bytes: 20_000_000, pixels: 50_000_000, side: 16_000 } as const;
const kept = ['image/jpeg', 'image/png', 'image/webp', 'image/gif', 'image/avif', 'image/tiff'];

/** What takes longer is not a picture of a camera. */
const mostSeconds = 20;

let last: Promise<unknown> = Promise.resolve();
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const next = last.then(work, work);
  last = next.catch(() => {});
  return next;
}

/** A picture in the sizes it is kept in. */
export interface MadePicture {
  width: number;
  height: number;
  focus: { x: number; y: number };
  sizes: { width: number; kind: 'webp' | 'jpg'; content: Buffer }[];
}

/** A picture as it is read, upright. */
interface Upright {
  width: number;
  height: number;
  /** Reads it from its bytes, lying as the camera kept it. */
  read(): Sharp;
}

/**
 * Reads a picture and makes something of it. Throws what is wrong with the file beside `content`: not a picture, too large, broken.
 */
async function fromPicture<T>(bytes: Buffer, make: (picture: Upright) => Promise<T>): Promise<T> {
  if (bytes.length > limits.bytes) throw invalid([{ path: 'content', code: 'file-over-20' }]);
  const type = (await fileTypeFromBuffer(bytes).catch(() => undefined))?.mime;
  if (!type || !kept.includes(type)) throw invalid([{ path: 'content', code: 'no-picture-kind' }]);
  return inTurn(async () => {
    const sharp = await loadSharp();
    try {
      const read = () => sharp(bytes, { limitInputPixels: false, failOn: 'error', pages: 1 });
      const { width: wide = 0, height: high = 0, orientation = 1 } = await read().metadata();
      if (wide * high > limits.pixels || Math.max(wide, high) > limits.side)
        throw invalid([{ path: 'content', code: 'too-many-pixels', params: { megapixels: 50 } }]);
      // Cameras keep pictures lying on their side and write beside them how to turn them.
      const upright = orientation >= 5 ? { width: high, height: wide } : { width: wide, height: high };
      return await make({ ...upright, read });
    } catch (error) {
      if (error instanceof Error && error.constructor === Error)
        throw invalid([{ path: 'content', code: 'picture-broken' }]);
      throw error;
    }
  });
}

/**
 * Cuts a picture and makes its sizes. What the camera wrote into it (place, time, owner) is left out; of a moving picture
 * the first is taken. Throws what is wrong with the file beside `content`.
 */
export const makePicture = (
  bytes: Buffer,
  shape: Shape,
  focus: { x: number; y: number },
): Promise<MadePicture> =>
  fromPicture(bytes, async ({ read, ...upright }) => {
    const sharp = await loadSharp();
    const cut = cutAround(upright, shape, focus);
    const sizes: MadePicture['sizes'] = [];
    const widths = widthsOf(cut.width);
    const whole = await read()
      .rotate()
      .extract(cut)
      .resize({ width: widths.at(-1)! })
      .flatten({ background: '#ffffff' })
      .png({ compressionLevel: 1 })
      .timeout({ seconds: mostSeconds })
      .toBuffer();
    for (const width of widths) {
      const smaller = () => sharp(whole).resize({ width });
      sizes.push(
        { width, kind: 'webp', content: await smaller().webp({ quality: 78 }).toBuffer() },
        { width, kind: 'jpg', content: await smaller().jpeg({ quality: 80, mozjpeg: true }).toBuffer() },
      );
    }
    const width = widths.at(-1)!;
    return {
      width,
      height: Math.max(1, Math.round((cut.height * width) / cut.width)),
      focus: focusIn(cut, upright, focus),
      sizes,
    };
  });

/** Pixels that the longer side of somebody's photo has at most. */
const photoSide = 800;

/** Makes a photo of a person from a picture, as JPEG: smaller, upright, and without what the camera wrote into it. */
export const makePhoto = (bytes: Buffer): Promise<Buffer> =>
  fromPicture(bytes, ({ read }) =>
    read()
      .rotate()
      .resize({ width: photoSide, height: photoSide, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 82, mozjpeg: true })
      .timeout({ seconds: mostSeconds })
      .toBuffer(),
  );
