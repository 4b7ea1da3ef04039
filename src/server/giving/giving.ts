import type { GiftBody, PublicGift } from '#contract/giving.ts';
import { isEmail, readPhone } from '#core/contacts/reach.ts';
import { sayTribute } from '#core/giving/gift.ts';
import { dayOf, readExpiry } from '#core/giving/pledge.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import { readTexts } from '#core/words/texts.ts';
import { type Actor, type App, inTransaction, openLink, type Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { invalid, notFound, Problem, refused } from '../http/problem.ts';
import { chargeFor, closeStep, type PayOutcome } from '../money/charging.ts';
import { readGift, receiveGift } from '../money/gifts.ts';
import { theOrganization } from '../staff/store.ts';
import { isOpen } from './pages.ts';
import { readGiftShown, readPage, readPageById, readPledge } from './store.ts';

type Gift = Required<GiftBody>;

/** A gift as it is begun on a page; it is one once it is paid. A monthly one begins a pledge, and is its first instalment. */
export async function beginGift(
  w: Work,
  slug: string,
  body: Gift,
): Promise<{ token: string; number: number }> {
  const { tx, app, now } = w;
  const page = await readPage(tx, slug);
  if (!page) throw notFound('This page');
  const { zone, country } = await theOrganization(tx);
  const today = dateOf(now, zone);
  if (!isOpen(page, today)) throw refused('giving-closed');
  const { giver, tribute } = body;
  const phone = giver.phone ? readPhone(giver.phone, country) : null;
  const wrong = [
    ...(isEmail(giver.email) ? [] : [wrongAt('giver.email', 'not-an-email')]),
    ...(giver.phone && !phone ? [wrongAt('giver.phone', 'not-a-telephone')] : []),
    ...(tribute?.tellEmail && !isEmail(tribute.tellEmail)
      ? [wrongAt('tribute.tellEmail', 'not-an-email')]
      : []),
    ...(body.monthly && !page.monthly ? [wrongAt('monthly', 'not-monthly')] : []),
  ];
  if (wrong.length) throw invalid(wrong);
  const who = { given: giver.given, family: giver.family, email: giver.email, language: body.language };
  const what = {
    pageId: page.id,
    fundId: page.fundId,
    initiativeId: page.initiativeId,
    anonymous: body.anonymous,
    amount: body.amount,
    currency: page.currency,
  };
  const pledgeId = body.monthly ? app.ids.id() : null;
  if (pledgeId)
    await insert(tx, 'pledges', {
      id: pledgeId,
      ...who,
      ...what,
      day: dayOf(today),
      state: 'begun',
      instalment: today,
      beganAt: now,
    });
  const id = app.ids.id();
  const [row] = await tx.query<{ number: number }>("select nextval('gift_number')::int as number");
  await insert(tx, 'gifts', {
    id,
    number: row!.number,
    ...who,
    ...what,
    eventId: page.eventId,
    pledgeId,
    instalment: pledgeId ? today : null,
    phone,
    street: giver.street,
    town: giver.town,
    postalCode: giver.postalCode,
    country: giver.country,
    kind: 'money',
    ...tributeRow(tribute),
    words: body.words,
    state: 'open',
    channel: 'page',
    placedAt: now,
  });
  return { token: await openLink(w, 'gift', id, 'new'), number: row!.number };
}

/** How a tribute is kept with a gift. */
export const tributeRow = (tribute: Gift['tribute']) => ({
  tribute: tribute?.kind ?? null,
  tributeTo: tribute?.to ?? '',
  tellName: tribute?.tellName ?? '',
  tellEmail: tribute?.tellEmail || null,
});

/** A gift as whoever gives it sees it. */
export async function showGift(tx: Queries, id: string): Promise<PublicGift> {
  const gift = await readGiftShown(tx, id);
  if (!gift) throw notFound('This gift');
  const { language, pageSlug, pageTitle, thanks, attempt, received, pledgeId, tributeTo, ...shown } = gift;
  return {
    ...shown,
    page: pageSlug && pageTitle ? { slug: pageSlug, title: readTexts(pageTitle, language) } : null,
    tribute: sayTribute({ tribute: gift.tribute, tributeTo }, language),
    payment:
      gift.state === 'lapsed' || gift.state === 'returned'
        ? 'over'
        : received > 0
          ? 'paid'
          : attempt === 'asked' || attempt === 'unknown'
            ? 'unknown'
            : attempt === 'step' || attempt === 'declined'
              ? attempt
              : 'needed',
    thanks: thanks ? readTexts(thanks, language) : '',
    monthly: pledgeId !== null,
  };
}

/** What is due of a gift that is paid now. */
const dueOf = (giftId: string) => async (w: Work) => {
  const gift = await readGift(w.tx, giftId, true);
  if (gift.state !== 'open') throw refused('nothing-due');
  return { amount: gift.amount, currency: gift.currency };
};

/** Pays a gift by card. Of a monthly one the card is kept at the processor first. */
export async function payGift(
  app: App,
  actor: Actor,
  giftId: string,
  { card, expiry }: { card: string; expiry: string },
): Promise<PayOutcome> {
  const gift = await readGift(app.db, giftId);
  if (!gift.pledgeId) return chargeFor(app, actor, { giftId }, { card }, dueOf(giftId));
  const open = await first<{ state: string }>(
    app.db,
    `select state from payment_attempts where gift_id = $1 and state in ${among(openAttempts)}`,
    [giftId],
  );
  if (open && open.state !== 'step') throw refused('payment-unknown');
  const token = await keepCard(app, gift.pledgeId, card, expiry);
  return chargeFor(app, actor, { giftId }, { token }, dueOf(giftId));
}

/** Has the processor keep a card for a monthly gift. Throws where it does not take it, or does not answer. */
export async function keepCard(app: App, pledgeId: string, card: string, expiry: string): Promise<string> {
  const kept = await app.cards.keep(card, readExpiry(expiry)!);
  if (!kept) throw refused('processor-silent', {}, 503);
  if ('words' in kept) throw invalid([wrongAt('card', 'card-not-kept')]);
  await app.db.query(
    'update pledges set card_token = $2, card_ending = $3, card_expires = $4, told_expiry = null where id = $1',
    [pledgeId, kept.token, kept.ending, kept.expires],
  );
  return kept.token;
}

/** Charges the instalment of a monthly gift that is due. What comes of it follows from the answer. */
export async function chargeInstalment(app: App, actor: Actor, pledgeId: string): Promise<void> {
  const due = await inTransaction(app, actor, async (w) => {
    const pledge = await readPledge(w.tx, pledgeId, true);
    if (!pledge?.nextAt || pledge.nextAt > w.now) return null;
    if (pledge.state !== 'running' || !pledge.instalment || !pledge.cardToken) {
      await update(w.tx, 'pledges', pledgeId, { nextAt: null });
      return null;
    }
    // Should this be cut short, it is looked at again.
    await update(w.tx, 'pledges', pledgeId, { nextAt: plusMinutes(w.now, 60) });
    const known = await first<{ id: string; state: string }>(
      w.tx,
      'select id, state from gifts where pledge_id = $1 and instalment = $2',
      [pledgeId, pledge.instalment],
    );
    const giftId = known?.id ?? (await beginInstalment(w, pledgeId));
    return { giftId, token: pledge.cardToken };
  });
  if (!due) return;
  const { giftId, token } = due;
  try {
    const { outcome } = await chargeFor(app, actor, { giftId }, { token }, dueOf(giftId));
    // Nobody is there to give a code: it is closed, and declined.
    if (outcome === 'step') await closeStep(app, { giftId });
  } catch (error) {
    // An answer is still to come, or nothing is due any more: looked at again within the hour.
    if (!(error instanceof Problem)) throw error;
  }
}

/** The instalment of a monthly gift as a gift of its own. */
async function beginInstalment(w: Work, pledgeId: string): Promise<string> {
  const pledge = (await readPledge(w.tx, pledgeId))!;
  const page = pledge.pageId ? await readPageById(w.tx, pledge.pageId) : null;
  const { given, family, email, language, fundId, initiativeId, anonymous, amount, currency, contactId } =
    pledge;
  const id = w.app.ids.id();
  await insert(w.tx, 'gifts', {
    id,
    pageId: pledge.pageId,
    eventId: page?.eventId ?? null,
    pledgeId,
    instalment: pledge.instalment,
    contactId,
    given,
    family,
    email,
    language,
    fundId,
    initiativeId,
    anonymous,
    amount,
    currency,
    kind: 'money',
    state: 'open',
    channel: 'pledge',
    placedAt: w.now,
  });
  return id;
}

/** A gift that came by hand or in kind, as staff record it; it is given with that. */
export async function recordGift(
  w: Work,
  gift: {
    who: { given: string; family: string; email: string | null; language: 'en' | 'fr' };
    contactId: string | null;
    row: object;
    amount: number;
    method: 'cash' | 'cheque' | 'transfer' | 'in kind';
    reference: string;
    by: string;
  },
): Promise<{ id: string; number: number }> {
  const id = w.app.ids.id();
  const [row] = await w.tx.query<{ number: number }>("select nextval('gift_number')::int as number");
  await insert(w.tx, 'gifts', {
    id,
    number: row!.number,
    ...gift.who,
    contactId: gift.contactId,
    ...gift.row,
    amount: gift.amount,
    state: 'open',
    channel: 'staff',
    takenBy: gift.by,
    placedAt: w.now,
  });
  await receiveGift(w, id, {
    amount: gift.amount,
    method: gift.method,
    reason: gift.reference || `${gift.method}, recorded by ${gift.by}`,
  });
  return { id, number: row!.number };
}
