import type { MessageLinePlan } from '#contract/plan.ts';
import { wallTimesOf } from '#core/agenda/session.ts';
import { type SaidShift, sayShift } from '#core/crew/said.ts';
import { titleFor } from '#core/events/french.ts';
import { writeCalendar } from '#core/exchange/calendar.ts';
import { aboutOf } from '#core/messages/audiences.ts';
import { linkMark, withoutMarks } from '#core/messages/links.ts';
import { fieldsOfLine, type MergeValues, mergeFields } from '#core/messages/merge.ts';
import { fillSaid, type Said, saidIn } from '#core/messages/said.ts';
import { sayAmount } from '#core/money/amount.ts';
import { balanceDue } from '#core/money/balanceDue.ts';
import { namesUntil } from '#core/registration/namesUntil.ts';
import { docOf } from '#core/text/doc.ts';
import { sayLongDate, sayShortDate, sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { readTexts } from '#core/words/texts.ts';
import { liveLink, type Work } from '../app/app.ts';
import { first } from '../db/database.ts';
import { entryOf } from '../events/calendar.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import type { EventRow } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { askedByLink } from './followers.ts';
import { guardianRecipients, orderRecipients, sessionRecipients } from './store.ts';
import { suitingEvent } from './suitingEvent.ts';
import { surveyLinks } from './surveyLinks.ts';

/** What stands for the name of somebody who has not said it. */
export const unnamed = { en: 'there', fr: 'à vous' };
/** What stands for a place that is told later. */
export const placeLater = { en: 'told later', fr: 'communiqué plus tard' };

/** Fills a line's text for one recipient, making the links it needs. What is only shown makes none that count as asking. */
export async function render(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  event: EventRow,
  line: MessageLinePlan,
  message: { recipientKey: string; contactId: string | null; name: string; language: 'en' | 'fr' },
  orderId: string | null,
  as: 'sent' | 'shown' | 'made up' = 'sent',
): Promise<Said> {
  const { tx } = w;
  const { language } = message;
  const says = saidIn(line, language);
  const values: MergeValues = {
    name: message.name.split(' ')[0] || unnamed[language],
    event: titleFor(event, language),
    when: sayWhen(event, language),
    place: sayPlace(event, language) || placeLater[language],
    organization: (await theOrganization(tx)).name,
  };
  const all = `${says.subject} ${says.preview} ${says.body} ${JSON.stringify(says.formatted)}`;
  const uses = (field: string) => all.includes(field);
  // Who is not of those who booked reads nothing of the booking.
  if (orderId && fieldsOfLine(line.audience).includes('manage_link')) {
    values.manage_link = linkMark('manage', orderId);
    values.waiver_link = linkMark('manage', orderId, '#waivers');
    if (uses('seats')) {
      const seats = await tx.query<{ name: string; offer: string }>(
        `select trim(r.given_name || ' ' || r.family_name) as name, o.name as offer from registrations r join offers o on o.id = r.offer_id
         where r.order_id = $1 and r.state = 'confirmed' order by r.seat_number`,
        [orderId],
      );
      values.seats = seats
        .map((s) => `  ${s.name || (message.language === 'fr' ? 'à nommer' : 'to be named')}, ${s.offer}`)
        .join('\n');
    }
  }
  const [theirs] =
    orderId && (['owed', 'owes', 'unnamed', 'named_until'] as const).some(uses)
      ? await orderRecipients(tx, event.id, orderId)
      : [];
  if (theirs) {
    const due = balanceDue(event, theirs.confirmedAt);
    values.owes = theirs.owed > 0 ? 'yes' : '';
    values.owed = sayAmount(Math.max(0, theirs.owed), event.paidIn, message.language);
    values.unnamed = String(theirs.unnamed);
    const named = namesUntil(event);
    values.named_until = named
      ? `${sayLongDate(wallOf(named, event.zone), language)}, ${sayTime(wallOf(named, event.zone), language)}`
      : '';
    values.owed_until = due ? sayLongDate(wallOf(due, event.zone), message.language) : '';
  }
  if (event.slug) values.event_link = `${w.app.origin}/e/${event.slug}`;
  const preview = as !== 'sent';
  if (preview) values.follow_link = '[link to follow]';
  else if (uses('follow_link') && message.contactId)
    values.follow_link = linkMark(
      'follow',
      await askedByLink(w, event, { ...message, contactId: message.contactId }),
    );
  if (uses('count_link')) {
    const token = await liveLink(w, 'count', event.id);
    values.count_link = token ? `${w.app.origin}/count/${token}` : '';
  }
  if (uses('next_event') && message.contactId && as !== 'made up')
    Object.assign(values, await suitingEvent(w, message.contactId, language));
  if (uses('survey_link') || uses('survey_first_link'))
    Object.assign(values, await surveyLinks(w, event, line, message, preview));
  if (line.audience === 'guardians' && uses('children'))
    values.children = (
      await guardianRecipients(tx, event.id, { orderId: null, contactId: message.contactId })
    )
      .map((r) => r.child)
      .join(', ');
  const about = aboutOf(line.audience, message.recipientKey);
  if (about.of === 'session' && event.startsLocal) {
    const only = { orderId: null, seatId: about.id, sessionId: about.sessionId };
    const [session] = await sessionRecipients(tx, event.id, only);
    if (session) values.session = saySession(session, event.startsLocal, language);
  }
  if (line.audience === 'crew' && message.contactId) {
    values.shifts_link = linkMark('crew', message.contactId);
    const shift = await first<SaidShift>(
      tx,
      'select s.role, s.place, s.starts_local, s.ends_local, s.starts_at, s.ends_at from assignments a join shifts s on s.id = a.shift_id where a.id = $1',
      [message.recipientKey],
    );
    if (shift) values.shift = sayShift(shift, message.language);
  }
  // Of somebody made up, what is theirs alone is said in words.
  if (as === 'made up')
    for (const field of fieldsOfLine(line.audience)) values[field] ||= `[${mergeFields[field]}]`;
  // What registrants are told goes with what tells them that they have a seat.
  const afterwards =
    line.moment === 'registration made' ? withoutMarks(readTexts(event.afterwards, language)) : '';
  const { body, formatted, ...rest } = fillSaid(says, values, { strict: true });
  return {
    ...rest,
    body: [body, afterwards].filter(Boolean).join('\n\n'),
    formatted: formatted && {
      ...formatted,
      content: [...formatted.content, ...docOf(afterwards).content],
    },
  };
}

/** What goes along with the words that somebody has a seat: the event, for their calendar. What changes later moves it there. */
export function calendarWith(
  w: Pick<Work, 'app' | 'now'>,
  event: EventRow,
  line: Pick<MessageLinePlan, 'moment' | 'channel'>,
  language: 'en' | 'fr',
): string | null {
  if (line.moment !== 'registration made' || line.channel !== 'email') return null;
  const entry = entryOf(event, {
    summary: titleFor(event, language),
    url: event.slug ? `${w.app.origin}/e/${event.slug}` : w.app.origin,
    description: '',
    language,
  });
  return entry && writeCalendar(entry.summary, [entry], w.now);
}

/** "Otters of the fen, Reedhouse, Sat 8 Aug 10:00–11:00"; with who comes, where that is somebody else. */
function saySession(
  s: Awaited<ReturnType<typeof sessionRecipients>>[number],
  eventStarts: string,
  language: 'en' | 'fr',
): string {
  const { startsLocal, endsLocal } = wallTimesOf(s, eventStarts.slice(0, 10));
  const when = `${sayShortDate(startsLocal, true, language)} ${sayTime(startsLocal, language)}–${sayTime(endsLocal, language)}`;
  return `${[readTexts(s.title, language), s.room, when].filter(Boolean).join(', ')}${s.comes && ` (${s.comes})`}`;
}
