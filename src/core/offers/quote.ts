import type { Amount, Currency } from '#core/money/amount.ts';
import { includedIn, shareOf, spread } from '#core/money/spread.ts';
import type { WallTime } from '#core/time/clock.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { type Code, codeNamed, type Extra, isOnSale, type Offer, type PriceKind, type Tax } from './offer.ts';

/** What an event sells. */
export interface Shop {
  currency: Currency;
  offers: readonly Offer[];
  extras: readonly Extra[];
  codes: readonly Code[];
  taxes: readonly Tax[];
}

/** What somebody wants of it. */
export interface Wanted {
  lines: readonly {
    offerId: string;
    units: number;
    /** What is paid for each, where one pays what one can. */
    price?: Amount | null | undefined;
  }[];
  extras: readonly { extraId: string; optionId: string | null; units: number }[];
  code: string;
  donation: Amount;
}

/** Who asks, and when. */
export interface Asking {
  /** By the clock where the event is. */
  nowLocal: WallTime;
  /** Whether they are a member on the day of the event. */
  member: boolean;
  /** Whether we know who they are: what is limited by person is for those. */
  known: boolean;
  /** Units of each offer that they have already. */
  has: ReadonlyMap<string, number>;
  /** How often each code was used, in all and by them. */
  uses: ReadonlyMap<string, { all: number; own: number }>;
  /** How many single seats cost them nothing, as somebody on a guest list. */
  guest: number;
  /** Whether the team books: it sells what is hidden, closed or not open yet, and as many as somebody wants. */
  team: boolean;
}

/** Why something costs what it does. */
export type PriceReason = 'full' | 'chosen' | 'guest' | PriceKind;

/** Units of one offer, or one extra, that cost the same for the same reason. */
export interface QuoteLine {
  of: 'seats' | 'extra';
  /** The offer or the extra. */
  id: string;
  optionId: string | null;
  name: string;
  units: number;
  /** What one costs, and what it would cost for everybody else. */
  each: Amount;
  full: Amount;
  why: PriceReason;
  amount: Amount;
}

/** One unit as it is written down: what it costs, what comes off, and the tax on it. */
export interface QuoteUnit {
  of: 'seats' | 'extra';
  id: string;
  optionId: string | null;
  /** Counted from 1 within its offer, or its extra. */
  unitNumber: number;
  price: Amount;
  discount: Amount;
  /** Tax on top. */
  tax: Amount;
  /** Tax that the price has in it. */
  taxIncluded: Amount;
  /** What of it is paid with the booking. */
  now: Amount;
}

/** What an order comes to, line by line. All amounts in minor units of one currency. */
export interface Quote {
  lines: QuoteLine[];
  /** What the code takes off. */
  discount: { code: string; codeId: string; amount: Amount } | null;
  /** The code that was used, also where it takes nothing off. */
  codeId: string | null;
  taxes: { name: string; rate: number; included: boolean; amount: Amount }[];
  donation: Amount;
  total: Amount;
  /** What is paid with the booking; the rest later. */
  dueNow: Amount;
  seats: number;
  /** The offers, in the order they were chosen, with how many units and seats. */
  parties: { offer: Offer; units: number; seats: number }[];
  units: QuoteUnit[];
}

/** The largest gift with a booking, in minor units. */
const largestGift = 10_000_000;

/**
 * What an order comes to, or everything that is wrong with it, each with the path of the field it concerns.
 *
 * Each unit costs the lowest of the prices that hold for it. A code's percentage is taken of all it is good for together and rounded
 * once, half a unit up; so is each tax, of what is left after the code. Both are then spread over the units by largest remainder, so
 * that what is written down for each unit adds up to what somebody pays.
 */
