import QRCode from 'qrcode';
import { sayPassCode } from '#core/doors/passCode.ts';

/** A code as a picture that is read from a screen. */
export const codeSvg = (text: string): Promise<string> =>
  QRCode.toString(text, { type: 'svg', margin: 1, errorCorrectionLevel: 'M' });

/** A pass as a page shows it: its code in letters, and as a picture. */
export const passShown = async (code: string): Promise<{ code: string; svg: string }> => ({
  code: sayPassCode(code),
  svg: await codeSvg(code),
});
