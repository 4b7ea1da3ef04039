import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readTable } from '#core/exchange/table.ts';
import { type Candidate, propose } from './proposing.ts';
import { type BankFile, type BankLine, readBankAmount, readBankFile } from './reading.ts';

const read = (csv: string, digits = 2, dates: 'day first' | 'month first' | null = null): BankFile => {
  const file = readBankFile(readTable(new TextEncoder().encode(csv)), digits, dates);
  if ('why' in file) throw new Error(file.why);
  return file;
};
const why = (csv: string) => readBankFile(readTable(new TextEncoder().encode(csv)), 2);

describe('a file of the bank', () => {
  test('with a signed amount, days with the year first, and lines that are just alike', () => {
    const file = read(
      'Date,Description,Amount,Balance\n2026-07-06,PAYOUT PO-20260706,531.80,9000.00\n2026-07-07,SERVICE CHARGE,-12.50,8987.50\n2026-07-08,E-TRANSFER,25.00,1\n2026-07-08,E-TRANSFER,25.00,2\n',
    );
    expect(file).toMatchObject({ dates: 'year first', decimals: '.', unread: [] });
    expect(file.lines.map((l) => [l.on, l.amount, l.words])).toEqual([
      ['2026-07-06', 53_180, 'PAYOUT PO-20260706'],
      ['2026-07-07', -1250, 'SERVICE CHARGE'],
      ['2026-07-08', 2500, 'E-TRANSFER'],
      ['2026-07-08', 2500, 'E-TRANSFER'],
    ]);
    // Each has a key of its own, and the same again in another file with other balances.
    expect(new Set(file.lines.map((l) => l.key)).size).toBe(4);
    const again = read(
      'Date,Description,Amount,Balance\n2026-07-08,E-TRANSFER,25.00,77\n2026-07-06,PAYOUT PO-20260706,531.80,0\n',
    );
    expect(again.lines.map((l) => file.lines.some((f) => f.key === l.key))).toEqual([true, true]);
  });
  test('in French, with commas, semicolons, two columns of amounts and the day first', () => {
    const file = read(
      'Date de l’opération;Libellé;Débit;Crédit;Solde\n31/07/2026;Frais;12,50;;1 234,56\n05/08/2026;Virement Alder;;1 250,00;2 484,56\n'.replace(
        'l’',
        "l'",
      ),
    );
    expect(file).toMatchObject({ dates: 'day first', decimals: ',' });
    expect(file.lines.map((l) => [l.on, l.amount, l.words])).toEqual([
      ['2026-07-31', -1250, 'Frais'],
      ['2026-08-05', 125_000, 'Virement Alder'],
    ]);
  });
  test('says which lines it cannot read, and leaves out those of nothing', () => {
    const file = read(
      'Date,Text,Amount\nsoon,a,1.00\n2026-07-01,b,much\n2026-07-02,c,0.00\n2026-07-03,d,5.00\n',
    );
    expect(file.unread).toEqual([
      { line: 2, why: 'no date' },
      { line: 3, why: 'no amount' },
    ]);
    expect(file.lines.map((l) => l.words)).toEqual(['d']);
  });
  test('whose days can be read either way is not guessed', () => {
    const csv = 'Date,Text,Amount\n03/04/2026,a,1.00\n';
    expect(why(csv)).toEqual({ why: 'dates either way' });
    expect(read(csv, 2, 'day first').lines[0]!.on).toBe('2026-04-03');
    expect(read(csv, 2, 'month first').lines[0]!.on).toBe('2026-03-04');
    expect(read('Date,Text,Amount\n03/04/2026,a,1.00\n03/25/2026,b,1.00\n').dates).toBe('month first');
    expect(read('Date,Text,Amount\n4 Jul 2026,a,1.00\n').lines[0]!.on).toBe('2026-07-04');
    expect(why('Day of week,Name,Amount\nMon,a,1.00\n')).toEqual({ why: 'no date column' });
    expect(why('Date,Text\n2026-07-01,a\n')).toEqual({ why: 'no amount column' });
  });
  test.each([
    ['1,234.56', '.', 2, 123_456],
    ['1.234,56', ',', 2, 123_456],
    ['1 234,56', ',', 2, 123_456],
    ['(12.00)', '.', 2, -1200],
    ['12.00-', '.', 2, -1200],
    ['-$5', '.', 2, -500],
    ['CAD 5.1', '.', 2, 510],
    ['5.00 DR', '.', 2, -500],
    ['1,500', '.', 0, 1500],
    ['1.234', '.', 3, 1234],
    ['1.2340', '.', 3, 1234],
    ['0.001', '.', 2, null],
    ['1e5', '.', 2, null],
    ['', '.', 2, null],
    ['12.3.4', '.', 2, null],
  ] as const)('reads %s with %s and %i digits as %s', (cell, decimals, digits, amount) => {
    expect(readBankAmount(cell, decimals, digits)).toBe(amount);
  });
  test('what is written as an amount is read back, with either sign of decimals', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -(10 ** 11), max: 10 ** 11 }),
        fc.constantFrom('.' as const, ',' as const),
        (amount, decimals) => {
          const text = (amount / 100).toLocaleString(decimals === '.' ? 'en-CA' : 'de-DE', {
            minimumFractionDigits: 2,
          });
          expect(readBankAmount(text, decimals, 2)).toBe(amount);
        },
      ),
    );
  });
});

