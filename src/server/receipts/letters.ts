import { linkMark } from '#core/messages/links.ts';
import { sayAmount } from '#core/money/amount.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Work } from '../app/app.ts';
import { planDirect } from '../messages/direct.ts';
import { theOrganization } from '../staff/store.ts';
import { type readGivers, readReceipt, readSettings } from './store.ts';

/** Sends somebody the link to their receipt, with thanks in the organization’s own words. */
export async function tellReceipt(
  w: Work,
  receiptId: string,
  giver: Awaited<ReturnType<typeof readGivers>>[number],
): Promise<void> {
  const receipt = (await readReceipt(w.tx, receiptId))!;
  const { name: organization } = await theOrganization(w.tx);
  const { thanks } = await readSettings(w.tx);
  const words = readTexts(thanks, giver.language);
  await planDirect(w, {
    kind: 'receipt',
    key: `receipt:${receiptId}`,
    to: { name: giver.name, email: giver.email, contactId: giver.id, language: giver.language },
    eventId: null,
    reason: 'a receipt was written',
    values: {
      name: giver.name.split(' ')[0] ?? '',
      organization,
      manage_link: linkMark('receipt', receiptId),
    },
    own: {
      number: receipt.number,
      amount: sayAmount(receipt.content.eligible, receipt.content.currency, giver.language),
      words: words ? `${words}\n\n` : '',
    },
  });
}
