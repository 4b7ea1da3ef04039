import { passHashLength, readPassCode } from '#core/doors/passCode.ts';

/** By what a pass that was scanned is known again on the list; null for what is no pass. */
export async function passHash(scanned: string): Promise<string | null> {
  const code = readPassCode(scanned);
  if (!code || !('subtle' in crypto)) return null;
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(code));
  return [...new Uint8Array(digest)]
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join('')
    .slice(0, passHashLength);
}
