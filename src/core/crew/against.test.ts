import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sayAgainst } from '#core/words/against.ts';
import { againstOf, type Candidate, isDecidedFirst, type RoleAsks, type Stint } from './against.ts';

const hour = 3_600_000;
const midnight = Date.parse('2026-08-08T00:00:00.000Z');
const at = (hours: number) => new Date(midnight + hours * hour).toISOString();
const stint = (shiftId: string, from: number, hours: number): Stint => ({
  shiftId,
  label: shiftId,
  startsAt: at(from),
  endsAt: at(from + hours),
  spot: { place: '', point: null },
});
const wanted = (from: number, hours: number) => ({
  ...stint('wanted', from, hours),
  startsLocal: at(from).slice(0, 16),
  endsLocal: at(from + hours).slice(0, 16),
});
const plain: Candidate = {
  stints: [],
  seatAt: null,
  birthDate: null,
  skills: [],
  quiet: null,
  applied: null,
};
const free: RoleAsks = { name: 'Gate', fromAge: null, needs: [] };
const rules = { restHours: 8, placeMinutes: 10, neverOverridden: [] };
const kinds = (from: number, hours: number, who: Partial<Candidate>, role: Partial<RoleAsks> = {}) =>
  againstOf(wanted(from, hours), { ...free, ...role }, { ...plain, ...who }, rules).map((a) => a.kind);

test('shifts that touch do not overlap; rest is asked once in 24 hours', () => {
  const early = stint('early', 8, 4);
  expect(kinds(11.5, 3, { stints: [early] })).toEqual(['overlap']);
  expect(kinds(12, 3, { stints: [early] })).toEqual([]);
  // From 8 to 22 lie 14 hours: ten are left of that day.
  expect(kinds(18, 4, { stints: [early] })).toEqual([]);
  // From 8 to one at night there are 17: only seven are left.
  expect(kinds(18, 7, { stints: [early] })).toEqual(['short rest']);
  expect(kinds(20, 5, { stints: [stint('next', 31, 6)] })).toEqual(['short rest']);
  expect(kinds(20, 5, { stints: [stint('next', 33, 6)] })).toEqual([]);
  const [short] = againstOf(wanted(20, 5), free, { ...plain, stints: [stint('next', 31, 6)] }, rules);
  expect(sayAgainst(short!)).toBe('only 6 hours of rest beside next');
});

test('from one place to another they need time, as much as the way takes where it is known', () => {
  const point = [44.6, -63.4] as const;
  const there = (place: string, north: number | null = null) => ({
    place,
    point: north === null ? null : ([point[0] + north, point[1]] as const),
  });
  const said = (from: number, before: ReturnType<typeof there>, after: ReturnType<typeof there>) =>
    againstOf(
      { ...wanted(from, 2), spot: after },
      free,
      { ...plain, stints: [{ ...stint('Gate', 8, 4), spot: before }] },
      rules,
    ).map(sayAgainst);
  expect(said(12, there('Landing A'), there('Landing B'))).toEqual([
    'has 0 minutes from Gate; the way takes about 10',
  ]);
  expect(said(12.25, there('Landing A'), there('Landing B'))).toEqual([]);
  expect(said(12, there('Landing A'), there('Landing A'))).toEqual([]);
  expect(said(12.25, there('', 0), there('', 0.05))).toEqual([
    'has 15 minutes from Gate; the way takes about 21',
  ]);
  // Two at once is said as that, and short rest is enough said.
  expect(said(11, there('Landing A'), there('Landing B'))).toEqual(['at the same time as Gate']);
});

