import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Code,
  type Extra,
  foldCode,
  isOnSale,
  type Offer,
  plainCode,
  plainOffer,
  type Tax,
} from './offer.ts';
import { type Asking, type Quote, quote, type Shop, type Wanted } from './quote.ts';

const offer = (id: string, price: number, of: Partial<Offer> = {}): Offer => ({
  ...plainOffer,
  id,
  name: id,
  price,
  ...of,
});
const price = (kind: 'members' | 'early' | 'group', amount: number, of: object = {}) => ({
  kind,
  price: amount,
  untilLocal: null,
  fromUnits: null,
  mostUnits: null,
  ...of,
});
const code = (of: Partial<Code> = {}): Code => ({ ...plainCode, id: 'c', code: 'FEN-2026', ...of });
const hst: Tax = { name: 'HST', rate: 15_000, included: false };
const shop = (offers: Offer[], of: Partial<Shop> = {}): Shop => ({
  currency: 'CAD',
  offers,
  extras: [],
  codes: [],
  taxes: [],
  ...of,
});
const wanted = (lines: Wanted['lines'], of: Partial<Wanted> = {}): Wanted => ({
  lines,
  extras: [],
  code: '',
  donation: 0,
  ...of,
});
const asking = (of: Partial<Asking> = {}): Asking => ({
  nowLocal: '2026-07-09T09:20',
  member: false,
  known: true,
  has: new Map(),
  uses: new Map(),
  guest: 0,
  team: false,
  ...of,
});
function quoted(s: Shop, w: Wanted, a = asking()): Quote {
  const result = quote(s, w, a);
  if ('problems' in result) throw new Error(JSON.stringify(result.problems));
  return result.quote;
}
function wrong(s: Shop, w: Wanted, a = asking()): [string, string][] {
  const result = quote(s, w, a);
  return 'problems' in result ? result.problems.map((p) => [p.path, p.code]) : [];
}
const said = (q: Quote) => q.lines.map((l) => [l.units, l.each, l.why]);

describe('what each unit costs', () => {
  test('the lowest of the prices that hold, and only members have theirs, for as many as it is for', () => {
    const supper = offer('Supper', 6000, {
      prices: [
        price('members', 4500, { mostUnits: 2 }),
        price('early', 5000, { untilLocal: '2026-08-01T00:00' }),
        price('group', 4800, { fromUnits: 4 }),
      ],
    });
    const s = shop([supper]);
    const three = wanted([{ offerId: 'Supper', units: 3 }]);
    expect(said(quoted(s, three))).toEqual([[3, 5000, 'early']]);
    expect(said(quoted(s, three, asking({ member: true })))).toEqual([
      [2, 4500, 'members'],
      [1, 5000, 'early'],
    ]);
    expect(said(quoted(s, three, asking({ nowLocal: '2026-08-01T00:00' })))).toEqual([[3, 6000, 'full']]);
    const four = wanted([{ offerId: 'Supper', units: 4 }]);
    expect(said(quoted(s, four, asking({ nowLocal: '2026-09-01T00:00', member: true })))).toEqual([
      [2, 4500, 'members'],
      [2, 4800, 'group'],
    ]);
    // What is no lower than the price for everybody is no other price.
    expect(
      said(
        quoted(
          shop([offer('A', 100, { prices: [price('members', 200)] })]),
          wanted([{ offerId: 'A', units: 1 }]),
          asking({ member: true }),
        ),
      ),
    ).toEqual([[1, 100, 'full']]);
  });

  test('who is on a free list has a single seat for nothing; those who come along pay, and count for the group', () => {
    const s = shop([
      offer('Table', 8000, { seatsPerUnit: 8 }),
      offer('Seat', 1000, { prices: [price('group', 900, { fromUnits: 3 })] }),
    ]);
    const w = wanted([
      { offerId: 'Table', units: 1 },
      { offerId: 'Seat', units: 3 },
    ]);
    expect(said(quoted(s, w, asking({ guest: 1 })))).toEqual([
      [1, 8000, 'full'],
      [1, 0, 'guest'],
      [2, 900, 'group'],
    ]);
    expect(quoted(s, wanted([{ offerId: 'Seat', units: 1 }]), asking({ guest: 1 }))).toMatchObject({
      total: 0,
      dueNow: 0,
    });
  });

  test('pay what you can: what somebody says, from the least on; nothing said is asked for', () => {
    const s = shop([offer('Talk', 1500, { pricing: 'pay what you can', least: 500 })]);
    const pays = (amount: number | null) => wanted([{ offerId: 'Talk', units: 2, price: amount }]);
    expect(quoted(s, pays(700)).total).toBe(1400);
    expect(wrong(s, pays(499))).toEqual([['lines.0.price', 'least-amount']]);
    expect(wrong(s, pays(null))).toEqual([['lines.0.price', 'amount-needed']]);
    expect(wrong(s, pays(-1))).toEqual([['lines.0.price', 'amount-needed']]);
    expect(wrong(s, pays(10_000_001))).toEqual([['lines.0.price', 'donation-out-of-range']]);
    // The team may let somebody in for less.
    expect(quoted(s, pays(0), asking({ team: true })).total).toBe(0);
  });

  test('a deposit is paid now, the rest later, and never more than it costs', () => {
    const s = shop([offer('Weekend', 30_000, { pricing: 'deposit', deposit: 5000 }), offer('Lunch', 1200)], {
      codes: [code({ off: { percent: 90_000 }, offerIds: ['Weekend'] })],
    });
    const w = wanted([
      { offerId: 'Weekend', units: 2 },
      { offerId: 'Lunch', units: 1 },
    ]);
    expect(quoted(s, w)).toMatchObject({ total: 61_200, dueNow: 11_200 });
    expect(quoted(s, { ...w, code: 'fen2026', donation: 1000 })).toMatchObject({ total: 8200, dueNow: 8200 });
  });
});