export function quote(shop: Shop, wanted: Wanted, asking: Asking): { quote: Quote } | { problems: Wrong[] } {
  const problems: Wrong[] = [];
  const code = wanted.code.trim() ? codeNamed(shop.codes, wanted.code) : undefined;
  const codeWrong = wanted.code.trim() ? whatIsWrongWithCode(code, asking) : null;
  const parties: Quote['parties'] = [];
  const lines: QuoteLine[] = [];
  let guests = asking.guest;
  const opened = (offer: Offer): boolean =>
    !offer.hidden || asking.team || (!codeWrong && code !== undefined && code.opens && isFor(code, offer.id));

  wanted.lines.forEach((line, at) => {
    const path = `lines.${at}.units`;
    const offer = shop.offers.find((o) => o.id === line.offerId);
    if (!offer || !opened(offer)) {
      problems.push(wrongAt(`lines.${at}.offerId`, 'ticket-gone'));
      return;
    }
    if (parties.some((p) => p.offer.id === offer.id)) {
      problems.push(wrongAt(path, 'ticket-twice', { name: offer.name }));
      return;
    }
    const wrong = whatIsWrongWith(offer, line, path, asking, shop.currency);
    problems.push(...wrong);
    parties.push({ offer, units: line.units, seats: line.units * offer.seatsPerUnit });
    if (wrong.length) return;
    // A guest has a seat; a table is somebody's to pay for.
    const free = offer.seatsPerUnit === 1 ? Math.min(guests, line.units) : 0;
    guests -= free;
    lines.push(...linesOf(offer, line.units, free, line.price ?? null, asking));
  });
  if (wanted.lines.length === 0) problems.push(wrongAt('lines', 'ticket-needed'));

  wanted.extras.forEach((wants, at) => {
    const extra = shop.extras.find((e) => e.id === wants.extraId);
    const path = `extras.${at}.units`;
    const option = extra?.options.find((o) => o.id === wants.optionId);
    if (!extra) problems.push(wrongAt(`extras.${at}.extraId`, 'extra-gone'));
    else if (extra.options.length && !option)
      problems.push(wrongAt(`extras.${at}.optionId`, 'option-needed', { name: extra.name }));
    else if (!Number.isInteger(wants.units) || wants.units < 1) problems.push(wrongAt(path, 'whole-number'));
    else
      lines.push({
        of: 'extra',
        id: extra.id,
        optionId: option?.id ?? null,
        name: option ? `${extra.name}, ${option.name}` : extra.name,
        units: wants.units,
        each: extra.price,
        full: extra.price,
        why: 'full',
        amount: wants.units * extra.price,
      });
  });
  for (const extra of shop.extras) {
    const units = lines.reduce((sum, l) => sum + (l.of === 'extra' && l.id === extra.id ? l.units : 0), 0);
    if (units > extra.mostPerOrder && !asking.team)
      problems.push(
        wrongAt(`extras.${wanted.extras.findIndex((e) => e.extraId === extra.id)}.units`, 'most-per-order', {
          most: extra.mostPerOrder,
          name: extra.name,
        }),
      );
  }
  if (codeWrong) problems.push(codeWrong);
  else if (code && parties.length && !parties.some(({ offer }) => isFor(code, offer.id)))
    problems.push(wrongAt('code', 'code-for-others'));
  if (!Number.isInteger(wanted.donation) || wanted.donation < 0 || wanted.donation > largestGift)
    problems.push(wrongAt('donation.amount', 'donation-out-of-range'));
  if (problems.length) return { problems };
  return { quote: addUp(shop, lines, parties, code ?? null, wanted.donation) };
}

/** Whether a code is good for an offer. */
export const isFor = (code: Pick<Code, 'offerIds'>, offerId: string): boolean =>
  code.offerIds.length === 0 || code.offerIds.includes(offerId);

/** Why a code cannot be used now; null where it can. A code that is not there and one that is not for now sound different. */
export function whatIsWrongWithCode(
  code: Code | undefined,
  asking: Pick<Asking, 'nowLocal' | 'uses' | 'known' | 'team'>,
): Wrong | null {
  if (!code) return wrongAt('code', 'code-unknown');
  if (code.fromLocal && asking.nowLocal < code.fromLocal) return wrongAt('code', 'code-not-yet');
  if (code.untilLocal && asking.nowLocal >= code.untilLocal) return wrongAt('code', 'code-over');
  if (code.mostPerPerson !== null && !asking.known && !asking.team) return wrongAt('code', 'sign-in-first');
  const { all, own } = asking.uses.get(code.id) ?? { all: 0, own: 0 };
  if (code.most !== null && all >= code.most) return wrongAt('code', 'code-used-up');
  return code.mostPerPerson !== null && own >= code.mostPerPerson
    ? wrongAt('code', 'code-used-by-you')
    : null;
}

function whatIsWrongWith(
  offer: Offer,
  { units, price }: Wanted['lines'][number],
  path: string,
  { nowLocal, has, known, team }: Asking,
  currency: Currency,
): Wrong[] {
  const { name } = offer;
  if (!Number.isInteger(units) || units < 1) return [wrongAt(path, 'whole-number')];
  const wrong: Wrong[] = [];
  if (!team) {
    if (offer.opensLocal && nowLocal < offer.opensLocal)
      wrong.push(wrongAt(path, 'ticket-not-yet', { name, at: { at: offer.opensLocal } }));
    else if (!isOnSale(offer, nowLocal)) wrong.push(wrongAt(path, 'ticket-over', { name }));
    if (units < offer.leastPerOrder)
      wrong.push(wrongAt(path, 'least-per-order', { least: offer.leastPerOrder, name }));
    if (units > offer.mostPerOrder)
      wrong.push(wrongAt(path, 'most-per-order', { most: offer.mostPerOrder, name }));
    const before = has.get(offer.id) ?? 0;
    if (offer.mostPerPerson !== null && !known) wrong.push(wrongAt(path, 'sign-in-first'));
    else if (offer.mostPerPerson !== null && before + units > offer.mostPerPerson)
      wrong.push(wrongAt(path, 'most-per-person', { most: offer.mostPerPerson, name, has: before }));
  }
  if (offer.pricing === 'pay what you can') {
    const pays = price ?? (team ? offer.least : null);
    const at = path.replace('.units', '.price');
    if (pays === null || !Number.isInteger(pays) || pays < 0) wrong.push(wrongAt(at, 'amount-needed'));
    else if (pays < offer.least && !team)
      wrong.push(wrongAt(at, 'least-amount', { amount: { amount: offer.least, currency } }));
    else if (pays > largestGift) wrong.push(wrongAt(at, 'donation-out-of-range'));
  }
  return wrong;
}