test('what clashes one way clashes the other, and agrees with counting half hours one by one', () => {
  const half = fc.integer({ min: 0, max: 96 }).map((n) => n / 2);
  const length = fc.integer({ min: 1, max: 20 }).map((n) => n / 2);
  fc.assert(
    fc.property(half, length, half, length, (a, m, b, n) => {
      const one = kinds(a, m, { stints: [stint('other', b, n)] });
      expect(kinds(b, n, { stints: [stint('other', a, m)] })).toEqual(one);
      const halves = (from: number, hours: number) =>
        new Set(Array.from({ length: hours * 2 }, (_, at) => from * 2 + at));
      const mine = halves(a, m);
      const both = [...halves(b, n)].some((h) => mine.has(h));
      const gap = a >= b + n ? a - b - n : b - a - m;
      const span = Math.max(a + m, b + n) - Math.min(a, b);
      expect(one).toEqual(both ? ['overlap'] : gap < 8 && span > 16 ? ['short rest'] : []);
    }),
  );
});

test('a shift does not stand in its own way', () => {
  expect(kinds(8, 4, { stints: [stint('wanted', 8, 4)] })).toEqual([]);
});

test('an age is that on the first day, and one that is not known is said', () => {
  const from = (fromAge: number) => ({ fromAge });
  expect(kinds(8, 4, { birthDate: '2008-08-08' }, from(18))).toEqual([]);
  expect(kinds(8, 4, { birthDate: '2008-08-09' }, from(18))).toEqual(['age']);
  expect(kinds(20, 8, { birthDate: '2008-08-09' }, from(18))).toEqual(['age']);
  expect(kinds(8, 4, {}, from(18))).toEqual(['age unknown']);
  expect(kinds(8, 4, { birthDate: '2020-01-01' })).toEqual([]);
});

test('a certificate holds through the last day of the shift, and counts once somebody has seen it', () => {
  const aid = { id: 'aid', name: 'First aid certificate', certificate: true };
  const needs = { needs: [aid] };
  const with_ = (until: string | null, seen: boolean) => ({ skills: [{ skillId: 'aid', until, seen }] });
  expect(kinds(8, 4, {}, needs)).toEqual(['skill']);
  expect(kinds(8, 4, with_('2026-08-08', true), needs)).toEqual([]);
  // After midnight it is the next day.
  expect(kinds(20, 8, with_('2026-08-08', true), needs)).toEqual(['expired']);
  expect(kinds(8, 4, with_('2026-08-07', true), needs)).toEqual(['expired']);
  expect(kinds(8, 4, with_(null, true), needs)).toEqual([]);
  expect(kinds(8, 4, with_('2027-01-01', false), needs)).toEqual(['unseen']);
  // A skill that is no certificate is taken at their word.
  expect(kinds(8, 4, with_(null, false), { needs: [{ ...aid, certificate: false }] })).toEqual([]);
});

test('the weightiest is said first; of whoever is gone nobody decides otherwise, nor where the organization says never', () => {
  const all = againstOf(
    wanted(8, 4),
    {
      name: 'First aid',
      fromAge: 18,
      needs: [{ id: 'aid', name: 'First aid certificate', certificate: true }],
    },
    {
      stints: [stint('rest', 12, 4), stint('other', 9, 1), stint('late', 30, 2)],
      seatAt: 'Fen Supper',
      birthDate: null,
      skills: [],
      quiet: 'died',
      applied: null,
    },
    { restHours: 8, placeMinutes: 10, neverOverridden: ['overlap'] },
  );
  expect(all.map((a) => [a.kind, a.absolute])).toEqual([
    ['gone', true],
    ['overlap', true],
    ['own seat', false],
    ['age unknown', false],
    ['skill', false],
  ]);
  expect(kinds(8, 4, { quiet: 'asked' })).toEqual(['quiet']);
});

test('a role that asks anything is decided first, whoever asks', () => {
  const role = { fromAge: null, anybody: true, needs: [] };
  expect(isDecidedFirst(role)).toBe(false);
  expect(isDecidedFirst({ ...role, fromAge: 16 })).toBe(true);
  expect(isDecidedFirst({ ...role, anybody: false })).toBe(true);
  expect(isDecidedFirst({ ...role, needs: ['aid'] })).toBe(true);
});
