import type { z } from 'zod';
import type { ListedEvent, listingQuery, PublicListing } from '#contract/publicEvent.ts';
import { isListedFor, type Visitor } from '#core/access/visitor.ts';
import type { KindLook, KindMark } from '#core/events/kinds.ts';
import { type ListingFilter, listingOf } from '#core/events/listing.ts';
import { shownTimes } from '#core/events/shown.ts';
import { type CalendarEntry, writeCalendar } from '#core/exchange/calendar.ts';
import { shiftDate } from '#core/time/dates.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { App } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { entryOf } from '../events/calendar.ts';
import { type ListedRow, readListed, readOffersOf } from '../events/store.ts';
import { readRegister } from '../kinds/store.ts';
import { withPictures } from '../pictures/store.ts';
import { theOrganization } from '../staff/store.ts';
import { registrationNow } from './public.ts';
import { readTakenOf } from './store.ts';

type Query = z.output<typeof listingQuery>;

/** Events as far back as anybody looks in the calendar. */
const everSince = '1900-01-01T00:00:00.000Z';

type Found = Omit<ListedRow, 'french'> & { french: ListedEvent['french'] };

/** Events that stand in the listing of whoever asks. */
const found = async (
  tx: Queries,
  since: string,
  {
    visitor = null,
    today = '',
    calledOff = false,
  }: { visitor?: Visitor | null; today?: string; calledOff?: boolean },
): Promise<Found[]> =>
  (await readListed(tx, since, calledOff))
    .filter((e) => isListedFor({ ...e, listed: true }, visitor, today))
    .map((e) => ({
      ...e,
      french:
        e.french.publicTitle || e.french.summary
          ? { title: e.french.publicTitle || e.title, summary: e.french.summary || e.summary }
          : null,
    }));

/** Each event with whether one can register, asked for many at once. */
async function withSeats(
  tx: Queries,
  events: readonly Found[],
  now: string,
): Promise<(Found & Pick<ListedEvent, 'registration'>)[]> {
  const ids = events.map((e) => e.id);
  const offersOf = await readOffersOf(tx, ids);
  const takenOf = await readTakenOf(tx, ids);
  return events.map((e) => ({
    ...e,
    registration: registrationNow(e, offersOf.get(e.id)!, takenOf.get(e.id)!, now),
  }));
}

/** Those asked for, where `open` is asked too: only where seats are to be had. */
async function narrowed(
  tx: Queries,
  events: readonly Found[],
  { open, ...filter }: ListingFilter & { open: string },
  now: string,
): Promise<Found[]> {
  const asked = listingOf(events, filter, now);
  return open ? (await withSeats(tx, asked, now)).filter((e) => e.registration === 'open') : asked;
}

const markOf = (look: KindLook | null): KindMark | null => look && { shape: look.shape, colour: look.colour };

/** Names without repeats, in the order of the alphabet. */
const sorted = (names: Iterable<string | null>): string[] =>
  [...new Set([...names].filter((n): n is string => Boolean(n)))].sort((a, b) => a.localeCompare(b));

/** Days ahead from which something is named to somebody who missed something now. */
const soonDays = 200;

/** What everybody can register for in the coming months, with the first event each goes back to. */
export async function openToAll(
  tx: Queries,
  now: string,
): Promise<(Found & { startsAt: string; firstOf: string | null })[]> {
  const until = shiftDate(now.slice(0, 10), soonDays);
  const soon = (await found(tx, now, {})).filter(
    (e): e is Found & { startsAt: string } =>
      e.startsAt !== null && e.startsAt > now && e.startsAt.slice(0, 10) <= until,
  );
  const open = (await withSeats(tx, soon, now)).filter((e) => e.registration === 'open');
  const firsts = new Map(
    (
      await tx.query<{ id: string; firstOf: string | null }>(
        'select id, first_of from events where id = any($1)',
        [open.map((e) => e.id)],
      )
    ).map((e) => [e.id, e.firstOf]),
  );
  return open.map((e) => ({ ...e, startsAt: e.startsAt!, firstOf: firsts.get(e.id) ?? null }));
}

/** The public's calendar, narrowed as asked, with what else it can be narrowed to. */
export async function listingFor(
  tx: Queries,
  query: Query,
  now: string,
  /** Who asks, where they are signed in. */
  visitor: Visitor | null,
): Promise<PublicListing> {
  const { offset, limit, ...filter } = query;
  const today = visitor ? dateOf(now, (await theOrganization(tx)).zone) : '';
  const all = await found(tx, filter.hide === 'none' ? everSince : now, { visitor, today });
  const shown = await narrowed(tx, all, filter, now);
  const register = await readRegister(tx);
  const page = await withPictures(
    tx,
    (await withSeats(tx, shown.slice(offset, offset + limit), now)).map((e) => ({
      ...e,
      pictureId: e.bannerId ?? register.of(e.category)?.pictureId ?? null,
    })),
  );
  return {
    events: page.map((e) => ({
      slug: e.slug!,
      title: e.title,
      summary: e.summary,
      french: e.french,
      category: e.category,
      draws: e.draws,
      mark: markOf(register.of(e.category)),
      inFrench: register.inFrench([e]),
      unit: e.unit,
      startsAt: e.startsAt,
      ...shownTimes(e),
      zone: e.zone,
      state: e.state as ListedEvent['state'],
      registration: e.registration,
      place: e.place,
      venue: e.venue,
      currency: e.paidIn,
      lowest: e.lowest,
      highest: e.highest,
      picture: e.picture,
    })),
    total: shown.length,
    more: shown.length > offset + limit,
    kinds: sorted(all.map((e) => e.category)),
    draws: sorted(all.flatMap((e) => e.draws)),
    units: sorted(all.map((e) => e.unit)),
    places: sorted(all.map((e) => e.venue)),
    inFrench: register.inFrench(all),
  };
}

/** How long events that are over stay in the feed, in days: who looks once a month finds what became of them. */
const staysFor = 60;
/** How often calendars are asked to look again, in hours. */
const everyHours = 6;

/** The calendar to subscribe to. What was called off stays in it, crossed out. */
export async function feedFor(
  app: Pick<App, 'origin'>,
  tx: Queries,
  filter: Pick<ListingFilter, 'q' | 'with' | 'unit' | 'place' | 'price'> & { open: string },
  now: string,
): Promise<string> {
  const since = `${shiftDate(now.slice(0, 10), -staysFor)}T00:00:00.000Z`;
  const all = await found(tx, since, { calledOff: true });
  const shown = await narrowed(tx, all, { ...filter, from: '', to: '', hide: 'none', sort: 'date' }, now);
  const { name } = await theOrganization(tx);
  const entries = shown.flatMap((e): CalendarEntry[] => {
    const entry = entryOf(
      { ...e, venueName: e.place },
      { summary: e.title, description: e.summary, url: `${app.origin}/e/${e.slug}`, language: 'en' },
    );
    return entry ? [entry] : [];
  });
  return writeCalendar(name, entries, now, everyHours);
}