/** The prices that hold for an offer beside the full one, lowest first. */
function heldPrices(offer: Offer, units: number, { nowLocal, member }: Asking) {
  return offer.prices
    .filter(
      (p) =>
        p.price < offer.price &&
        ((p.kind === 'members' && member) ||
          (p.kind === 'early' && p.untilLocal !== null && nowLocal < p.untilLocal) ||
          (p.kind === 'group' && p.fromUnits !== null && units >= p.fromUnits)),
    )
    .sort((a, b) => a.price - b.price);
}

function linesOf(
  offer: Offer,
  all: number,
  free: number,
  chosen: Amount | null,
  asking: Asking,
): QuoteLine[] {
  const units = all - free;
  const line = (n: number, each: Amount, why: PriceReason): QuoteLine => ({
    of: 'seats',
    id: offer.id,
    optionId: null,
    name: offer.name,
    units: n,
    each,
    full: offer.price,
    why,
    amount: n * each,
  });
  const lines: QuoteLine[] = free > 0 ? [line(free, 0, 'guest')] : [];
  if (units === 0) return lines;
  if (offer.pricing === 'pay what you can') return [...lines, line(units, chosen ?? offer.least, 'chosen')];
  let left = units;
  // A group is everybody who comes along.
  for (const { kind, price, mostUnits } of heldPrices(offer, all, asking)) {
    const n = kind === 'members' && mostUnits !== null ? Math.min(left, mostUnits) : left;
    if (n > 0) lines.push(line(n, price, kind));
    left -= n;
  }
  return left > 0 ? [...lines, line(left, offer.price, 'full')] : lines;
}

function addUp(
  shop: Shop,
  lines: readonly QuoteLine[],
  parties: Quote['parties'],
  code: Code | null,
  donation: Amount,
): Quote {
  const numbers = new Map<string, number>();
  const units = lines.flatMap((line) =>
    Array.from({ length: line.units }, (): QuoteUnit => {
      const unitNumber = (numbers.get(line.id) ?? 0) + 1;
      numbers.set(line.id, unitNumber);
      const { of, id, optionId, each } = line;
      return { of, id, optionId, unitNumber, price: each, discount: 0, tax: 0, taxIncluded: 0, now: each };
    }),
  );
  // A code that takes something off takes it off seats: extras cost what they cost.
  const eligible = units.map((u) => (code?.off && u.of === 'seats' && isFor(code, u.id) ? u.price : 0));
  const most = eligible.reduce((sum, price) => sum + price, 0);
  const off = !code?.off
    ? 0
    : 'percent' in code.off
      ? shareOf(most, code.off.percent)
      : Math.min(code.off.amount, most);
  spread(off, eligible).forEach((amount, at) => {
    units[at]!.discount = amount;
  });
  const isTaxed = (u: QuoteUnit): boolean =>
    (u.of === 'seats' ? shop.offers : shop.extras).find((x) => x.id === u.id)?.taxed ?? false;
  const nets = units.map((u) => (isTaxed(u) ? u.price - u.discount : 0));
  const net = nets.reduce((sum, n) => sum + n, 0);
  const rates = shop.taxes.reduce((sum, t) => sum + (t.included ? t.rate : 0), 0);
  const bare = net - includedIn(net, rates, rates);
  const taxes = shop.taxes.map(({ name, rate, included }) => {
    const amount = included ? includedIn(net, rate, rates) : shareOf(bare, rate);
    spread(amount, nets).forEach((part, at) => {
      units[at]![included ? 'taxIncluded' : 'tax'] += part;
    });
    return { name, rate, included, amount };
  });
  for (const u of units) {
    const whole = u.price - u.discount + u.tax;
    const offer = u.of === 'seats' ? shop.offers.find((o) => o.id === u.id) : undefined;
    u.now = !offer
      ? whole
      : offer.pricing === 'later'
        ? 0
        : offer.pricing === 'deposit'
          ? Math.min(offer.deposit, whole)
          : whole;
  }
  const total = units.reduce((sum, u) => sum + u.price - u.discount + u.tax, 0) + donation;
  return {
    lines: [...lines],
    discount: off > 0 && code ? { code: code.code, codeId: code.id, amount: off } : null,
    codeId: code?.id ?? null,
    taxes: taxes.filter((t) => t.amount > 0),
    donation,
    total,
    dueNow: units.reduce((sum, u) => sum + u.now, 0) + donation,
    seats: parties.reduce((sum, p) => sum + p.seats, 0),
    parties,
    units,
  };
}
