import { createHmac, timingSafeEqual } from 'node:crypto';
import type { Request, Response } from 'express';
import { lasts } from '#core/access/duties.ts';
import { isAway } from '#core/staff/absence.ts';
import { hasPart, needsSecondStep } from '#core/staff/accounts.ts';
import { sayDevice, sessionLasts, sessionLimits } from '#core/staff/sessions.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { App, SignedIn } from '../app/app.ts';
import { insert, type Queries } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { cookieOf } from '../http/cookies.ts';
import { sessionsEnded } from '../http/stream.ts';
import { type SessionStaff, staffBySession } from './store.ts';

/** A name that only a secure origin can set, and no other host of the domain. */
const cookieName = (app: App): string =>
  app.origin.startsWith('https:') ? '__Host-acolyte_session' : 'acolyte_session';
const deviceName = (app: App): string =>
  app.origin.startsWith('https:') ? '__Host-acolyte_device' : 'acolyte_device';
const deviceDays = 180;
/** Seconds between writing down that a session was used. */
const seenEvery = 60;

const sessionHash = (app: App, request: Request): string | null => {
  const token = cookieOf(request, cookieName(app));
  return token ? sha256(token) : null;
};

/** Who sent a request, and as what session; null when nobody is signed in. */
export async function staffOf(app: App, request: Request): Promise<SignedIn | null> {
  const hash = sessionHash(app, request);
  if (!hash) return null;
  const found = await staffBySession(app.db, hash);
  if (!found) return null;
  const now = app.sessionClock.now();
  if (!sessionLasts(found, now)) return null;
  if (Date.parse(now) - Date.parse(found.seenAt) > seenEvery * 1000)
    await app.db.query('update sessions set seen_at = $2 where token_hash = $1', [hash, now]);
  const staff = signedIn(found, app.clock.now());
  // Somebody who only worked on an event is of the staff as long as that lasts.
  return hasPart(staff) ? staff : null;
}

const signedIn = (
  {
    createdAt: _,
    seenAt: __,
    secondStep,
    required,
    sessionId,
    duties,
    absences,
    zone,
    ...staff
  }: SessionStaff,
  now: string,
): SignedIn => ({
  ...staff,
  sessionId,
  duties: duties.filter((d) => lasts(d.part, d, now)),
  standsFor: absences
    .filter((a) => isAway(a, dateOf(now, zone ?? 'UTC')))
    .map(({ id, approves }) => ({ id, approves })),
  // Until the second step is set up, nothing else is to be had.
  enrolling: !secondStep && needsSecondStep(staff.roles, required),
});

/** Starts a session and sets its cookie: HttpOnly, SameSite=Lax, Secure where the product is reached by https. */
export async function startSession(app: App, tx: Queries, request: Request, staffId: string): Promise<void> {
  const response = request.res!;
  const token = Buffer.from(app.ids.bytes(32)).toString('base64url');
  const now = app.sessionClock.now();
  await insert(tx, 'sessions', {
    id: app.ids.unordered(),
    tokenHash: sha256(token),
    staffId,
    createdAt: now,
    seenAt: now,
    expiresAt: new Date(Date.parse(now) + sessionLimits.absoluteDays * 86_400_000).toISOString(),
    device: sayDevice(request.get('user-agent') ?? ''),
    address: request.ip ?? '',
  });
  const options = {
    httpOnly: true,
    sameSite: 'lax',
    secure: app.origin.startsWith('https:'),
    path: '/',
  } as const;
  response.cookie(cookieName(app), token, { ...options, maxAge: sessionLimits.absoluteDays * 86_400_000 });
  response.cookie(deviceName(app), deviceOf(app, staffId), { ...options, maxAge: deviceDays * 86_400_000 });
}

/** What a browser keeps that once signed in as somebody: tries from it are not slowed down by what strangers try. */
const deviceOf = (app: App, staffId: string): string =>
  createHmac('sha256', app.secret).update(`device:${staffId}`).digest('base64url');

export function isKnownDevice(app: App, request: Request, staffId: string): boolean {
  const has = Buffer.from(cookieOf(request, deviceName(app)) ?? '');
  const wants = Buffer.from(deviceOf(app, staffId));
  return has.length === wants.length && timingSafeEqual(has, wants);
}

export async function endSession(app: App, request: Request, response: Response): Promise<void> {
  const hash = sessionHash(app, request);
  if (hash) await app.db.query('delete from sessions where token_hash = $1', [hash]);
  response.clearCookie(cookieName(app), { path: '/' });
  app.announcer.announce(sessionsEnded);
}

/** Ends sessions of an account: all, all but one, or one. Their open streams end with them. Answers how many. */
export async function endSessions(
  w: { app: App; tx: Queries; afterwards: (run: () => void) => void },
  staffId: string,
  of: { except?: string | null; only?: string } = {},
): Promise<number> {
  const gone = await w.tx.query(
    `delete from sessions where staff_id = $1 and ($2::uuid is null or id <> $2) and ($3::uuid is null or id = $3) returning id`,
    [staffId, of.except ?? null, of.only ?? null],
  );
  lookAgain(w);
  return gone.length;
}

/** Has open pages look again who they are for, and what they may see. */
export function lookAgain(w: { app: App; afterwards: (run: () => void) => void }): void {
  w.afterwards(() => w.app.announcer.announce(sessionsEnded));
}
