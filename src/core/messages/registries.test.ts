import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type ReasonCode, sayReason } from '#core/words/reasons.ts';
import { type About, type Audience, aboutOf, audienceNames, keyOf } from './audiences.ts';
import { coversOthers, type Standing, whyNotGot } from './conditions.ts';
import { momentRule, moments, sayMoment } from './moments.ts';
import { planStep } from './plan.ts';

const standing = (part: Partial<Standing>): Standing => ({
  waiver: null,
  attendance: null,
  owes: null,
  ...part,
});

describe('conditions', () => {
  test.each<[string, Partial<Standing>, ReasonCode | null]>([
    ['survey', { attendance: 'missed' }, 'did not come'],
    ['survey', { attendance: 'arrived' }, null],
    ['survey', { attendance: 'expected' }, null],
    ['survey', {}, null],
    ['waiver', { waiver: { asked: false, missing: false } }, 'no waiver asked'],
    ['waiver', { waiver: { asked: true, missing: false } }, 'nothing to sign'],
    ['waiver', { waiver: { asked: true, missing: true } }, null],
    ['waiver', {}, null],
    ['balance', { owes: false }, 'nothing to pay'],
    ['balance', { owes: true }, null],
    ['reminder', { attendance: 'missed', waiver: { asked: false, missing: false } }, null],
    ['no such kind', { attendance: 'missed' }, null],
  ])('a %s to somebody who stands like %j: %s', (kind, part, why) => {
    expect(whyNotGot(kind, standing(part))?.code ?? null).toBe(why);
  });

  test('one copy serves a whole party, except where each is asked for themselves', () => {
    expect([coversOthers('reminder'), coversOthers('confirmation'), coversOthers('survey')]).toEqual([
      true,
      true,
      false,
    ]);
  });
});

describe('audiences', () => {
  const belongs: Record<Audience, readonly About['of'][]> = {
    orders: ['order'],
    attendees: ['seat', 'buyer'],
    crew: ['shift'],
  };
  test('a key says what it is about, in its audience', () => {
    fc.assert(
      fc.property(fc.constantFrom(...audienceNames), fc.uuid(), fc.nat(), (audience, id, pick) => {
        const of = belongs[audience][pick % belongs[audience].length]!;
        expect(aboutOf(audience, keyOf({ of, id }))).toEqual({ of, id });
      }),
    );
  });
  test('a seat and a buyer who does not come never share a key', () => {
    expect(keyOf({ of: 'seat', id: 'a' })).not.toBe(keyOf({ of: 'buyer', id: 'a' }));
  });
});

describe('moments', () => {
  const event = {
    startsAt: '2026-08-08T12:00:00.000Z',
    endsAt: '2026-08-08T19:30:00.000Z',
    zone: 'America/Halifax',
    balanceDays: 7,
  };
  const anchor = '2026-07-01T12:00:00.000Z';
  test.each([
    ['registration made', anchor],
    ['shift start', anchor],
    ['balance due', '2026-08-01T12:00:00.000Z'],
    ['start', event.startsAt],
    ['waiver missing', event.startsAt],
    ['end', event.endsAt],
  ] as const)('%s is at %s', (moment, at) => {
    expect(momentRule(moment).at(event, anchor)).toBe(at);
    expect(sayMoment({ moment, offset: { days: -1, minutes: 0 } })).toMatch(/^1 day before the /u);
  });

  test('whoever comes after a moment is left out, in the words of their audience, unless it answers that they came', () => {
    const offset = { days: -30, minutes: 0 };
    const did = { orders: 'registered', attendees: 'registered', crew: 'signed up' };
    for (const audience of audienceNames)
      for (const moment of moments) {
        const { planned, leftOut } = planStep({ id: 's', name: 's', moment, offset, audience }, event, [
          {
            key: 'late',
            contactId: null,
            name: 'Late',
            email: 'late@fenmail.example',
            anchor,
            since: '2026-08-08T11:00:00.000Z',
            coveredBy: null,
            excludedBecause: null,
          },
        ]);
        if (momentRule(moment).answers) expect(planned).toHaveLength(1);
        else
          expect(leftOut.map((l) => sayReason(l.why))).toEqual([
            `${did[audience]} after the moment had passed`,
          ]);
      }
  });
});