describe('a code', () => {
  const s = shop([offer('Single', 2500), offer('Table', 18_000), offer('Crew', 0, { hidden: true })], {
    codes: [
      code({ id: 'third', code: 'THIRD', off: { percent: 33_333 }, offerIds: ['Single'] }),
      code({ id: 'ten', code: 'TEN', off: { amount: 1000 } }),
      code({ id: 'crew', code: 'CREW', opens: true, offerIds: ['Crew'], most: 5, mostPerPerson: 1 }),
      code({
        id: 'june',
        code: 'JUNE',
        off: { amount: 1 },
        fromLocal: '2026-06-01T00:00',
        untilLocal: '2026-07-01T00:00',
      }),
      code({ id: 'soon', code: 'SOON', off: { amount: 1 }, fromLocal: '2026-08-01T00:00' }),
    ],
  });
  const three = [
    { offerId: 'Single', units: 3 },
    { offerId: 'Table', units: 1 },
  ];

  test('is read in any case, with spaces and dashes; its percentage is rounded once and spread to the last cent', () => {
    expect(foldCode(' fen – 2026 ')).toBe(foldCode('FEN-2026'));
    const q = quoted(s, wanted(three, { code: ' th ird' }));
    // 33.333 % of 75.00 is 24.99975: 25.00, of which 8.34, 8.33 and 8.33.
    expect(q.discount).toEqual({ code: 'THIRD', codeId: 'third', amount: 2500 });
    expect(q.units.map((u) => u.discount)).toEqual([834, 833, 833, 0]);
    expect(q.total).toBe(7500 - 2500 + 18_000);
  });

  test('an amount comes off the whole, never more than there is', () => {
    expect(quoted(s, wanted(three, { code: 'TEN' })).units.map((u) => u.discount)).toEqual([98, 98, 98, 706]);
    const cheap = shop([offer('A', 300)], { codes: [code({ off: { amount: 1000 } })] });
    expect(quoted(cheap, wanted([{ offerId: 'A', units: 1 }], { code: 'FEN2026' })).total).toBe(0);
  });

  test('shows what is hidden, and only that code; the team needs none', () => {
    const crew = wanted([{ offerId: 'Crew', units: 1 }]);
    expect(wrong(s, crew)).toEqual([['lines.0.offerId', 'ticket-gone']]);
    expect(wrong(s, { ...crew, code: 'TEN' })).toContainEqual(['lines.0.offerId', 'ticket-gone']);
    expect(quoted(s, { ...crew, code: 'crew' })).toMatchObject({ total: 0, codeId: 'crew', discount: null });
    expect(quoted(s, crew, asking({ team: true })).total).toBe(0);
  });

  test.each([
    ['NOBODY', 'code-unknown', new Map()],
    ['JUNE', 'code-over', new Map()],
    ['SOON', 'code-not-yet', new Map()],
    ['CREW', 'code-used-up', new Map([['crew', { all: 5, own: 0 }]])],
    ['CREW', 'code-used-by-you', new Map([['crew', { all: 1, own: 1 }]])],
    ['CREW', 'code-for-others', new Map()],
  ])('%s: %s', (of, problem, uses) => {
    expect(wrong(s, wanted(three, { code: of }), asking({ uses }))).toEqual([['code', problem]]);
  });

  test('limited by person it is for those we know', () => {
    const crew = wanted([{ offerId: 'Crew', units: 1 }], { code: 'CREW' });
    expect(wrong(s, crew, asking({ known: false }))).toContainEqual(['code', 'sign-in-first']);
    expect(wrong(s, crew, asking({ known: false, team: true }))).toEqual([]);
  });

  test('is good until the moment it ends, and from the moment it begins', () => {
    const one = (nowLocal: string, c: string) => wrong(s, wanted(three, { code: c }), asking({ nowLocal }));
    expect(one('2026-06-01T00:00', 'JUNE')).toEqual([]);
    expect(one('2026-06-30T23:59', 'JUNE')).toEqual([]);
    expect(one('2026-05-31T23:59', 'JUNE')).toEqual([['code', 'code-not-yet']]);
  });
});

