import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import QRCode from 'qrcode';

/** What a camera sees that shows one code after the other, each for a while and nothing between: raw pictures, grey, of 640 by 480. */
function filmOf(codes: readonly string[], seconds: number): Buffer {
  const [width, height, rate] = [640, 480, 10];
  const colours = Buffer.alloc((width * height) / 2, 128);
  const picture = (code: string | null): Buffer => {
    const grey = Buffer.alloc(width * height, 235);
    if (code) {
      const { modules } = QRCode.create(code);
      const cell = Math.floor(360 / modules.size);
      for (let y = 0; y < modules.size * cell; y++)
        for (let x = 0; x < modules.size * cell; x++)
          if (modules.get(Math.floor(y / cell), Math.floor(x / cell))) grey[(y + 60) * width + x + 140] = 16;
    }
    return Buffer.concat([Buffer.from('FRAME\n'), grey, colours]);
  };
  const film = codes
    .flatMap((code) => [code, null])
    .flatMap((code) => Array<Buffer>(rate * seconds).fill(picture(code)));
  return Buffer.concat([
    Buffer.from(`YUV4MPEG2 W${width} H${height} F${rate}:1 Ip A1:1 C420mpeg2\n`),
    ...film,
  ]);
}

/** A camera that sees one code after the other, over and over: what Chromium has to be started with, and the way to tidy up after it. */
export function cameraThatSees(
  codes: readonly string[],
  /** How long each is seen, and nothing after it, in seconds. */
  seconds = 4,
): { args: string[]; remove: () => void } {
  const folder = mkdtempSync(join(tmpdir(), 'acolyte-camera-'));
  const film = join(folder, 'camera.y4m');
  writeFileSync(film, filmOf(codes, seconds));
  return {
    args: [
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${film}`,
    ],
    remove: () => rmSync(folder, { recursive: true }),
  };
}
