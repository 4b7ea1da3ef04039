import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type DoorMark, minutesInside, minutesLate, presenceOf, toldAt } from './marks.ts';

const at = (minute: number) => new Date(Date.UTC(2026, 7, 8, 12, minute)).toISOString();
const mark = (id: string, state: DoorMark['state'], minute: number, undoes: string[] = []): DoorMark => ({
  id,
  state,
  at: at(minute),
  undoes,
  sessionId: null,
});

test('where somebody is, reckoned by hand', () => {
  expect(presenceOf([])).toEqual({ state: 'expected', arrivedAt: null, leftAt: null, stays: [], undo: [] });
  const came = mark('a', 'arrived', 0);
  expect(presenceOf([came])).toMatchObject({ state: 'arrived', arrivedAt: at(0), undo: ['a'] });
  // Two doors marked the same: the earlier counts, and both are taken back together.
  expect(presenceOf([came, mark('b', 'arrived', 3)])).toMatchObject({
    arrivedAt: at(0),
    stays: [{ from: at(0), until: null }],
    undo: ['a', 'b'],
  });
  const left = mark('c', 'left', 30);
  expect(presenceOf([left, came])).toMatchObject({ state: 'left', leftAt: at(30), undo: [] });
  const again = mark('d', 'arrived', 40);
  expect(presenceOf([came, left, again])).toMatchObject({
    state: 'arrived',
    arrivedAt: at(0),
    leftAt: null,
    stays: [
      { from: at(0), until: at(30) },
      { from: at(40), until: null },
    ],
    undo: ['d'],
  });
  // Taking back that they came again leaves them away.
  expect(presenceOf([came, left, again, mark('u', 'expected', 41, ['d'])]).state).toBe('left');
  // Leaving alone is nothing; an arrival of before that is told later makes it something.
  expect(presenceOf([left]).state).toBe('expected');
  expect(presenceOf([left, mark('z', 'arrived', 35)])).toMatchObject({ state: 'arrived', arrivedAt: at(35) });
});

test('a mark takes back what was known where it was made, and nothing that was marked elsewhere', () => {
  const here = mark('here', 'arrived', 2);
  const elsewhere = mark('elsewhere', 'arrived', 0);
  const undo = mark('undo', 'expected', 3, ['here']);
  expect(presenceOf([here, undo]).state).toBe('expected');
  expect(presenceOf([here, undo, elsewhere])).toMatchObject({ state: 'arrived', arrivedAt: at(0) });
  // Three devices take back the same, and one lets in again.
  const all = [here, undo, mark('undo 2', 'expected', 4, ['here']), mark('undo 3', 'expected', 5, ['here'])];
  expect(presenceOf(all).state).toBe('expected');
  expect(presenceOf([...all, mark('again', 'arrived', 6)]).state).toBe('arrived');
});

/** Marks as some devices make them: each knows what it has heard so far, which is cut off now and then. */
const scene = fc
  .array(
    fc.record({
      device: fc.nat(2),
      does: fc.constantFrom<'arrived' | 'left' | 'undo' | 'hear'>('arrived', 'left', 'undo', 'hear'),
      minute: fc.nat(120),
    }),
    { maxLength: 30 },
  )
  .map((steps) => {
    const known: DoorMark[][] = [[], [], []];
    const all: DoorMark[] = [];
    steps.forEach(({ device, does, minute }, n) => {
      const mine = known[device]!;
      if (does === 'hear') {
        known[device] = [...all];
        return;
      }
      const undo = presenceOf(mine).undo;
      if (does === 'undo' && !undo.length) return;
      const made: DoorMark = {
        id: `m${n}`,
        state: does === 'undo' ? 'expected' : does,
        at: at(minute),
        undoes: does === 'undo' ? undo : [],
        sessionId: null,
      };
      mine.push(made);
      all.push(made);
    });
    return all;
  });

test('arrivals merge to the same in whatever order and however often they reach the server, and none is lost', () => {
  fc.assert(
    fc.property(
      scene.chain((marks) =>
        fc.tuple(
          fc.constant(marks),
          fc.shuffledSubarray(marks, { minLength: marks.length }),
          fc.subarray(marks),
        ),
      ),
      ([marks, shuffled, twice]) => {
        const settled = presenceOf(marks);
        expect(presenceOf(shuffled)).toEqual(settled);
        expect(presenceOf([...twice, ...shuffled])).toEqual(settled);
        // Somebody came exactly where an arrival stands that nobody took back, at the earliest of them.
        const gone = new Set(marks.flatMap((m) => m.undoes));
        const came = marks.filter((m) => m.state === 'arrived' && !gone.has(m.id)).map((m) => m.at);
        expect(settled.arrivedAt).toBe(came.length ? [...came].sort()[0]! : null);
        expect(settled.state === 'expected').toBe(came.length === 0);
      },
    ),
    { numRuns: 500 },
  );
});

test('minutes inside are those between, whoever is still in counts until then', () => {
  const stays = [
    { from: at(0), until: at(30) },
    { from: at(40), until: null },
  ];
  expect(minutesInside(stays, at(0), at(60))).toBe(50);
  expect(minutesInside(stays, at(20), at(45))).toBe(15);
  expect(minutesInside(stays, at(60), at(60))).toBe(0);
  expect(minutesInside([], at(0), at(60))).toBe(0);
});

test('whoever comes before the start is not late', () => {
  expect([at(0), at(5)].map((came) => minutesLate(came, at(5)))).toEqual([0, 0]);
  expect(minutesLate(at(17), at(5))).toBe(12);
});

test('a device whose clock is a day off tells how long ago it was', () => {
  const now = '2026-08-08T12:10:00.000Z';
  const told = (at: string, sentAt: string) => toldAt(now, { at, sentAt });
  expect(told('2026-08-08T12:00:00.000Z', '2026-08-08T12:10:00.000Z')).toBe('2026-08-08T12:00:00.000Z');
  expect(told('2026-08-09T12:00:00.000Z', '2026-08-09T12:10:00.000Z')).toBe('2026-08-08T12:00:00.000Z');
  // A clock that was put back meanwhile makes nothing of the future; what is long ago is as far back as is told.
  expect(told('2026-08-08T13:00:00.000Z', '2026-08-08T12:00:00.000Z')).toBe(now);
  expect(told('2026-01-01T00:00:00.000Z', '2026-08-08T12:00:00.000Z')).toBe('2026-08-07T00:10:00.000Z');
});
