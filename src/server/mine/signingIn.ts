import { createHmac, timingSafeEqual } from 'node:crypto';
import type { Request } from 'express';
import { codeLimits, readCode, sayCode } from '#core/contacts/codes.ts';
import { fullName } from '#core/contacts/names.ts';
import { emailKey, isEmail } from '#core/contacts/reach.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { type Actor, type App, inTransaction, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { beginVisit } from '../contacts/visitor.ts';
import { codeFor, linkToken, sha256 } from '../db/ids.ts';
import { invalid, refused } from '../http/problem.ts';
import * as store from './store.ts';

/**
 * Sends a code and a link to an address, where it is on record. What is answered tells nothing: a ticket that the browser keeps,
 * with which the code works there and nowhere else.
 */
export async function askForCode(
  w: Work,
  email: string,
  language: 'en' | 'fr',
): Promise<{ ticket: string; demoCode: string | null }> {
  if (!isEmail(email)) throw invalid([{ path: 'email', code: 'not-an-email' }]);
  const { tx, app } = w;
  const at = app.sessionClock.now();
  const id = app.ids.unordered();
  const ticket = Buffer.from(app.ids.bytes(24)).toString('base64url');
  const key = emailKey(email);
  await store.forgetCodes(tx, plusMinutes(at, -codeLimits.minutes));
  const lately = await store.countCodes(tx, key, plusMinutes(at, -codeLimits.minutes));
  // Kept for everybody, so that the same is done whether or not an address is known.
  await store.keepCode(tx, {
    id,
    emailKey: key,
    ticketHash: sha256(ticket),
    linkHash: sha256(linkToken(app.secret, 'sign in', id)),
    createdAt: at,
    expiresAt: plusMinutes(at, codeLimits.minutes),
  });
  const sent = lately < codeLimits.sent && (await store.peopleAt(tx, key)).length > 0;
  if (sent) await record(w, 'code asked', { codeId: id, email, language });
  // The demonstration's mail goes nowhere: its code is told where it was asked for.
  return { ticket, demoCode: app.movable && sent ? sayCode(codeFor(app.secret, id)) : null };
}

const same = (a: string, b: string): boolean => {
  const digest = (text: string) => createHmac('sha256', 'compare').update(text).digest();
  return timingSafeEqual(digest(a), digest(b));
};

interface Entered {
  signedIn: boolean;
  choose: { id: string; name: string }[];
}

/** Signs in whoever has an address; where several people do, one of them is chosen first, and the code stays good. */
async function enter(
  w: Work,
  request: Request,
  code: store.CodeRow,
  contactId: string | null,
): Promise<Entered> {
  const people = await store.peopleAt(w.tx, code.emailKey);
  const chosen = people.length === 1 && !contactId ? people[0] : people.find((p) => p.id === contactId);
  if (!chosen)
    return {
      signedIn: false,
      choose: people.map((p) => ({ id: p.id, name: fullName({ given: p.givenName, family: p.familyName }) })),
    };
  await store.spendCode(w.tx, code.id, w.app.sessionClock.now());
  await beginVisit(w.app, w.tx, request, chosen.id);
  return { signedIn: true, choose: [] };
}

/**
 * Signs in by a code, in the browser that asked for it. A wrong one counts, whatever else is done with the request; after five the
 * code works no more.
 */
export async function enterByCode(
  app: App,
  actor: Actor,
  request: Request,
  body: { ticket: string; code: string; contactId: string | null },
): Promise<Entered> {
  const at = app.sessionClock.now();
  const right = await inTransaction(app, actor, async (w) => {
    const code = await store.codeByTicket(w.tx, sha256(body.ticket), at);
    if (!code || code.tries >= codeLimits.tries) return false;
    if (same(readCode(body.code), codeFor(app.secret, code.id))) return true;
    await store.countTry(w.tx, code.id);
    return false;
  });
  if (!right) throw invalid([{ path: 'code', code: 'sign-in-code-wrong' }]);
  return inTransaction(app, actor, async (w) => {
    // Of two that come at once with the same code one is too late.
    const code = await store.codeByTicket(w.tx, sha256(body.ticket), at);
    if (!code) throw invalid([{ path: 'code', code: 'sign-in-code-wrong' }]);
    return enter(w, request, code, body.contactId);
  });
}

/** Signs in by the link of the message. */
export async function enterByLink(
  w: Work,
  request: Request,
  body: { token: string; contactId: string | null },
): Promise<Entered> {
  const at = w.app.sessionClock.now();
  const code = await store.codeByLink(w.tx, sha256(body.token), at);
  if (!code) throw refused('link-over', {}, 404);
  return enter(w, request, code, body.contactId);
}
