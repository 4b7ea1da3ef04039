import { expect, test } from 'vitest';
import { atSameFigures } from './currency.ts';

test('every amount keeps its figure in another currency, and nothing else changes', () => {
  const sold = {
    offers: [
      {
        name: 'Seat',
        price: 2500,
        least: 500,
        deposit: 1000,
        valueReceived: 800,
        prices: [{ kind: 'early', price: 2000 }],
      },
    ],
    extras: [{ name: 'Shirt', price: 1800, valueReceived: 1800 }],
    codes: [{ off: { amount: 300 } }, { off: { percent: 10_000 } }, { off: null }],
  };
  const yen = {
    offers: [
      {
        name: 'Seat',
        price: 25,
        least: 5,
        deposit: 10,
        valueReceived: 8,
        prices: [{ kind: 'early', price: 20 }],
      },
    ],
    extras: [{ name: 'Shirt', price: 18, valueReceived: 18 }],
    codes: [{ off: { amount: 3 } }, { off: { percent: 10_000 } }, { off: null }],
  };
  expect(atSameFigures(sold, 'CAD', 'JPY')).toEqual(yen);
  expect(atSameFigures(yen, 'JPY', 'CAD')).toEqual(sold);
  expect(atSameFigures(sold, 'CAD', 'CAD')).toEqual(sold);
});
