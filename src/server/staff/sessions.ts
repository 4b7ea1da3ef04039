import type { Request, Response } from 'express';
import { insert, type Queries } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import type { App, SignedIn } from '../http/app.ts';
import { staffBySession } from './store.ts';

const cookieName = 'acolyte_session';
const days = 30;

function tokenOf(request: Request): string | null {
  const cookie = request.headers.cookie ?? '';
  for (const part of cookie.split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === cookieName && value) return value;
  }
  return null;
}

/** Who sent a request; null when nobody is signed in. */
export async function staffOf(app: App, request: Request): Promise<SignedIn | null> {
  const token = tokenOf(request);
  return token ? staffBySession(app.db, sha256(token), app.sessionClock.now()) : null;
}

/** Starts a session and sets its cookie: HttpOnly, SameSite=Lax, Secure where the product is reached by https. */
export async function startSession(
  app: App,
  tx: Queries,
  response: Response,
  staffId: string,
): Promise<void> {
  const token = Buffer.from(app.ids.bytes(24)).toString('base64url');
  const now = app.sessionClock.now();
  const expiresAt = new Date(Date.parse(now) + days * 86_400_000).toISOString();
  await insert(tx, 'sessions', { tokenHash: sha256(token), staffId, createdAt: now, expiresAt });
  response.cookie(cookieName, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: app.origin.startsWith('https:'),
    path: '/',
    maxAge: days * 86_400_000,
  });
}

export async function endSession(app: App, request: Request, response: Response): Promise<void> {
  const token = tokenOf(request);
  if (token) await app.db.query('delete from sessions where token_hash = $1', [sha256(token)]);
  response.clearCookie(cookieName, { path: '/' });
}
