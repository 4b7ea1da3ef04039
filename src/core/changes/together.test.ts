import { expect, test } from 'vitest';
import { noConsequences } from '#core/events/consequences.ts';
import { followedTogether, lettersTogether } from './together.ts';

const letter = (to: 'registrants' | 'crew', of: object = {}) => ({
  to,
  bySelf: true,
  told: true,
  count: 1,
  leftOut: [] as { name: string; why: string }[],
  sample: null as { name: string } | null,
  calendar: null as string | null,
  ...of,
});

test('of each sort there is one letter, with everybody who gets it and everybody who does not', () => {
  expect(
    lettersTogether([
      [letter('registrants', { count: 2, told: false })],
      [],
      [
        letter('crew', { bySelf: false, told: false }),
        letter('registrants', { count: 3, sample: { name: 'Bo' }, leftOut: [{ name: 'Ida', why: 'x' }] }),
      ],
      [
        letter('registrants', {
          sample: { name: 'Cy' },
          calendar: 'moves',
          leftOut: [{ name: 'Ole', why: 'y' }],
        }),
      ],
    ]),
  ).toEqual([
    letter('registrants', {
      count: 6,
      sample: { name: 'Bo' },
      calendar: 'moves',
      leftOut: [
        { name: 'Ida', why: 'x' },
        { name: 'Ole', why: 'y' },
      ],
    }),
    letter('crew', { bySelf: false, told: false }),
  ]);
});

test('messages of one step are counted together; different moments are none, and what they are not sent for keeps them apart', () => {
  const of = (count: number, more: object = {}) => ({
    line: 'Reminder',
    fate: 'moved' as const,
    count,
    from: '2026-08-05T12:00:00.000Z',
    to: '2026-08-06T12:00:00.000Z',
    why: null,
    ...more,
  });
  const { messages, reopened } = followedTogether({
    ...noConsequences,
    messages: [
      of(2),
      of(3, { to: '2026-09-03T12:00:00.000Z' }),
      of(1, { fate: 'held back', why: 'too late' }),
      of(4, { fate: 'held back', why: 'none' }),
    ],
    reopened: ['Safety', 'Safety', 'Premises'],
  });
  expect(messages).toEqual([
    of(5, { to: null }),
    of(1, { fate: 'held back', why: 'too late' }),
    of(4, { fate: 'held back', why: 'none' }),
  ]);
  expect(reopened).toEqual(['Safety', 'Premises']);
});