describe('how many', () => {
  test.each<[string, Partial<Offer>, number, Partial<Asking>, string[]]>([
    ['too few', { leastPerOrder: 4 }, 3, {}, ['least-per-order']],
    ['too many', { mostPerOrder: 2 }, 3, {}, ['most-per-order']],
    ['with what they have', { mostPerPerson: 4 }, 2, { has: new Map([['A', 3]]) }, ['most-per-person']],
    ['just as many', { mostPerPerson: 5 }, 2, { has: new Map([['A', 3]]) }, []],
    ['somebody we do not know', { mostPerPerson: 5 }, 1, { known: false }, ['sign-in-first']],
    ['half a unit', {}, 1.5, {}, ['whole-number']],
    ['none', {}, 0, {}, ['whole-number']],
    ['not on sale yet', { opensLocal: '2026-07-09T09:21' }, 1, {}, ['ticket-not-yet']],
    ['from this minute', { opensLocal: '2026-07-09T09:20' }, 1, {}, []],
    ['no longer', { closesLocal: '2026-07-09T09:20' }, 1, {}, ['ticket-over']],
    ['the last minute', { closesLocal: '2026-07-09T09:21' }, 1, {}, []],
    [
      'the team',
      { closesLocal: '2026-07-01T00:00', leastPerOrder: 4, mostPerOrder: 4 },
      5,
      { team: true },
      [],
    ],
  ])('%s', (_, of, units, by, problems) => {
    expect(
      wrong(shop([offer('A', 100, of)]), wanted([{ offerId: 'A', units }]), asking(by)).map((p) => p[1]),
    ).toEqual(problems);
  });

  test('nothing, something that is gone, and one thing twice', () => {
    const s = shop([offer('A', 100)]);
    expect(wrong(s, wanted([]))).toEqual([['lines', 'ticket-needed']]);
    expect(wrong(s, wanted([{ offerId: 'B', units: 1 }]))).toEqual([['lines.0.offerId', 'ticket-gone']]);
    expect(
      wrong(
        s,
        wanted([
          { offerId: 'A', units: 1 },
          { offerId: 'A', units: 1 },
        ]),
      ),
    ).toEqual([['lines.1.units', 'ticket-twice']]);
    expect(wrong(s, wanted([{ offerId: 'A', units: 1 }], { donation: -5 }))).toEqual([
      ['donation.amount', 'donation-out-of-range'],
    ]);
  });

  test('on sale is a window that its end is not in', () => {
    const window = { opensLocal: '2026-07-01T00:00', closesLocal: '2026-07-31T00:00' };
    expect(
      ['2026-06-30T23:59', '2026-07-01T00:00', '2026-07-30T23:59', '2026-07-31T00:00'].map((at) =>
        isOnSale(window, at),
      ),
    ).toEqual([false, true, true, false]);
  });
});

