import fc from 'fast-check';
import { expect, test } from 'vitest';
import { mostInASwap, type SwapWish, swapsIn } from './swapping.ts';

const wish = (of: string, shiftId: string, wants: string[], minute = 0): SwapWish => ({
  assignmentId: `${of} on ${shiftId}`,
  contactId: of,
  shiftId,
  wants,
  since: `2026-08-01T10:${String(minute).padStart(2, '0')}:00.000Z`,
});
const said = (swaps: ReturnType<typeof swapsIn>) =>
  swaps.map((moves) => moves.map((m) => `${m.contactId}: ${m.from} to ${m.to}`));
const nowhere = new Map<string, number>();
const onOf = (wishes: readonly SwapWish[]) => {
  const on = new Map<string, Set<string>>();
  for (const w of wishes) on.set(w.contactId, (on.get(w.contactId) ?? new Set()).add(w.shiftId));
  return on;
};
const swapsAmong = (wishes: SwapWish[], open = nowhere) => said(swapsIn(wishes, open, onOf(wishes)));

test('two who would have each other’s shift change places; one alone does not', () => {
  expect(swapsAmong([wish('Ann', 'gate', ['boat']), wish('Ben', 'boat', ['gate'])])).toEqual([
    ['Ann: gate to boat', 'Ben: boat to gate'],
  ]);
  expect(swapsAmong([wish('Ann', 'gate', ['boat']), wish('Ben', 'boat', ['kitchen'])])).toEqual([]);
});

test('three go round where no two can change places', () => {
  expect(
    swapsAmong([
      wish('Ann', 'gate', ['boat'], 2),
      wish('Ben', 'boat', ['kitchen'], 1),
      wish('Cy', 'kitchen', ['gate'], 3),
    ]),
  ).toEqual([['Ben: boat to kitchen', 'Cy: kitchen to gate', 'Ann: gate to boat']]);
});

test('fewer people come before more, and whoever wished first before another', () => {
  expect(
    swapsAmong([
      wish('Ann', 'gate', ['boat'], 0),
      wish('Ben', 'boat', ['kitchen', 'gate'], 1),
      wish('Cy', 'kitchen', ['gate'], 2),
      wish('Dee', 'gate', ['boat'], 3),
    ]),
  ).toEqual([['Ann: gate to boat', 'Ben: boat to gate']]);
});

test('an open place is taken by one, directly or at the end of a row', () => {
  const open = new Map([['raffle', 1]]);
  expect(swapsAmong([wish('Ann', 'gate', ['raffle'], 1), wish('Ben', 'boat', ['raffle'], 2)], open)).toEqual([
    ['Ann: gate to raffle'],
  ]);
  expect(swapsAmong([wish('Ann', 'gate', ['boat'], 1), wish('Ben', 'boat', ['raffle'], 2)], open)).toEqual([
    ['Ben: boat to raffle'],
  ]);
});

test('where two can change places nobody goes to an open one: no shift has one fewer then', () => {
  expect(
    swapsAmong(
      [wish('Ann', 'gate', ['boat'], 1), wish('Ben', 'boat', ['gate'], 2), wish('Cy', 'gate', ['boat'], 3)],
      new Map([['boat', 1]]),
    ),
  ).toEqual([['Ann: gate to boat', 'Ben: boat to gate'], ['Cy: gate to boat']]);
});

test('nobody goes where they are already, nor changes places with themselves', () => {
  const both = [wish('Ann', 'gate', ['boat']), wish('Ann', 'boat', ['gate'])];
  expect(swapsAmong(both)).toEqual([]);
});

test('nobody moves twice within one swap', () => {
  expect(
    swapsAmong([
      wish('Ann', 'gate', ['boat']),
      wish('Ben', 'boat', ['kitchen']),
      wish('Ann', 'kitchen', ['raffle']),
      wish('Cy', 'raffle', ['gate']),
    ]),
  ).toEqual([]);
});

test('of whatever wishes: everybody gets one they wished for, no shift loses or wins in a ring, and nobody moves twice', () => {
  const shifts = ['a', 'b', 'c', 'd', 'e'];
  const wishes = fc.uniqueArray(
    fc.record({
      of: fc.constantFrom('Ann', 'Ben', 'Cy', 'Dee', 'Eve', 'Fay'),
      at: fc.constantFrom(...shifts),
      wants: fc.uniqueArray(fc.constantFrom(...shifts), { maxLength: 3 }),
      minute: fc.integer({ min: 0, max: 59 }),
    }),
    { selector: (w) => `${w.of} ${w.at}`, maxLength: 12 },
  );
  fc.assert(
    fc.property(
      wishes,
      fc.dictionary(fc.constantFrom(...shifts), fc.integer({ min: 0, max: 2 })),
      (w, room) => {
        const all = w.map(({ of, at, wants, minute }) => wish(of, at, wants, minute));
        const open = new Map(Object.entries(room));
        const on = onOf(all);
        const swaps = swapsIn(all, open, on);
        const moved = swaps.flat().map((m) => m.assignmentId);
        expect(new Set(moved).size).toBe(moved.length);
        const taken = new Map<string, number>();
        for (const moves of swaps) {
          expect(moves.length).toBeLessThanOrEqual(mostInASwap);
          for (const [n, m] of moves.entries()) {
            expect(all.find((x) => x.assignmentId === m.assignmentId)!.wants).toContain(m.to);
            expect(on.get(m.contactId)!.has(m.to)).toBe(false);
            if (n + 1 < moves.length) expect(moves[n + 1]!.from).toBe(m.to);
          }
          const last = moves.at(-1)!.to;
          if (last !== moves[0]!.from) taken.set(last, (taken.get(last) ?? 0) + 1);
        }
        for (const [shift, n] of taken) expect(n).toBeLessThanOrEqual(open.get(shift) ?? 0);
        // What is left over holds no swap of two any more; whoever moved is where they went as well.
        for (const m of swaps.flat()) on.get(m.contactId)!.add(m.to);
        const rest = all.filter((x) => !moved.includes(x.assignmentId));
        for (const x of rest)
          for (const y of rest)
            if (x.contactId !== y.contactId && x.wants.includes(y.shiftId) && y.wants.includes(x.shiftId))
              expect(on.get(x.contactId)!.has(y.shiftId) || on.get(y.contactId)!.has(x.shiftId)).toBe(true);
      },
    ),
  );
});
