import fc from 'fast-check';
import { expect, test } from 'vitest';
import { everyPerson } from './parts.ts';

test('every person of a row keeps a line of its own, whatever the row holds', () => {
  const cell = fc.oneof(
    fc.constantFrom('Thad & Marie Hollis', 'Mei Xu', '', 'A & B & C', 'Hollis, Thad and Marie'),
    fc.string({ maxLength: 20 }),
  );
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell), { maxLength: 30 }), (rows) => {
      const mapping = {
        columns: ['whole name', 'guardian name'] as ('whole name' | 'guardian name')[],
        dateOrders: [null, null],
      };
      const all = everyPerson(
        rows.map((cells, at) => ({ line: at + 2, cells })),
        mapping,
      );
      expect(new Set(all.map((r) => r.line)).size).toBe(all.length);
      for (const r of all)
        expect(r.ofLine === undefined ? r.part === undefined : r.line % 1000 === r.ofLine).toBe(true);
      // The same again, and every row of the file is there.
      expect(all.filter((r) => r.ofLine === undefined)).toHaveLength(rows.length);
    }),
  );
});
