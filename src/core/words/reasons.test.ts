import { expect, test } from 'vitest';
import { consentTopics } from '#core/contacts/consent.ts';
import { reasonsEn } from './reasons.en.ts';
import { because, type ReasonCode, sayReason } from './reasons.ts';

test('a reason is said with what it is filled in with: names, dates, counts with their noun', () => {
  expect(sayReason(because('birth same', { date: { date: '1998-06-21' } }))).toBe(
    'same birth date, 21 Jun 1998',
  );
  expect(sayReason(because('needs, some free', { seats: 1, count: 1 }))).toBe('needs 1 seat, 1 is free');
  expect(sayReason(because('needs, some free', { seats: 6, count: 4 }))).toBe('needs 6 seats, 4 are free');
  expect(sayReason(because('time for clearance', { notice: 21, working: 1 }))).toBe(
    'cleared 21 days before the event, and the steps take 1 working day',
  );
  expect(sayReason(because('failed for good', { failure: 'no answer', count: 5 }))).toBe(
    'no answer; given up after 5 tries',
  );
});

test('one reason may be the end of another', () => {
  const none = because('nobody to send to', { name: 'Mai', why: because('asked') });
  expect(sayReason(none)).toBe('nobody to send to: Mai, who booked, gets none (asked not to be contacted)');
  // As it comes back from where it is kept.
  expect(sayReason(JSON.parse(JSON.stringify(none)))).toBe(sayReason(none));
});

test('every topic has its words', () => {
  const codes = new Set(Object.keys(reasonsEn));
  for (const topic of consentTopics) expect(codes).toContain(`said no to ${topic}` satisfies ReasonCode);
});

test('what was written before reasons had codes is said as it was', () => {
  expect(sayReason(because('as written', { words: 'her sister says so' }))).toBe('her sister says so');
});
