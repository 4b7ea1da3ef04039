import ICAL from 'ical.js';
import { Temporal } from 'temporal-polyfill';
import type { Instant, Zone } from '#core/time/clock.ts';

/** An offset from UTC as the standard writes it: "-03:00" for Halifax in summer. */
const offset = (nanoseconds: number): ICAL.UtcOffset =>
  ICAL.UtcOffset.fromSeconds(Math.round(nanoseconds / 1e9));
const plain = (at: Temporal.Instant, nanoseconds: number): ICAL.Time =>
  ICAL.Time.fromDateTimeString(
    at.add({ nanoseconds }).toZonedDateTimeISO('UTC').toPlainDateTime().toString({ smallestUnit: 'second' }),
  );

/**
 * A zone as a VTIMEZONE (RFC 5545 section 3.6.5), for the time from one instant to another: each change of its offset that counts
 * there, with the wall time at which it begins by the offset before. A zone without any has one that always holds.
 */
export function timeZoneOf(zone: Zone, from: Instant, to: Instant): ICAL.Component {
  const component = new ICAL.Component('vtimezone');
  component.addPropertyWithValue('tzid', zone);
  const last = Temporal.Instant.from(to);
  const begin = Temporal.Instant.from(from).toZonedDateTimeISO(zone);
  let change = begin.add({ seconds: 1 }).getTimeZoneTransition('previous');
  if (!change) {
    observe(
      component,
      Temporal.Instant.from('1970-01-01T00:00Z'),
      begin.offsetNanoseconds,
      begin.offsetNanoseconds,
    );
    change = begin.getTimeZoneTransition('next');
  }
  // The next change after the last instant too: files are kept, and a year later somebody may add to them.
  for (let after = false; change && !after; change = change.getTimeZoneTransition('next')) {
    const at = change.toInstant();
    after = Temporal.Instant.compare(at, last) > 0;
    const before = at.subtract({ nanoseconds: 1 }).toZonedDateTimeISO(zone).offsetNanoseconds;
    observe(component, at, before, change.offsetNanoseconds);
  }
  return component;
}

function observe(component: ICAL.Component, at: Temporal.Instant, before: number, then: number): void {
  const part = new ICAL.Component(then > before ? 'daylight' : 'standard');
  part.addPropertyWithValue('dtstart', plain(at, before));
  part.addPropertyWithValue('tzoffsetfrom', offset(before));
  part.addPropertyWithValue('tzoffsetto', offset(then));
  component.addSubcomponent(part);
}
