// Reads codes beside the page, so that the picture of the camera never stands still while one is looked for.
import jsQR from 'jsqr';

/** As much of a worker as is used here. */
interface Scope {
  addEventListener(kind: 'message', does: (event: { data: ImageBitmap }) => void): void;
  postMessage(answer: string | null): void;
}
const scope = self as unknown as Scope;

const canvas = new OffscreenCanvas(1, 1);
const context = canvas.getContext('2d', { willReadFrequently: true })!;

scope.addEventListener('message', ({ data: picture }) => {
  canvas.width = picture.width;
  canvas.height = picture.height;
  context.drawImage(picture, 0, 0);
  picture.close();
  const { data, width, height } = context.getImageData(0, 0, canvas.width, canvas.height);
  scope.postMessage(jsQR(data, width, height)?.data ?? null);
});
