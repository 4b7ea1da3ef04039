import type { EnteredCode } from '#contract/publicEvent.ts';
import type { Visitor } from '#core/access/visitor.ts';
import { codeNamed } from '#core/offers/offer.ts';
import { isFor, whatIsWrongWithCode } from '#core/offers/quote.ts';
import { limitsOf } from '#core/registration/capacity.ts';
import type { Work } from '../app/app.ts';
import type { EventRow } from '../events/store.ts';
import { invalid } from '../http/problem.ts';
import { admittedAt } from './admitting.ts';
import { askingOf, shopOf } from './asking.ts';
import { publicOfferOf } from './public.ts';
import { readTaken } from './store.ts';
import { countTry, demandTries } from './tries.ts';

/** What a code does, for whoever knows it; refused with why where it does nothing for them now. */
export async function enterCode(
  w: Work,
  event: EventRow,
  entered: string,
  visitor: Visitor | null,
  address: string,
): Promise<EnteredCode> {
  demandTries(w, event.id, address);
  const shop = await shopOf(w.tx, event);
  const code = codeNamed(shop.codes, entered);
  const wrong = whatIsWrongWithCode(code, await askingOf(w, event, visitor, 'public', true));
  if (!code) countTry(w, event.id, address);
  if (wrong || !code) throw invalid([wrong ?? { path: 'code', code: 'code-unknown' }]);
  const taken = await readTaken(w.tx, event.id);
  const { id, code: written, offerIds, opens, off } = code;
  return {
    id,
    code: written,
    offerIds: [...offerIds],
    opens,
    off,
    admits: 'in' in (await admittedAt(w, event, visitor, opens)).admitted,
    offers: opens
      ? shop.offers
          .filter((o) => o.hidden && isFor(code, o.id))
          .map((o) => publicOfferOf(o, limitsOf(event), taken, event.waivers))
      : [],
  };
}
