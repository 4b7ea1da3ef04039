import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { type Code, type Extra, foldCode, type Offer, type Tax } from './offer.ts';

interface Sold {
  offers: readonly Offer[];
  extras: readonly Extra[];
  codes: readonly Code[];
  taxes: readonly Tax[];
}

/** What does not go together in what an event sells, each at its field; what each field takes by itself is the contract's. */
export const problemsWithShop = (sold: Sold): Wrong[] => [
  ...sold.offers.flatMap(offerProblems),
  ...sold.extras.flatMap((extra, at) =>
    extra.options.flatMap((option, n) =>
      extra.options.findIndex((o) => o.name.trim().toLowerCase() === option.name.trim().toLowerCase()) < n
        ? [wrongAt(`extras.${at}.options.${n}.name`, 'option-twice')]
        : [],
    ),
  ),
  ...sold.codes.flatMap((code, at) => codeProblems(code, at, sold)),
];

function offerProblems(offer: Offer, at: number): Wrong[] {
  const wrong: Wrong[] = [];
  const path = (field: string) => `offers.${at}.${field}`;
  if (offer.pricing === 'deposit' && offer.deposit >= offer.price)
    wrong.push(wrongAt(path('deposit'), 'deposit-too-much'));
  if (offer.pricing === 'deposit' && offer.deposit === 0)
    wrong.push(wrongAt(path('deposit'), 'deposit-needed'));
  if (offer.pricing === 'pay what you can' && offer.price > 0 && offer.least > offer.price)
    wrong.push(wrongAt(path('least'), 'least-above-suggested'));
  if (offer.leastPerOrder > offer.mostPerOrder)
    wrong.push(wrongAt(path('leastPerOrder'), 'least-above-most'));
  if (offer.mostPerPerson !== null && offer.mostPerPerson < offer.leastPerOrder)
    wrong.push(wrongAt(path('mostPerPerson'), 'least-above-most'));
  if (offer.opensLocal && offer.closesLocal && offer.closesLocal <= offer.opensLocal)
    wrong.push(wrongAt(path('closesLocal'), 'closes-before-opens'));
  if (offer.fromAge !== null && offer.toAge !== null && offer.toAge < offer.fromAge)
    wrong.push(wrongAt(path('toAge'), 'ages-turned'));
  offer.prices.forEach((price, n) => {
    if (price.kind === 'early' && !price.untilLocal)
      wrong.push(wrongAt(path(`prices.${n}.untilLocal`), 'early-until-when'));
    if (price.kind === 'group' && price.fromUnits === null)
      wrong.push(wrongAt(path(`prices.${n}.fromUnits`), 'group-from-how-many'));
    if (price.price >= offer.price) wrong.push(wrongAt(path(`prices.${n}.price`), 'price-no-lower'));
  });
  return wrong;
}

function codeProblems(code: Code, at: number, { codes, offers }: Sold): Wrong[] {
  const path = (field: string) => `codes.${at}.${field}`;
  const wrong: Wrong[] = [];
  if (foldCode(code.code).length < 3) wrong.push(wrongAt(path('code'), 'code-too-short'));
  else if (codes.findIndex((c) => foldCode(c.code) === foldCode(code.code)) < at)
    wrong.push(wrongAt(path('code'), 'code-twice', { code: code.code }));
  if (!code.opens && !code.off) wrong.push(wrongAt(path('off'), 'code-does-nothing'));
  if (code.fromLocal && code.untilLocal && code.untilLocal <= code.fromLocal)
    wrong.push(wrongAt(path('untilLocal'), 'closes-before-opens'));
  if (code.offerIds.some((id) => !offers.some((o) => o.id === id)))
    wrong.push(wrongAt(path('offerIds'), 'thing-gone', { what: 'ticket' }));
  return wrong;
}
