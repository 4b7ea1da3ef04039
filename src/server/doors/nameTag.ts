import { fullName } from '#core/contacts/names.ts';
import type { Work } from '../app/app.ts';
import type { EventRow } from '../events/store.ts';
import { readOffers } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { nameTagsPdf } from '../print/nameTags.ts';
import { readOrder, type SeatRow } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { keepTagged } from './store.ts';

/** One name tag on a label, made at the door: the name and the ticket, nothing that somebody answered. */
export async function nameTagOf(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  event: EventRow,
  seat: SeatRow,
): Promise<Buffer> {
  if (seat.state !== 'confirmed') throw refused('not-confirmed', { state: seat.state });
  const order = await readOrder(tx, seat.orderId);
  const { name: organization } = await theOrganization(tx);
  const name = { given: seat.givenName, family: seat.familyName };
  const offer = (await readOffers(tx, event.id)).find((o) => o.id === seat.offerId);
  await keepTagged(tx, [seat.id], now);
  return nameTagsPdf(
    [
      {
        ...(fullName(name)
          ? name
          : {
              given: '',
              family: `Guest of ${fullName({ given: order.buyerGiven, family: order.buyerFamily })}`,
            }),
        lines: offer ? [offer.name] : [],
        code: null,
      },
    ],
    {
      format: 'label',
      title: event.publicTitle,
      above: `${organization} · ${event.publicTitle}`,
      picture: null,
    },
  );
}