describe('extras', () => {
  const shirt: Extra = {
    id: 'shirt',
    name: 'Shirt',
    price: 2000,
    taxed: true,
    quantity: null,
    mostPerOrder: 3,
    options: [
      { id: 's', name: 'small', quantity: null },
      { id: 'l', name: 'large', quantity: 4 },
    ],
  };
  const s = shop([offer('A', 1000)], { extras: [shirt], codes: [code({ off: { percent: 50_000 } })] });
  const withShirts = (...extras: Wanted['extras'][number][]) =>
    wanted([{ offerId: 'A', units: 1 }], { extras });

  test('are bought along, one of their kinds each, and no code makes them cheaper', () => {
    const q = quoted(s, {
      ...withShirts(
        { extraId: 'shirt', optionId: 's', units: 1 },
        { extraId: 'shirt', optionId: 'l', units: 2 },
      ),
      code: 'FEN2026',
    });
    expect(q.lines.map((l) => [l.name, l.amount])).toEqual([
      ['A', 1000],
      ['Shirt, small', 2000],
      ['Shirt, large', 4000],
    ]);
    expect(q).toMatchObject({ total: 6500, seats: 1 });
    expect(q.units.map((u) => [u.of, u.optionId, u.unitNumber])).toEqual([
      ['seats', null, 1],
      ['extra', 's', 1],
      ['extra', 'l', 2],
      ['extra', 'l', 3],
    ]);
  });

  test('the kind is asked for; all kinds together are as many as there may be', () => {
    expect(wrong(s, withShirts({ extraId: 'shirt', optionId: null, units: 1 }))).toEqual([
      ['extras.0.optionId', 'option-needed'],
    ]);
    expect(wrong(s, withShirts({ extraId: 'mug', optionId: null, units: 1 }))).toEqual([
      ['extras.0.extraId', 'extra-gone'],
    ]);
    expect(
      wrong(
        s,
        withShirts(
          { extraId: 'shirt', optionId: 's', units: 2 },
          { extraId: 'shirt', optionId: 'l', units: 2 },
        ),
      ),
    ).toEqual([['extras.0.units', 'most-per-order']]);
  });
});

describe('tax', () => {
  test('on top: of everything taxed together, after the code, rounded once and spread', () => {
    const s = shop([offer('A', 333), offer('Gift shop', 1000, { taxed: false })], {
      taxes: [hst],
      codes: [code({ off: { amount: 99 }, offerIds: ['A'] })],
    });
    const q = quoted(
      s,
      wanted(
        [
          { offerId: 'A', units: 3 },
          { offerId: 'Gift shop', units: 1 },
        ],
        { code: 'FEN2026' },
      ),
    );
    // 9.99 less 0.99 is 9.00; 15 % is 1.35.
    expect(q.taxes).toEqual([{ name: 'HST', rate: 15_000, included: false, amount: 135 }]);
    expect(q.units.map((u) => u.tax)).toEqual([45, 45, 45, 0]);
    expect(q.total).toBe(900 + 135 + 1000);
  });

  test('two on top are each of the same: Québec’s 5 % and 9.975 % of 100.00', () => {
    const s = shop([offer('A', 10_000)], {
      taxes: [
        { name: 'GST', rate: 5000, included: false },
        { name: 'QST', rate: 9975, included: false },
      ],
    });
    const q = quoted(s, wanted([{ offerId: 'A', units: 1 }]));
    expect(q.taxes.map((t) => t.amount)).toEqual([500, 998]);
    expect(q.total).toBe(11_498);
  });

  test('in the price it changes nothing, and is said: 19 % in 119.00 are 19.00', () => {
    const s = shop([offer('A', 11_900)], {
      currency: 'EUR',
      taxes: [{ name: 'VAT', rate: 19_000, included: true }],
    });
    const q = quoted(s, wanted([{ offerId: 'A', units: 1 }]));
    expect(q).toMatchObject({ total: 11_900, taxes: [{ amount: 1900 }] });
    expect(q.units[0]).toMatchObject({ tax: 0, taxIncluded: 1900 });
  });
});

