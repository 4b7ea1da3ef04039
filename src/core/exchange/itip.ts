import ICAL from 'ical.js';
import { oneLine } from '#core/words/text.ts';

/** Somebody a calendar entry is sent to or comes from. */
export interface CalendarParty {
  name: string;
  address: string;
}

export type CalendarMethod = 'REQUEST' | 'CANCEL';

/** How an entry is taken by the calendar it reaches (RFC 5546 section 3.2): as one to note or move, or, where all are called off, to strike out. */
export function methodOf(calendar: string): CalendarMethod {
  const entries = new ICAL.Component(ICAL.parse(calendar)).getAllSubcomponents('vevent');
  return entries.length > 0 && entries.every((e) => e.getFirstPropertyValue('status') === 'CANCELLED')
    ? 'CANCEL'
    : 'REQUEST';
}

/**
 * A calendar file as a scheduling message (RFC 5546): from the organizer to one attendee, whose part is accepted already, so that nobody
 * is asked to answer. The same entry with a higher number moves it in their calendar.
 */
export function asScheduling(calendar: string, organizer: CalendarParty, attendee: CalendarParty): string {
  const file = new ICAL.Component(ICAL.parse(calendar));
  file.removeAllProperties('method');
  file.addPropertyWithValue('method', methodOf(calendar));
  const party = (name: 'organizer' | 'attendee', who: CalendarParty, more: Record<string, string> = {}) => {
    const property = new ICAL.Property(name);
    property.setValue(`mailto:${who.address}`);
    // A quote cannot stand within a parameter (RFC 5545 section 3.2).
    property.setParameter('cn', oneLine(who.name).replaceAll('"', '’'));
    for (const [key, value] of Object.entries(more)) property.setParameter(key, value);
    return property;
  };
  for (const entry of file.getAllSubcomponents('vevent')) {
    entry.removeAllProperties('organizer');
    entry.removeAllProperties('attendee');
    entry.addProperty(party('organizer', organizer));
    entry.addProperty(
      party('attendee', attendee, { role: 'REQ-PARTICIPANT', partstat: 'ACCEPTED', rsvp: 'FALSE' }),
    );
  }
  return `${file.toString()}\r\n`;
}
