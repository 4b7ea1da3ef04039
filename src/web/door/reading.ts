import decoderAddress from './decoder.ts?worker&url';

/** The script that reads codes where the device cannot itself; the doors take it along. */
export { decoderAddress };

/** What this device reads codes with by itself, where it does. */
interface Detector {
  detect(picture: ImageBitmap): Promise<{ rawValue: string }[]>;
}
interface DetectorClass {
  new (options: { formats: string[] }): Detector;
  getSupportedFormats(): Promise<string[]>;
}

/** Reads the code in a picture, and lets go of the picture; null where there is none. */
export interface CodeReader {
  read(picture: ImageBitmap): Promise<string | null>;
  close(): void;
}

const format = 'qr_code';

async function ownReader(): Promise<CodeReader | null> {
  const Class = (globalThis as { BarcodeDetector?: DetectorClass }).BarcodeDetector;
  if (!Class || !(await Class.getSupportedFormats().catch((): string[] => [])).includes(format)) return null;
  const detector = new Class({ formats: [format] });
  return {
    async read(picture) {
      const found = await detector.detect(picture).finally(() => picture.close());
      return found[0]?.rawValue ?? null;
    },
    close: () => undefined,
  };
}

function workerReader(): CodeReader {
  const worker = new Worker(decoderAddress, { type: 'module' });
  return {
    read: (picture) =>
      new Promise((found, fail) => {
        worker.onmessage = ({ data }: MessageEvent<string | null>) => found(data);
        worker.onerror = () => fail(new Error('The decoder did not start.'));
        worker.postMessage(picture, [picture]);
      }),
    close: () => worker.terminate(),
  };
}

/** The reader of this device: its own, else ours, in a worker. Pictures are read one after the other. */
export const codeReader = async (): Promise<CodeReader> => (await ownReader()) ?? workerReader();

/** The longest side of a picture that is read, in pixels: as much as a code at arm's length needs. */
const side = 900;

/** A picture at a size that reads fast; null where there is none yet. */
export async function pictureOf(
  source: HTMLVideoElement | Blob,
  [width, height]: readonly [number, number],
): Promise<ImageBitmap | null> {
  if (!width || !height) return null;
  const scale = Math.min(1, side / Math.max(width, height));
  return createImageBitmap(source, {
    resizeWidth: Math.round(width * scale),
    resizeHeight: Math.round(height * scale),
  });
}
