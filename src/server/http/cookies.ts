import type { Request } from 'express';

/** What a cookie of a request says; null without it. */
export function cookieOf(request: Request, wanted: string): string | null {
  for (const part of (request.headers.cookie ?? '').split(';')) {
    const at = part.indexOf('=');
    if (at > 0 && part.slice(0, at).trim() === wanted) return part.slice(at + 1).trim() || null;
  }
  return null;
}
