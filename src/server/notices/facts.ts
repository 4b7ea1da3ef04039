import { fullName } from '#core/contacts/names.ts';
import { sayShift } from '#core/crew/said.ts';
import type { Reactions, Work } from '../app/app.ts';
import { readContact } from '../contacts/store.ts';
import { theCall } from '../crew/applyingStore.ts';
import { readShift } from '../crew/store.ts';
import { readGiver } from '../giving/store.ts';
import { readOrder, readSeat } from '../registration/store.ts';
import { notice } from './commands.ts';

async function ofOrder(
  w: Work,
  what: 'registration' | 'request' | 'seats given up',
  of: { eventId: string; orderId: string },
  seats: number | null = null,
): Promise<undefined> {
  await notice(w, what, of.eventId, async () => {
    const order = await readOrder(w.tx, of.orderId);
    return {
      who: fullName({ given: order.buyerGiven, family: order.buyerFamily }),
      contactId: order.buyerContactId,
      count: seats ?? order.seats,
    };
  });
  return undefined;
}

const ofShift =
  (what: 'shift taken' | 'shift given back' | 'swap wished') =>
  async (
    w: Work,
    about: { eventId: string; shiftId: string; contactId: string; words?: string },
  ): Promise<undefined> => {
    await notice(w, what, about.eventId, async () => {
      const contact = (await readContact(w.tx, about.contactId))!;
      const { role } = await readShift(w.tx, about.shiftId);
      return {
        who: `${fullName({ given: contact.givenName, family: contact.familyName })}, ${role}`,
        contactId: about.contactId,
        ...(about.words ? { words: about.words } : {}),
      };
    });
    return undefined;
  };

export const noticesReactions: Reactions = {
  async 'order placed'(w, about) {
    return about.state === 'asked' ? ofOrder(w, 'request', about, about.seats) : undefined;
  },
  'order confirmed': (w, about) => ofOrder(w, 'registration', about),
  'seats withdrawn': (w, about) => ofOrder(w, 'seats given up', about, about.seats),
  async 'waiver signed'(w, { eventId, registrationId }) {
    if (!registrationId || !eventId) return undefined;
    await notice(w, 'waiver signed', eventId, async () => {
      const seat = await readSeat(w.tx, registrationId);
      return {
        who: fullName({ given: seat.givenName, family: seat.familyName }),
        contactId: seat.contactId,
      };
    });
    return undefined;
  },
  async 'gift received'(w, { giftId, eventId, amount }) {
    await notice(
      w,
      'gift',
      eventId,
      async () => {
        const gift = await readGiver(w.tx, giftId);
        return {
          who: fullName({ given: gift.given, family: gift.family }),
          contactId: gift.contactId,
          amount,
          currency: gift.currency,
        };
      },
      ({ leastGift }) => amount >= leastGift,
    );
    return undefined;
  },
  async 'step decided'(w, { eventId, step, decision, words }) {
    if (decision === 'send back' || decision === 'refuse')
      await notice(w, 'plan back', eventId, () => Promise.resolve({ who: step, words }));
    return undefined;
  },
  async 'application came'(w, { callId, eventId, contactId }) {
    await notice(w, 'application came', eventId, async () => {
      const contact = (await readContact(w.tx, contactId))!;
      const { title } = await theCall(w.tx, callId);
      return {
        who: `${fullName({ given: contact.givenName, family: contact.familyName })}, ${title.en}`,
        contactId,
      };
    });
    return undefined;
  },
  'shift taken': ofShift('shift taken'),
  'shift given back': ofShift('shift given back'),
  async 'swap wished'(w, about) {
    return about.wants.length ? ofShift('swap wished')(w, about) : undefined;
  },
  async 'step-in over'(w, { eventId, shiftId, wide, how }) {
    if (wide && (how === 'nobody left' || how === 'too late'))
      await notice(w, 'nobody steps in', eventId, async () => ({
        who: sayShift(await readShift(w.tx, shiftId)),
      }));
    return undefined;
  },
  async 'something came in'(w, { eventId, name, words, automatic }) {
    // Nobody is told of what a machine wrote: two of them would go on for ever.
    if (!automatic) await notice(w, 'wrote back', eventId, () => Promise.resolve({ who: name, words }));
    return undefined;
  },
  async 'board asked'(w, { eventId, name, words }) {
    await notice(w, 'question', eventId, () => Promise.resolve({ who: name, words }));
    return undefined;
  },
};
