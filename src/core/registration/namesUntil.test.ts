import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { namesUntil, namesWanted } from './namesUntil.ts';

const zone = 'America/Halifax';
const event = { startsAt: '2026-07-30T15:00:00.000Z', namesDays: 7, zone };

describe('when guests are to be named', () => {
  test.each([
    // Worked by hand: the last moment is 23 July, 12:00 in Halifax.
    ['2026-07-01T12:00:00.000Z', '2026-07-23T15:00:00.000Z'],
    ['2026-07-19T15:00:00.000Z', '2026-07-23T15:00:00.000Z'],
    ['2026-07-20T12:00:00.000Z', '2026-07-24T12:00:00.000Z'],
    ['2026-07-29T12:00:00.000Z', '2026-07-30T15:00:00.000Z'],
  ])('booked %s: by %s', (booked, wanted) => {
    expect(namesWanted(event, booked)).toBe(wanted);
  });
  test('without a date, never', () => {
    expect(namesUntil({ startsAt: null, namesDays: 2 })).toBeNull();
    expect(namesWanted({ ...event, startsAt: null }, '2026-07-01T12:00:00.000Z')).toBeNull();
  });
  test('never after the event begins, and before the last moment for nobody', () => {
    const day = Date.parse('2026-07-01T00:00:00Z');
    fc.assert(
      fc.property(fc.nat(40), fc.nat(20), (days, namesDays) => {
        const booked = new Date(day + days * 86_400_000).toISOString();
        const wanted = namesWanted({ ...event, namesDays }, booked)!;
        expect(wanted <= event.startsAt).toBe(true);
        expect(wanted >= namesUntil({ ...event, namesDays })!).toBe(true);
      }),
    );
  });
});
