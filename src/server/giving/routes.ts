import type { givingContract } from '#contract/giving.ts';
import { isEmail, writableEmail } from '#core/contacts/reach.ts';
import { wrongAt } from '#core/words/problems.ts';
import { followLink, inTransaction } from '../app/app.ts';
import { record } from '../app/record.ts';
import { readContact } from '../contacts/store.ts';
import type { Queries } from '../db/database.ts';
import { addToRegister, renameInRegister } from '../events/registers.ts';
import { readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { languageOf } from '../http/language.ts';
import { invalid, notFound } from '../http/problem.ts';
import { demandBooks } from '../money/access.ts';
import { confirmPayment } from '../money/charging.ts';
import { readGift, returnGift } from '../money/gifts.ts';
import { theOrganization } from '../staff/store.ts';
import { beginGift, keepCard, payGift, recordGift, showGift, tributeRow } from './giving.ts';
import { changePage, makePage, showPage } from './pages.ts';
import { cardGiven, changePledge } from './pledges.ts';
import {
  hideGift,
  readFundName,
  readGifts,
  readGivingChoices,
  readInstalments,
  readPages,
  readPledge,
  readPledges,
} from './store.ts';

const page = 500;

async function byLink(tx: Queries, kind: 'gift' | 'pledge', token: string): Promise<string> {
  const id = await followLink(tx, kind, token);
  if (!id) throw notFound('This gift');
  return id;
}

export const givingHandlers: Handlers<typeof givingContract> = {
  'GET /api/public/giving/:slug': ({ tx, params, request, now }) =>
    showPage(tx, params.slug, languageOf(request), now),

  'POST /api/public/giving/:slug/gifts': (c) => beginGift(c, c.params.slug, c.body),

  'GET /api/public/gifts/:token': async ({ tx, params }) =>
    showGift(tx, await byLink(tx, 'gift', params.token)),

  'POST /api/public/gifts/:token/pay': async ({ app, actor, params, body }) => {
    const outcome = await payGift(app, actor, await byLink(app.db, 'gift', params.token), body);
    app.wake();
    return outcome;
  },

  'POST /api/public/gifts/:token/pay/code': async ({ app, actor, params, body }) => {
    const giftId = await byLink(app.db, 'gift', params.token);
    const outcome = await confirmPayment(app, actor, { giftId }, body.code);
    app.wake();
    return outcome;
  },

  'GET /api/public/pledges/:token': async ({ tx, params }) => {
    const id = await byLink(tx, 'pledge', params.token);
    const {
      number,
      given,
      amount,
      currency,
      state,
      day,
      nextAt,
      instalment,
      cardEnding,
      cardExpires,
      fundId,
    } = (await readPledge(tx, id))!;
    return {
      number,
      given,
      amount,
      currency,
      fund: await readFundName(tx, fundId),
      state,
      day,
      next: nextAt ? instalment : null,
      cardEnding,
      cardExpires,
      gifts: await readInstalments(tx, id),
    };
  },

  'POST /api/public/pledges/:token': async (c) => {
    await changePledge(c, await byLink(c.tx, 'pledge', c.params.token), c.body);
    return { done: true };
  },

  'POST /api/public/pledges/:token/card': async ({ app, actor, params, body }) => {
    const id = await byLink(app.db, 'pledge', params.token);
    await keepCard(app, id, body.card, body.expiry);
    await inTransaction(app, actor, (w) => cardGiven(w, id));
    app.wake();
    return { done: true };
  },

  'GET /api/giving': async (c) => {
    await demandBooks(c);
    return { pages: await readPages(c.tx), pledges: await readPledges(c.tx) };
  },

  'GET /api/giving/choices': async (c) => {
    await demandBooks(c);
    return readGivingChoices(c.tx);
  },

  'POST /api/giving/pages': async (c) => {
    await demandBooks(c);
    return makePage(c, c.body);
  },

  'PUT /api/giving/pages/:id': async (c) => {
    await demandBooks(c);
    return changePage(c, c.params.id, c.body);
  },

  'POST /api/initiatives': async (c) => {
    await demandBooks(c);
    return addToRegister(c, 'initiatives', c.body);
  },

  'PATCH /api/initiatives/:id': async (c) => {
    await demandBooks(c);
    await renameInRegister(c, 'initiatives', { ...c.params, ...c.body });
    return { done: true };
  },

  'GET /api/gifts': async (c) => {
    await demandBooks(c);
    const rows = await readGifts(c.tx, c.query, page + 1);
    return { rows: rows.slice(0, page), more: rows.length > page };
  },

  'POST /api/gifts': async (c) => {
    await demandBooks(c);
    const { contactId, person, kind, method, amount, reference, tribute, pageId, eventId, ...of } = c.body;
    const contact = contactId ? await readContact(c.tx, contactId) : null;
    const inKind = kind === 'in kind';
    const wrong = [
      ...(contact || person ? [] : [wrongAt('person', 'giver-needed')]),
      ...(!contact && person?.email && !isEmail(person.email)
        ? [wrongAt('person.email', 'not-an-email')]
        : []),
      ...(inKind && !of.thing ? [wrongAt('thing', 'thing-needed')] : []),
      ...(of.advantage > 0 && !of.advantageWhat ? [wrongAt('advantageWhat', 'advantage-what')] : []),
    ];
    if (wrong.length) throw invalid(wrong);
    const { currency } = eventId
      ? { currency: (await readEvent(c.tx, eventId)).paidIn }
      : await theOrganization(c.tx);
    const language = contact?.language === 'fr' ? 'fr' : 'en';
    const who = contact
      ? {
          given: contact.givenName,
          family: contact.familyName,
          email: writableEmail(contact),
          language: language as 'en' | 'fr',
        }
      : {
          given: person!.given,
          family: person!.family,
          email: person!.email || null,
          language: 'en' as const,
        };
    return recordGift(c, {
      who,
      contactId: contact?.id ?? null,
      row: { ...of, kind, pageId, eventId, currency, ...tributeRow(tribute) },
      amount,
      method: inKind ? 'in kind' : method,
      reference,
      by: c.staff.name,
    });
  },

  'PUT /api/gifts/:id/hidden': async (c) => {
    await demandBooks(c);
    await readGift(c.tx, c.params.id, true);
    await hideGift(c.tx, c.params.id, c.body.hidden);
    await record(c, 'gift hidden', { giftId: c.params.id, hidden: c.body.hidden });
    return { done: true };
  },

  'POST /api/gifts/:id/refunds': async (c) => {
    await demandBooks(c);
    await returnGift(c, c.params.id, c.body.amount, c.body.reason, c.body.by);
    return { done: true };
  },
};
