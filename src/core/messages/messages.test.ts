import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { because, sayReason } from '#core/words/reasons.ts';
import { merge, unknownFields } from './merge.ts';
import { type PlanStep, planStep, type Recipient } from './plan.ts';
import { nextTry } from './retry.ts';
import { defaultSteps, directTexts, ownFields } from './texts.ts';

const event = {
  startsAt: '2026-08-08T12:00:00.000Z',
  endsAt: '2026-08-08T19:30:00.000Z',
  zone: 'America/Halifax',
  balanceDays: 7,
};
const dayBefore: PlanStep = {
  id: 's',
  name: 'Reminder',
  moment: 'start',
  offset: { days: -1, minutes: 0 },
  audience: 'attendees',
};
const who = (key: string, part: Partial<Recipient> = {}): Recipient => ({
  key,
  contactId: key,
  name: key,
  email: `${key}@fenmail.example`,
  anchor: '2026-07-01T12:00:00.000Z',
  since: '2026-07-01T12:00:00.000Z',
  coveredBy: null,
  excludedBecause: null,
  ...part,
});

describe('planning a step', () => {
  test('everybody is either planned or left out with a reason', () => {
    const recipients = [
      who('mai'),
      who('theo', { coveredBy: { key: 'mai', name: 'Mai' } }),
      who('ward', { coveredBy: { key: 'silent', name: 'Silent' } }),
      who('other', { coveredBy: { key: 'twin', name: 'Twin' } }),
      who('late', { since: '2026-08-08T11:00:00.000Z' }),
      who('silent', { email: null }),
      who('twin', { email: 'MAI@fenmail.example' }),
      who('quiet', { excludedBecause: because('asked') }),
    ];
    const { planned, leftOut } = planStep(dayBefore, event, recipients);
    expect(planned.map((p) => [p.recipient.key, p.at])).toEqual([['mai', '2026-08-07T12:00:00.000Z']]);
    expect(Object.fromEntries(leftOut.map((l) => [l.recipient.key, sayReason(l.why)]))).toEqual({
      theo: 'covered by the copy to Mai',
      ward: 'nobody to send to: Silent, who booked, gets none (no email address)',
      other: 'covered by the copy to Twin',
      late: 'registered after the moment had passed',
      silent: 'no email address',
      twin: 'one copy to this address is enough; it goes to mai',
      quiet: 'asked not to be contacted',
    });
  });
  test('orders and crew get a copy for each, also at one address', () => {
    expect(
      planStep({ ...dayBefore, audience: 'crew', moment: 'shift start' }, event, [
        who('a', { email: 'x@y.example', anchor: '2026-08-08T12:00:00.000Z' }),
        who('b', { email: 'x@y.example', anchor: '2026-08-08T12:00:00.000Z' }),
      ]).planned,
    ).toHaveLength(2);
  });
  test('an event without a date plans nothing but confirmations', () => {
    const undated = { ...event, startsAt: null, endsAt: null };
    expect(planStep(dayBefore, undated, [who('mai')]).leftOut[0]!.why).toEqual(because('no event date'));
    expect(
      planStep({ ...dayBefore, moment: 'registration made', offset: { days: 0, minutes: 0 } }, undated, [
        who('mai'),
      ]).planned,
    ).toHaveLength(1);
  });
  test('nobody is both planned and left out, nobody is forgotten', () => {
    const recipient = fc.record({
      email: fc.option(fc.constantFrom('a@x.example', 'b@x.example'), { nil: null }),
      coveredBy: fc.option(fc.constant({ key: '0', name: 'x' }), { nil: null }),
      excludedBecause: fc.option(fc.constant(because('died')), { nil: null }),
    });
    fc.assert(
      fc.property(fc.array(recipient, { maxLength: 20 }), (parts) => {
        const { planned, leftOut } = planStep(
          dayBefore,
          event,
          parts.map((p, n) => who(String(n), p)),
        );
        expect(new Set([...planned, ...leftOut].map((x) => x.recipient.key)).size).toBe(parts.length);
        expect(planned.length + leftOut.length).toBe(parts.length);
        expect(new Set(planned.map((p) => p.recipient.email)).size).toBe(planned.length);
      }),
    );
  });
});

test('merge fields are filled; a slip is found', () => {
  expect(merge('Hello {{name}}, {{ event }}{{place}}!', { name: 'Mai', event: 'Open Water Day' })).toBe(
    'Hello Mai, Open Water Day!',
  );
  expect(unknownFields('Hello {{nmae}} {{name}}')).toEqual(['nmae']);
  for (const text of defaultSteps)
    for (const part of [text.subject, text.body])
      expect([...unknownFields(part.en), ...unknownFields(part.fr)]).toEqual([]);
  for (const [kind, text] of Object.entries(directTexts))
    for (const part of [text.subject, text.body])
      expect(
        [...unknownFields(part.en), ...unknownFields(part.fr)].filter(
          (field) => !ownFields[kind as keyof typeof ownFields]?.includes(field),
        ),
      ).toEqual([]);
});

test('a failed message is tried again, later each time, then given up', () => {
  const now = '2026-07-09T12:00:00.000Z';
  expect([1, 2, 3, 4, 5].map((n) => nextTry(n, now))).toEqual([
    '2026-07-09T12:05:00.000Z',
    '2026-07-09T12:30:00.000Z',
    '2026-07-09T14:00:00.000Z',
    '2026-07-10T00:00:00.000Z',
    null,
  ]);
});
