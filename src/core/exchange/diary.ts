import ICAL from 'ical.js';
import type { Instant, Zone } from '#core/time/clock.ts';
import { instantOf, isZone } from '#core/time/wallTime.ts';
import { oneLine } from '#core/words/text.ts';

/** One stretch of time that somebody else's diary has taken. */
export interface DiaryEntry {
  from: Instant;
  to: Instant;
  summary: string;
  /** Not certain yet (STATUS:TENTATIVE). */
  tentative: boolean;
}

/** What was found in a diary, and what of it could not be read. */
export interface Diary {
  entries: DiaryEntry[];
  /** Entries that say nothing that could be understood. */
  unread: number;
  /** Names of zones that nobody knows; their times are read as those of the place. */
  unknownZones: string[];
  /** More stretches than are kept. */
  cut: boolean;
}

export class DiaryProblem extends Error {
  constructor(readonly code: 'diary-not-a-calendar' | 'diary-large') {
    super(code);
  }
}

/** Most stretches kept of one diary, and most dates looked at of one rule: a rule may never end. */
const mostEntries = 20_000;
const mostDates = 20_000;
const mostDatesInAll = 300_000;
const mostCharacters = 25_000_000;
/** How long an entry is taken to last that says no end, in minutes. */
const minutesWithoutEnd = 60;

/**
 * Reads a calendar file (RFC 5545) as a diary: what is taken within a window. Recurring entries are laid out with their moved
 * and skipped dates; what is cancelled, or marked as free time, takes nothing. Throws DiaryProblem for what is no calendar.
 */
export function readDiary(text: string, window: { from: Instant; to: Instant }, zone: Zone): Diary {
  if (text.length > mostCharacters) throw new DiaryProblem('diary-large');
  let calendar: ICAL.Component;
  try {
    const parsed = ICAL.parse(text) as unknown[];
    // Several calendars in one file are read one after the other.
    const first = (Array.isArray(parsed[0]) ? parsed[0] : parsed) as ConstructorParameters<
      typeof ICAL.Component
    >[0];
    calendar = new ICAL.Component(first);
  } catch {
    throw new DiaryProblem('diary-not-a-calendar');
  }
  if (calendar.name !== 'vcalendar') throw new DiaryProblem('diary-not-a-calendar');
  const diary: Diary = { entries: [], unread: 0, unknownZones: [], cut: false };
  const unknown = new Set<string>();
  let looked = 0;
  const at = (time: ICAL.Time, tzid: string | null): Instant => {
    const wall = time.toString().slice(0, 16);
    if (time.isDate) return instantOf(`${wall.slice(0, 10)}T00:00`, zone);
    if (time.zone === ICAL.Timezone.utcTimezone) return time.toJSDate().toISOString();
    if (tzid && isZone(tzid)) return instantOf(wall, tzid);
    // A zone that the file describes itself, under whatever name.
    if (tzid && time.zone !== ICAL.Timezone.localTimezone) return time.toJSDate().toISOString();
    if (tzid) unknown.add(tzid);
    return instantOf(wall, zone);
  };
  const take = (item: ICAL.Event, starts: ICAL.Time, ends: ICAL.Time): void => {
    const from = at(starts, tzidOf(item, 'dtstart'));
    const said = at(ends, tzidOf(item, 'dtend') ?? tzidOf(item, 'dtstart'));
    const to = said > from ? said : new Date(Date.parse(from) + minutesWithoutEnd * 60_000).toISOString();
    if (to <= window.from || from >= window.to) return;
    if (diary.entries.length >= mostEntries) {
      diary.cut = true;
      return;
    }
    const status = String(item.component.getFirstPropertyValue('status') ?? '');
    diary.entries.push({
      from,
      to,
      summary: oneLine(item.summary ?? '').slice(0, 200),
      tentative: status === 'TENTATIVE',
    });
  };
  // The library looks for a zone through the whole calendar for every entry: entries stand alone, and zones are known by name.
  for (const described of calendar.getAllSubcomponents('vtimezone'))
    ICAL.TimezoneService.register(new ICAL.Timezone(described));
  const all = calendar
    .getAllSubcomponents('vevent')
    .map(
      (component) =>
        new ICAL.Component(component.toJSON() as ConstructorParameters<typeof ICAL.Component>[0]),
    );
  try {
    layOut(all);
  } finally {
    ICAL.TimezoneService.reset();
  }
  diary.unknownZones = [...unknown];
  diary.entries.sort((a, b) => (a.from < b.from ? -1 : 1));
  return diary;

  function layOut(all: readonly ICAL.Component[]): void {
    const uidOf = (component: ICAL.Component) => String(component.getFirstPropertyValue('uid'));
    const moved = new Map<string, ICAL.Component[]>();
    for (const component of all.filter((c) => c.hasProperty('recurrence-id')))
      moved.set(uidOf(component), [...(moved.get(uidOf(component)) ?? []), component]);
    for (const component of all) {
      if (component.hasProperty('recurrence-id')) continue;
      try {
        const item = new ICAL.Event(component);
        if (!item.startDate) throw new Error('no start');
        if (isFree(component)) continue;
        if (!item.isRecurring()) {
          take(item, item.startDate, item.endDate);
          continue;
        }
        for (const other of moved.get(item.uid) ?? []) item.relateException(new ICAL.Event(other));
        const dates = item.iterator();
        for (let n = 0; n < mostDates && looked < mostDatesInAll; n += 1) {
          looked += 1;
          const next = dates.next();
          if (!next) break;
          const { item: one, startDate, endDate } = item.getOccurrenceDetails(next);
          if (startDate.toJSDate().toISOString() > window.to) break;
          if (!isFree(one.component)) take(one, startDate, endDate);
        }
      } catch {
        diary.unread += 1;
      }
    }
    // What was moved of an entry that is not there stands for itself.
    const uids = new Set(all.filter((c) => !c.hasProperty('recurrence-id')).map(uidOf));
    for (const [uid, others] of moved)
      if (!uids.has(uid))
        for (const component of others) {
          const item = new ICAL.Event(component);
          if (item.startDate && !isFree(component)) take(item, item.startDate, item.endDate);
        }
  }
}

const isFree = (component: ICAL.Component): boolean =>
  component.getFirstPropertyValue('status') === 'CANCELLED' ||
  component.getFirstPropertyValue('transp') === 'TRANSPARENT';

const tzidOf = (item: ICAL.Event, property: 'dtstart' | 'dtend'): string | null => {
  const tzid = item.component.getFirstProperty(property)?.getParameter('tzid');
  return typeof tzid === 'string' ? tzid : null;
};
