import fc from 'fast-check';
import { expect, test } from 'vitest';
import { dayAt, doorDays, nightsBefore, presenceOn } from './days.ts';
import { type DoorMark, marksOfEvent, marksOfSession, presenceOf } from './marks.ts';

const zone = 'America/Halifax';
/** Friday 18:00 to Sunday 15:00. */
const weekend = {
  startsLocal: '2026-07-10T18:00',
  endsLocal: '2026-07-12T15:00',
  startsAt: '2026-07-10T21:00:00.000Z',
  endsAt: '2026-07-12T18:00:00.000Z',
  zone,
  goHome: true,
};
const session = (day: number, begins: string, ends: string) => ({ day, begins, ends });

test('an event of one day goes from its start to its end, also past midnight', () => {
  const supper = { ...weekend, endsLocal: '2026-07-11T01:30', endsAt: '2026-07-11T04:30:00.000Z' };
  expect(doorDays(supper, [])).toEqual([
    { day: 1, date: '2026-07-10', from: supper.startsAt, until: supper.endsAt, shut: null },
  ]);
  expect(doorDays({ ...supper, endsLocal: null, endsAt: null }, [])[0]!.until).toBe(
    '2026-07-11T00:00:00.000Z',
  );
  // Who stays over night is inside all the time.
  expect(doorDays({ ...weekend, goHome: false }, []).map((d) => [d.from, d.until, d.shut])).toEqual([
    [weekend.startsAt, weekend.endsAt, null],
  ]);
  expect(doorDays({ ...weekend, startsLocal: null, startsAt: null }, [])).toEqual([]);
});

test('each day of several has its own beginning and end: those of its sessions, else the times of day of the event', () => {
  const days = doorDays(weekend, [
    session(2, '09:00', '10:00'),
    session(2, '20:30', '00:30'),
    session(3, '09:30', '12:00'),
  ]);
  expect(days.map((d) => [d.from, d.until, d.shut])).toEqual([
    // Friday has no session, and 15:00 is before its start: until the night.
    ['2026-07-10T21:00:00.000Z', '2026-07-11T07:00:00.000Z', '2026-07-11T07:00:00.000Z'],
    ['2026-07-11T12:00:00.000Z', '2026-07-12T03:30:00.000Z', '2026-07-12T07:00:00.000Z'],
    ['2026-07-12T12:30:00.000Z', '2026-07-12T18:00:00.000Z', null],
  ]);
});

test('what happens until four in the morning belongs to the evening before', () => {
  const days = doorDays(weekend, []);
  expect(dayAt(days, '2026-07-11T06:59:00.000Z')!.day).toBe(1);
  expect(dayAt(days, '2026-07-11T07:00:00.000Z')!.day).toBe(2);
  expect(dayAt(days, '2026-07-20T00:00:00.000Z')!.day).toBe(3);
  expect(nightsBefore(days, '2026-07-12T06:59:00.000Z')).toEqual(['2026-07-11T07:00:00.000Z']);
});

const mark = (
  id: string,
  state: DoorMark['state'],
  at: string,
  sessionId: string | null = null,
): DoorMark => ({
  id,
  state,
  at,
  undoes: [],
  sessionId,
});

test('who was not marked as leaving went home for the night, and is expected again', () => {
  const days = doorDays(weekend, []);
  const friday = mark('a', 'arrived', '2026-07-10T21:05:00.000Z');
  expect(presenceOn([friday], days, '2026-07-11T02:00:00.000Z')).toMatchObject({
    state: 'arrived',
    cameBefore: false,
  });
  expect(presenceOn([friday], days, '2026-07-11T12:00:00.000Z')).toMatchObject({
    state: 'expected',
    arrivedAt: null,
    undo: [],
    cameBefore: true,
  });
  const saturday = mark('b', 'arrived', '2026-07-11T13:00:00.000Z');
  expect(presenceOn([saturday, friday], days, '2026-07-11T14:00:00.000Z')).toMatchObject({
    state: 'arrived',
    arrivedAt: saturday.at,
    undo: ['b'],
    cameBefore: true,
  });
  expect(presenceOf([friday, saturday], nightsBefore(days, '2026-07-11T14:00:00.000Z')).stays).toEqual([
    { from: friday.at, until: '2026-07-11T07:00:00.000Z' },
    { from: saturday.at, until: null },
  ]);
});

test('coming to a session is coming to the event; leaving it is not leaving the event', () => {
  const marks = [
    mark('a', 'arrived', '2026-07-10T21:30:00.000Z', 's1'),
    mark('b', 'left', '2026-07-10T22:00:00.000Z', 's1'),
    mark('c', 'arrived', '2026-07-10T22:05:00.000Z', 's2'),
  ];
  expect(presenceOf(marksOfEvent(marks))).toMatchObject({
    state: 'arrived',
    arrivedAt: marks[0]!.at,
    leftAt: null,
  });
  expect(presenceOf(marksOfSession(marks, 's1')).state).toBe('left');
  expect(presenceOf(marksOfSession(marks, 's2')).state).toBe('arrived');
  expect(presenceOf(marksOfSession(marks, 's3')).state).toBe('expected');
});

test('nights part stays the same way in whatever order marks are told', () => {
  const days = doorDays(weekend, []);
  const nights = nightsBefore(days, weekend.endsAt);
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ state: fc.constantFrom('arrived' as const, 'left' as const), minute: fc.nat(45 * 60) }),
        {
          maxLength: 12,
        },
      ),
      fc.infiniteStream(fc.nat()),
      (steps, order) => {
        const marks = steps.map(({ state, minute }, n) =>
          mark(`m${n}`, state, new Date(Date.parse(weekend.startsAt) + minute * 60_000).toISOString()),
        );
        const is = presenceOf(marks, nights);
        const shuffled = marks
          .map((m) => ({ m, o: order.next().value! }))
          .sort((a, b) => a.o - b.o)
          .map(({ m }) => m);
        expect(presenceOf(shuffled, nights)).toEqual(is);
        // No stay goes through a night.
        for (const stay of is.stays)
          for (const night of nights)
            expect(stay.from < night && (stay.until === null || stay.until > night)).toBe(false);
      },
    ),
  );
});
