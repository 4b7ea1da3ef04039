import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type ReasonCode, sayReason } from '#core/words/reasons.ts';
import { type About, aboutOf, audienceNames, type EventAudience, keyOf } from './audiences.ts';
import { firstTexts } from './firstTexts.ts';
import { plainLine } from './lines.ts';
import {
  type Moment,
  momentRule,
  moments,
  nothingKnown,
  type Standing,
  sayMoment,
  surveyOf,
} from './moments.ts';
import { planLine } from './planning.ts';

describe('who gets what hangs on a moment', () => {
  const ahead = {
    startsAt: null,
    endsAt: null,
    doorsAt: null,
    registrationClosesAt: null,
    absencesAt: null,
    zone: 'UTC',
    balanceDays: 7,
    namesDays: 2,
    salesOpenLocal: null,
    admission: { ways: [] },
  };
  const over = { ...ahead, absencesAt: '2026-08-08T19:30:00.000Z' };

  test.each<[Moment, Partial<Standing>, boolean, ReasonCode | null]>([
    ['survey', { attendance: 'missed', counted: true }, true, 'did not come'],
    ['survey', { attendance: 'missed', counted: false }, true, null],
    ['survey', { attendance: 'arrived' }, true, null],
    ['survey', { attendance: 'expected' }, true, null],
    ['survey', {}, false, null],
    ['survey unanswered', { attendance: 'missed' }, true, 'did not come'],
    ['survey unanswered', { attendance: 'missed', counted: false }, true, null],
    ['survey unanswered', { attendance: 'arrived', answered: true }, true, 'answered'],
    ['survey unanswered', { attendance: 'arrived', answered: false }, true, null],
    ['survey unanswered', {}, false, null],
    ['survey again', { attendance: 'missed', counted: true }, true, 'did not come'],
    ['survey again unanswered', { attendance: 'arrived', answered: true }, true, 'answered'],
    ['survey again unanswered', { attendance: 'arrived', answered: null }, true, null],
    ['absent unanswered', { attendance: 'arrived' }, true, 'came'],
    ['absent unanswered', { attendance: 'missed', counted: true, answered: true }, true, 'answered'],
    ['absent unanswered', { attendance: 'missed', counted: true, answered: false }, true, null],
    ['absent', { attendance: 'expected' }, false, null],
    ['absent', { attendance: 'missed', counted: false }, true, 'nobody counted'],
    ['absent', { attendance: 'arrived' }, false, 'came'],
    ['absent', { attendance: 'left' }, true, 'came'],
    ['absent', { attendance: 'missed', counted: true }, true, null],
    ['waiver missing', { waiver: { asked: false, missing: false } }, false, 'no waiver asked'],
    ['waiver missing', { waiver: { asked: true, missing: false } }, false, 'nothing to sign'],
    ['waiver missing', { waiver: { asked: true, missing: true } }, false, null],
    ['waiver missing', {}, false, null],
    ['guests unnamed', { unnamed: 0 }, false, 'everybody named'],
    ['guests unnamed', { unnamed: 2 }, false, null],
    ['guests unnamed', {}, false, null],
    ['membership ends', { renewed: true }, false, 'renewed'],
    ['membership ends', { renewed: false }, false, null],
    ['gift made', { wentBack: true }, false, 'gift went back'],
    ['gift made', { wentBack: false }, false, null],
    ['pledge missed', { cardMissing: false }, false, 'no card missing'],
    ['pledge missed', { cardMissing: true }, false, null],
    ['balance due', { owes: false }, false, 'nothing to pay'],
    ['balance due', { owes: true }, false, null],
    ['start', { attendance: 'missed', waiver: { asked: false, missing: false } }, true, null],
  ])('%s, to somebody who stands like %j (settled: %s): %s', (moment, part, settled, why) => {
    expect(
      momentRule(moment).whyNot?.({ ...nothingKnown, ...part }, settled ? over : ahead)?.code ?? null,
    ).toBe(why);
  });

  test('a line is about the survey of those it is for, of the first time or the later one', () => {
    expect(surveyOf('survey', 'attendees')).toEqual({ audience: 'attendees', wave: 1 });
    expect(surveyOf('survey again unanswered', 'crew')).toEqual({ audience: 'crew', wave: 2 });
    expect(surveyOf('absent', 'attendees')).toEqual({ audience: 'absent', wave: 1 });
    expect(surveyOf('end', 'guardians')).toEqual({ audience: 'guardians', wave: 1 });
    expect(surveyOf('end', 'orders')).toBeNull();
  });

  test('one copy serves a whole party, except where each is asked for themselves', () => {
    expect(moments.filter((m) => momentRule(m).alone)).toEqual([
      'absent',
      'absent unanswered',
      'survey',
      'survey unanswered',
      'survey again',
      'survey again unanswered',
    ]);
  });

  test('every moment has words and a first text, in both languages', () => {
    for (const moment of moments)
      for (const { en, fr } of [
        firstTexts[moment].subject,
        firstTexts[moment].body,
        firstTexts[moment].short,
      ])
        expect(Math.min(en.length, fr.length)).toBeGreaterThan(10);
  });
});

