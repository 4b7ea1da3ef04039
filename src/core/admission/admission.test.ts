import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  type Admission,
  type Applicant,
  admit,
  everybody,
  mayHelpToSignIn,
  type Way,
  type WayKind,
} from './admission.ts';

const way = (kind: WayKind, of: Partial<Way> = {}): Way => ({
  kind,
  unitIds: [],
  opensLocal: null,
  closesLocal: null,
  ...of,
});
const by = (...ways: Way[]): Admission => ({ ways, noReply: false, accepts: false, reply: 'yes or no' });
const stranger: Applicant = { member: false, units: new Set(), lists: [], invited: false, code: false };
const now = '2026-07-09T09:20';
const may = (a: Admission, who: Partial<Applicant> = {}, at = now) =>
  'in' in admit(a, { ...stranger, ...who }, at);

test.each<[WayKind, Partial<Applicant>]>([
  ['members', { member: true }],
  ['units', { units: new Set(['boats']) }],
  ['code', { code: true }],
  ['list', { lists: [{ free: false, overCapacity: false }] }],
  ['invited', { invited: true }],
])('%s come in, and nobody else', (kind, who) => {
  const only = by(way(kind, { unitIds: ['boats'] }));
  expect(may(only, who)).toBe(true);
  expect(admit(only, stranger, now)).toEqual({
    refusals: [{ kind, why: 'not theirs', unitIds: ['boats'], opensLocal: null }],
  });
  // What opens another way opens none of these.
  const others: Partial<Applicant> = {
    member: true,
    units: new Set(['boats']),
    lists: [{ free: true, overCapacity: true }],
    invited: true,
    code: true,
    ...Object.fromEntries(Object.keys(who).map((key) => [key, stranger[key as keyof Applicant]])),
  };
  expect(may(only, others)).toBe(false);
});

test('members come earlier than everybody; each way opens and closes to the minute', () => {
  const a = by(
    way('members', { opensLocal: '2026-07-01T00:00', closesLocal: '2026-07-20T00:00' }),
    way('everyone', { opensLocal: '2026-07-10T12:00' }),
  );
  expect(admit(a, stranger, now)).toEqual({
    refusals: [
      { kind: 'members', why: 'not theirs', unitIds: [], opensLocal: '2026-07-01T00:00' },
      { kind: 'everyone', why: 'not yet', unitIds: [], opensLocal: '2026-07-10T12:00' },
    ],
  });
  expect(may(a, { member: true })).toBe(true);
  expect(may(a, { member: true }, '2026-06-30T23:59')).toBe(false);
  expect(may(a, {}, '2026-07-10T11:59')).toBe(false);
  expect(may(a, {}, '2026-07-10T12:00')).toBe(true);
  const over = admit(by(way('members', { closesLocal: now })), { ...stranger, member: true }, now);
  expect(over).toMatchObject({ refusals: [{ why: 'over' }] });
});

test('a guest list gives what it gives, by whichever way somebody comes; of several the best', () => {
  const lists = [
    { free: true, overCapacity: false },
    { free: false, overCapacity: true },
  ];
  expect(admit(everybody, { ...stranger, lists }, now)).toEqual({ in: { free: true, overCapacity: true } });
  expect(admit(everybody, stranger, now)).toEqual({ in: { free: false, overCapacity: false } });
});

test('to sign in helps where a way depends on who somebody is', () => {
  expect(mayHelpToSignIn(everybody)).toBe(false);
  expect(mayHelpToSignIn(by(way('code')))).toBe(false);
  expect(mayHelpToSignIn(by(way('code'), way('units')))).toBe(true);
});

test('one way more never keeps anybody out', () => {
  const aWay = fc.record({
    kind: fc.constantFrom<WayKind>('everyone', 'members', 'units', 'code', 'list', 'invited'),
    unitIds: fc.subarray(['boats', 'herons']),
    opensLocal: fc.constantFrom(null, '2026-07-01T00:00', '2026-08-01T00:00'),
    closesLocal: fc.constantFrom(null, '2026-07-05T00:00', '2026-09-01T00:00'),
  });
  fc.assert(
    fc.property(
      fc.array(aWay, { maxLength: 5 }),
      aWay,
      fc.record({
        member: fc.boolean(),
        units: fc.subarray(['boats', 'herons']).map((u) => new Set(u)),
        lists: fc.constantFrom([], [{ free: true, overCapacity: false }]),
        invited: fc.boolean(),
        code: fc.boolean(),
      }),
      (ways, more, who) => {
        const before = admit(by(...ways), who, now);
        const after = admit(by(...ways, more), who, now);
        if ('in' in before) expect(after).toEqual(before);
        else if ('refusals' in after) expect(after.refusals).toHaveLength(ways.length + 1);
      },
    ),
  );
});
