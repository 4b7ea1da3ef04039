import type { Reactions, Work } from '../app/app.ts';
import { linkPerson } from '../contacts/linking.ts';
import { tellOfTribute, thank } from './letters.ts';
import { instalmentCame, instalmentDeclined } from './pledges.ts';
import { type GiverRow, readGiver, saveGiver } from './store.ts';

/** Whoever gave becomes a contact, or is known as one; what a stranger says of somebody we know changes nothing of their record. */
async function linkGiver(w: Work, gift: GiverRow): Promise<void> {
  const { given, family, email, phone, language, street, postalCode } = gift;
  const contactId =
    gift.contactId ??
    (
      await linkPerson(
        w,
        {
          given,
          family,
          email,
          phone,
          language,
          ...(street ? { street } : {}),
          ...(postalCode ? { postalCode } : {}),
        },
        'gave',
        gift.channel === 'staff' ? 'staff' : 'outside',
      )
    ).contactId;
  await saveGiver(w.tx, gift.id, contactId);
}

export const givingReactions: Reactions = {
  async 'gift received'(w, { giftId }) {
    const gift = await readGiver(w.tx, giftId);
    await linkGiver(w, gift);
    if (gift.pledgeId) await instalmentCame(w, gift);
    await thank(w, giftId);
    await tellOfTribute(w, giftId);
  },
  async 'gift declined'(w, { giftId }) {
    const gift = await readGiver(w.tx, giftId);
    if (gift.pledgeId) await instalmentDeclined(w, gift);
  },
};
