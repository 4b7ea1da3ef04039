import { fullName } from '#core/contacts/names.ts';
import { sayTribute } from '#core/giving/gift.ts';
import { linkMark } from '#core/messages/links.ts';
import type { DirectKind } from '#core/messages/texts.ts';
import { sayAmount } from '#core/money/amount.ts';
import { sayLongDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Work } from '../app/app.ts';
import { planDirect } from '../messages/direct.ts';
import { theOrganization } from '../staff/store.ts';
import { type GiverRow, type Pledge, readGiver } from './store.ts';

const paragraph = (words: string | null | undefined): string => (words ? `${words}\n\n` : '');

/** Thanks for a gift, in the words of the page it was given on; the link leads to it. */
export async function thank(w: Work, giftId: string): Promise<void> {
  const gift = await readGiver(w.tx, giftId);
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: gift.kind === 'in kind' ? 'thanks in kind' : 'thanks',
    key: `thanks:${giftId}`,
    to: { ...toOf(gift), contactId: gift.contactId },
    eventId: null,
    reason: 'gave',
    values: { name: gift.given || gift.family, organization, manage_link: linkMark('gift', giftId) },
    own: {
      amount: sayAmount(gift.amount, gift.currency, gift.language),
      fund: gift.fund,
      thing: gift.thing,
      tribute: paragraph(sayTribute(gift, gift.language)),
      words: paragraph(gift.thanks ? readTexts(gift.thanks, gift.language) : ''),
    },
  });
}

/** Tells whoever a giver named that somebody is remembered by a gift; nothing of its amount. */
export async function tellOfTribute(w: Work, giftId: string): Promise<void> {
  const gift = await readGiver(w.tx, giftId);
  if (!gift.tribute || !gift.tellEmail) return;
  const { name: organization } = await theOrganization(w.tx);
  await planDirect(w, {
    kind: 'tribute',
    key: `tribute:${giftId}`,
    to: {
      name: gift.tellName || gift.tellEmail,
      email: gift.tellEmail,
      contactId: null,
      language: gift.language,
    },
    eventId: null,
    reason: 'named with a gift',
    values: { name: gift.tellName, organization },
    own: {
      by: fullName(gift),
      tribute: sayTribute(gift, gift.language) ?? '',
      fund: gift.fund,
    },
  });
}

const toOf = (who: Pick<GiverRow, 'given' | 'family' | 'email' | 'language'>) => ({
  name: fullName(who),
  email: who.email,
  language: who.language,
});

/** Writes to whoever gives every month: an instalment did not come, their card runs out, it has ended. */
export async function tellPledge(
  w: Work,
  pledge: Pledge,
  kind: Extract<DirectKind, 'instalment missed' | 'card runs out' | 'pledge began' | 'pledge ended'>,
  key: string,
  own: { again?: string | null; next?: string | null } = {},
): Promise<void> {
  const { name: organization } = await theOrganization(w.tx);
  const { language } = pledge;
  const day = (date: string) => sayLongDate(`${date}T00:00`, language);
  const again = own.again
    ? language === 'fr'
      ? `Nous réessaierons le ${day(own.again)}.`
      : `We try again on ${day(own.again)}.`
    : language === 'fr'
      ? 'Nous n’essaierons plus avec cette carte.'
      : 'We do not try this card again.';
  await planDirect(w, {
    kind,
    key: `${kind}:${pledge.id}:${key}`,
    to: { ...toOf(pledge), contactId: pledge.contactId },
    eventId: null,
    reason: 'gives every month',
    values: {
      name: pledge.given || pledge.family,
      organization,
      manage_link: linkMark('pledge', pledge.id),
    },
    own: {
      amount: sayAmount(pledge.amount, pledge.currency, language),
      again,
      next: own.next ? day(own.next) : '',
      card: pledge.cardEnding,
    },
  });
}
