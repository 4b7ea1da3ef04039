import { type Amount, type Currency, sameFigure } from '#core/money/amount.ts';

/** What an event sells, as far as it says amounts. */
interface Priced {
  offers: readonly {
    price: Amount;
    least: Amount;
    deposit: Amount;
    valueReceived: Amount;
    prices: readonly { price: Amount }[];
  }[];
  extras: readonly { price: Amount; valueReceived: Amount }[];
  codes: readonly { off: { percent: number } | { amount: Amount } | null }[];
}

/** Everything an event sells at the same figures in another currency; percentages stay what they are. */
export function atSameFigures<P extends Priced>({ offers, extras, codes }: P, from: Currency, to: Currency) {
  const same = (amount: Amount) => sameFigure(amount, from, to);
  return {
    offers: offers.map((o) => ({
      ...o,
      price: same(o.price),
      least: same(o.least),
      deposit: same(o.deposit),
      valueReceived: same(o.valueReceived),
      prices: o.prices.map((p) => ({ ...p, price: same(p.price) })),
    })) as unknown as P['offers'],
    extras: extras.map((e) => ({
      ...e,
      price: same(e.price),
      valueReceived: same(e.valueReceived),
    })) as unknown as P['extras'],
    codes: codes.map((c) => ({
      ...c,
      off: c.off && 'amount' in c.off ? { amount: same(c.off.amount) } : c.off,
    })) as unknown as P['codes'],
  };
}