test('whatever is sold and wanted: what is written for each unit adds up to what somebody pays, and nothing is below zero', () => {
  const anOffer = fc.record({
    price: fc.constantFrom(0, 1, 99, 333, 2500, 10_000_000),
    pricing: fc.constantFrom('fixed' as const, 'deposit' as const, 'pay what you can' as const),
    deposit: fc.constantFrom(0, 50, 5000),
    taxed: fc.boolean(),
    seatsPerUnit: fc.constantFrom(1, 8),
    members: fc.option(fc.constantFrom(0, 50, 1000)),
    units: fc.integer({ min: 0, max: 9 }),
  });
  fc.assert(
    fc.property(
      fc.array(anOffer, { minLength: 1, maxLength: 6 }),
      fc.array(fc.record({ rate: fc.integer({ min: 1, max: 30_000 }), included: fc.boolean() }), {
        maxLength: 3,
      }),
      fc.option(
        fc.oneof(
          fc.record({ percent: fc.integer({ min: 1, max: 100_000 }) }),
          fc.record({ amount: fc.integer({ min: 1, max: 50_000 }) }),
        ),
      ),
      fc.boolean(),
      fc.constantFrom(0, 1, 2500),
      (offers, taxes, off, member, donation) => {
        const s = shop(
          offers.map((o, at) =>
            offer(`o${at}`, o.price, {
              ...o,
              prices: o.members === null ? [] : [price('members', o.members)],
            }),
          ),
          {
            taxes: taxes.map((t, at) => ({ name: `t${at}`, ...t })),
            codes: off ? [code({ off })] : [],
          },
        );
        const lines = offers.flatMap((o, at) =>
          o.units ? [{ offerId: `o${at}`, units: o.units, price: o.price }] : [],
        );
        if (!lines.length) return;
        const q = quoted(s, wanted(lines, { code: off ? 'FEN2026' : '', donation }), asking({ member }));
        const sum = (pick: (u: Quote['units'][number]) => number) =>
          q.units.reduce((total, u) => total + pick(u), 0);
        expect(sum((u) => u.price)).toBe(q.lines.reduce((total, l) => total + l.amount, 0));
        expect(sum((u) => u.discount)).toBe(q.discount?.amount ?? 0);
        const taxed = (included: boolean) =>
          q.taxes.reduce((total, t) => total + (t.included === included ? t.amount : 0), 0);
        expect(sum((u) => u.tax)).toBe(taxed(false));
        expect(sum((u) => u.taxIncluded)).toBe(taxed(true));
        expect(q.total).toBe(sum((u) => u.price - u.discount + u.tax) + donation);
        expect(q.dueNow).toBe(sum((u) => u.now) + donation);
        expect(q.dueNow).toBeLessThanOrEqual(q.total);
        for (const u of q.units) {
          expect(u.discount).toBeLessThanOrEqual(u.price);
          expect(Math.min(u.price, u.discount, u.tax, u.taxIncluded, u.now)).toBeGreaterThanOrEqual(0);
          expect(u.taxIncluded).toBeLessThanOrEqual(u.price - u.discount + 3);
        }
        expect(q.seats).toBe(
          lines.reduce((n, l) => n + l.units * s.offers.find((o) => o.id === l.offerId)!.seatsPerUnit, 0),
        );
      },
    ),
  );
});

describe('currencies without decimals, and with three', () => {
  // ISO 4217: the yen has none, the Tunisian dinar has three.
  test.each([
    ['JPY', 1000, 3, 12_500, 375, 131],
    ['TND', 12_345, 3, 12_500, 4629, 1620],
  ] as const)(
    '%s: a code and a tax are rounded to the smallest unit there is, and add up',
    (currency, each, units, percent, off, tax) => {
      const s = shop([offer('seat', each)], {
        currency,
        codes: [code({ off: { percent } })],
        taxes: [{ name: 'Tax', rate: 5000, included: false }],
      });
      const q = quoted(s, wanted([{ offerId: 'seat', units }], { code: 'fen2026' }));
      expect(q.discount?.amount).toBe(off);
      expect(q.taxes).toEqual([{ name: 'Tax', rate: 5000, included: false, amount: tax }]);
      expect(q.total).toBe(each * units - off + tax);
      expect(q.units.reduce((sum, u) => sum + u.price - u.discount + u.tax, 0)).toBe(q.total);
      // No unit is a whole smallest unit away from its share.
      for (const u of q.units) expect(Math.abs(u.discount - off / units)).toBeLessThan(1);
    },
  );

  test('what is short of the least is said in the currency', () => {
    const s = shop([offer('seat', 5000, { pricing: 'pay what you can', least: 1500 })], { currency: 'TND' });
    const result = quote(s, wanted([{ offerId: 'seat', units: 1, price: 1499 }]), asking());
    expect(result).toEqual({
      problems: [
        {
          path: 'lines.0.price',
          code: 'least-amount',
          params: { amount: { amount: 1500, currency: 'TND' } },
        },
      ],
    });
  });
});