describe('audiences', () => {
  const belongs: Record<EventAudience, readonly About['of'][]> = {
    orders: ['order'],
    attendees: ['seat', 'buyer'],
    guardians: ['guardian'],
    sessions: ['session'],
    crew: ['shift'],
    waiting: ['order'],
    accepted: ['occasion'],
    offered: ['occasion'],
    'given up': ['occasion'],
    following: ['follower'],
  };
  test('a key says what it is about, in its audience', () => {
    fc.assert(
      fc.property(fc.constantFrom(...audienceNames), fc.uuid(), fc.nat(), (audience, id, pick) => {
        const of = belongs[audience][pick % belongs[audience].length]!;
        const about = (
          of === 'occasion'
            ? { of, id, at: '2026-07-01T12:00:00.000Z' }
            : of === 'guardian'
              ? { of, id, contactId: id }
              : of === 'session'
                ? { of, id, sessionId: id }
                : { of, id }
        ) as About;
        expect(aboutOf(audience, keyOf(about))).toEqual(about);
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
    doorsAt: '2026-08-08T11:30:00.000Z',
    registrationClosesAt: '2026-08-06T15:00:00.000Z',
    absencesAt: null,
    zone: 'America/Halifax',
    balanceDays: 7,
    namesDays: 2,
    salesOpenLocal: '2026-07-10T18:00',
    admission: { ways: [] },
  };
  const anchor = '2026-07-01T12:00:00.000Z';
  test.each([
    ['registration made', anchor],
    ['waitlisted', anchor],
    ['accepted', anchor],
    ['seats offered', anchor],
    ['seats given up', anchor],
    ['registration opens', '2026-07-10T21:00:00.000Z'],
    ['registration closes', event.registrationClosesAt],
    ['guests unnamed', '2026-08-06T12:00:00.000Z'],
    ['doors', event.doorsAt],
    ['absent', event.endsAt],
    ['survey', event.endsAt],
    ['survey unanswered', event.endsAt],
    ['absent unanswered', event.endsAt],
    ['survey again', event.endsAt],
    ['survey again unanswered', event.endsAt],
    ['session start', anchor],
    ['shift start', anchor],
    ['balance due', '2026-08-01T12:00:00.000Z'],
    ['start', event.startsAt],
    ['waiver missing', event.startsAt],
    ['end', event.endsAt],
  ] as const)('%s is at %s', (moment, at) => {
    expect(momentRule(moment).at(event, anchor)).toBe(at);
    expect(sayMoment({ moment, offset: { days: -1, minutes: 0 } })).toMatch(/^1 day before /u);
  });

  test('whoever comes after a moment is left out, in the words of their audience, unless it answers that they came', () => {
    const offset = { days: -30, minutes: 0 };
    const did: Partial<Record<EventAudience, string>> = {
      crew: 'signed up',
      waiting: 'came onto the waitlist',
      following: 'came to follow it',
      sessions: 'chose it',
    };
    for (const moment of moments)
      for (const audience of momentRule(moment).audiences) {
        const { planned, leftOut } = planLine(
          { ...plainLine, id: 'l', name: 'l', moment, offset, audience, addedAt: null, sentByHandAt: null },
          event,
          [
            {
              key: 'late',
              contactId: null,
              name: 'Late',
              reach: { email: 'late@fenmail.example', 'text message': null },
              bounced: false,
              left: false,
              anchor,
              since: '2026-08-08T11:00:00.000Z',
              coveredBy: null,
              forOthers: false,
              quiet: null,
              standing: nothingKnown,
              household: null,
              zone: null,
            },
          ],
          { quiet: null, holidays: [] },
        );
        if (momentRule(moment).answers) expect(planned).toHaveLength(1);
        else
          expect(leftOut.map((l) => sayReason(l.why))).toEqual([
            `${did[audience] ?? 'registered'} after the moment had passed`,
          ]);
      }
  });
});
