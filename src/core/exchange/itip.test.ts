import ICAL from 'ical.js';
import { expect, test } from 'vitest';
import { writeCalendar } from './calendar.ts';
import { asScheduling, methodOf } from './itip.ts';

const entry = {
  uid: 'e1@acolyte',
  startsAt: '2026-08-08T12:00:00.000Z',
  endsAt: '2026-08-08T15:00:00.000Z',
  zone: 'America/Halifax',
  summary: 'Open Water Day',
  sequence: 3,
};
const write = (cancelled: boolean) =>
  writeCalendar('Open Water Day', [{ ...entry, cancelled }], '2026-07-01T12:00:00.000Z');
const organizer = { name: 'Brackenmere "Commons"', address: 'hello@brackenmere.example' };
const attendee = { name: 'Mai; Sallow\r\nX-EVIL:1', address: 'mai@fenmail.example' };

test('an entry is sent to one attendee whose part is accepted, so that it is noted, or moved, and nobody is asked (RFC 5546 3.2.2)', () => {
  const text = asScheduling(write(false), organizer, attendee);
  const file = new ICAL.Component(ICAL.parse(text));
  expect(file.getFirstPropertyValue('method')).toBe('REQUEST');
  const event = file.getFirstSubcomponent('vevent')!;
  expect(event.getFirstPropertyValue('organizer')).toBe('mailto:hello@brackenmere.example');
  const to = event.getAllProperties('attendee');
  expect(to.map((a) => a.getFirstValue())).toEqual(['mailto:mai@fenmail.example']);
  expect([to[0]!.getParameter('partstat'), to[0]!.getParameter('rsvp')]).toEqual(['ACCEPTED', 'FALSE']);
  expect(event.getFirstPropertyValue('uid')).toBe('e1@acolyte');
  expect(event.getFirstPropertyValue('sequence')).toBe(3);
  expect(text).not.toMatch(/^X-EVIL/mu);
  // Sent to somebody else, it is theirs alone.
  const other = asScheduling(text, organizer, { name: 'Ari', address: 'ari@fenmail.example' });
  expect(other).not.toContain('mai@fenmail.example');
});

test('one that is called off is struck out (RFC 5546 3.2.5)', () => {
  expect(methodOf(write(true))).toBe('CANCEL');
  expect(asScheduling(write(true), organizer, attendee)).toMatch(/^METHOD:CANCEL\r$/mu);
});