const line = (on: string, amount: number, words = '', n = 1): BankLine => ({
  line: n,
  on,
  amount,
  words,
  key: `${on} ${amount} ${words} ${n}`,
});
const can = (
  kind: Candidate['kind'],
  id: string,
  on: string,
  amount: number,
  name = '',
  numbers: string[] = [],
): Candidate => ({ kind, id, on, amount, name, numbers });
const first = (l: BankLine, all: Candidate[]) => propose([l], all).get(l.key)![0];

describe('what a line may be', () => {
  test('a payout of the same amount some days before', () => {
    expect(
      first(line('2026-07-08', 53_180, 'PO-20260706'), [
        can('payout', 'PO-20260706', '2026-07-06', 53_180, '', ['PO-20260706']),
      ]),
    ).toMatchObject({
      kind: 'payout',
      weight: 99,
      reasons: [{ of: 'same amount' }, { of: 'days apart', days: 2 }, { of: 'number in it' }],
    });
    // Too long ago, or another amount: none.
    expect(first(line('2026-07-28', 53_180), [can('payout', 'p', '2026-07-06', 53_180)])).toBeUndefined();
    expect(first(line('2026-07-08', 53_181), [can('payout', 'p', '2026-07-06', 53_180)])).toBeUndefined();
  });
  test('of two transfers of one amount, the one whose name stands there', () => {
    const all = [
      can('transfer', 'a', '2026-07-08', 2500, 'Bo Sedge'),
      can('transfer', 'b', '2026-07-05', 2500, 'Ada Reed'),
    ];
    expect(first(line('2026-07-08', 2500, 'E-TRANSFER ADA  REED'), all)!.ids).toEqual(['b']);
    expect(first(line('2026-07-08', 2500, 'E-TRANSFER'), all)!.ids).toEqual(['a']);
  });
  test('cheques that were taken there together', () => {
    const hand = [
      can('hand', 'a', '2026-07-01', 4000),
      can('hand', 'b', '2026-07-02', 2500),
      can('hand', 'c', '2026-07-03', 1100),
      can('hand', 'd', '2026-07-04', 900),
    ];
    expect(first(line('2026-07-06', 8500), hand)).toMatchObject({
      kind: 'hand',
      ids: ['a', 'b', 'c', 'd'],
      reasons: [{ of: 'adds up', count: 4 }],
    });
    expect(first(line('2026-07-06', 6500), hand)!.ids).toEqual(['a', 'b']);
    expect(first(line('2026-07-06', 7777), hand)).toBeUndefined();
    // Not what came after it was taken there.
    expect(first(line('2026-07-02', 3600), hand)).toBeUndefined();
  });
  test('what somebody owes, only where they are named', () => {
    const owed = [can('owed', 'o', '2026-05-01', 9000, 'Tove Alder', ['1042'])];
    expect(first(line('2026-07-06', 9000, 'Alder, Tove'), owed)!.kind).toBe('owed');
    expect(first(line('2026-07-06', 9000, 'Invoice 1042'), owed)!.reasons).toContainEqual({
      of: 'number in it',
    });
    expect(first(line('2026-07-06', 9000, 'somebody'), owed)).toBeUndefined();
  });
  test('one payment is proposed first for the line it fits best', () => {
    const all = [can('transfer', 'a', '2026-07-08', 2500), can('transfer', 'b', '2026-07-01', 2500)];
    const [early, late] = [line('2026-07-04', 2500, 'x', 1), line('2026-07-08', 2500, 'x', 2)];
    const of = propose([early, late], all);
    expect([of.get(early.key)![0]!.ids, of.get(late.key)![0]!.ids]).toEqual([['b'], ['a']]);
  });
  test('whatever is proposed comes to the amount of its line', () => {
    const candidate = fc.record({
      kind: fc.constantFrom('payout' as const, 'transfer' as const, 'hand' as const),
      day: fc.integer({ min: 1, max: 28 }),
      amount: fc.integer({ min: 1, max: 60 }),
    });
    fc.assert(
      fc.property(
        fc.array(candidate, { maxLength: 20 }),
        fc.array(fc.integer({ min: 1, max: 120 }), { maxLength: 8 }),
        (of, amounts) => {
          const all = of.map((c, at) =>
            can(c.kind, `c${at}`, `2026-07-${String(c.day).padStart(2, '0')}`, c.amount),
          );
          const lines = amounts.map((amount, at) => line('2026-07-20', amount, '', at + 1));
          for (const [key, proposals] of propose(lines, all)) {
            const { amount } = lines.find((l) => l.key === key)!;
            expect(proposals.length).toBeLessThanOrEqual(5);
            for (const p of proposals) {
              expect(p.ids.reduce((sum, id) => sum + all.find((c) => c.id === id)!.amount, 0)).toBe(amount);
              expect(new Set(p.ids).size).toBe(p.ids.length);
              expect(p.reasons.length).toBeGreaterThan(0);
            }
          }
        },
      ),
    );
  });
});
