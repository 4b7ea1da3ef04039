import { type EventFact, factsOf } from '#core/access/stages.ts';
import { fullName, listedName } from '#core/contacts/names.ts';
import { titleFor } from '#core/events/french.ts';
import { sayAmount } from '#core/money/amount.ts';
import { type NameTagFormat, tagSheets } from '#core/print/nameTags.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import { standing } from '#core/registration/states.ts';
import { narrowed, type SeatFilter } from '#core/seats/narrowing.ts';
import { sayLongDate } from '#core/time/say.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import { readTexts } from '#core/words/texts.ts';
import type { SignedIn } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { keepTagged } from '../doors/store.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import { type EventRow, readEvent, readOffers } from '../events/store.ts';
import { notFound, refused } from '../http/problem.ts';
import { loadSharp } from '../pictures/sharp.ts';
import { readSize } from '../pictures/store.ts';
import { confirmationPdf } from '../print/confirmation.ts';
import { listPdf } from '../print/lists.ts';
import { nameTagsPdf } from '../print/nameTags.ts';
import { keptFrom, linesShown } from '../registration/public.ts';
import { askedColumns, seatTable } from '../registration/seatTable.ts';
import { type OrderRow, readSeats } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';

/** The seats of an event that a filter leaves, in the order of a list: by last name. */
export async function listedSeats(
  tx: Queries,
  event: EventRow,
  now: string,
  facts: ReadonlySet<EventFact>,
  only: SeatFilter,
  withCare = false,
) {
  const rows = await seatTable(tx, event, now, facts, withCare);
  return narrowed(rows, only, (at) => dateOf(at, event.zone));
}

const byName = <S extends { given: string; family: string }>(seats: readonly S[]): S[] =>
  // Whoever has no name yet comes last.
  [...seats].sort(
    (a, b) => Number(!fullName(a)) - Number(!fullName(b)) || listedName(a).localeCompare(listedName(b), 'en'),
  );

/** The picture behind the tags, cut to their proportions. */
async function behind(tx: Queries, pictureId: string | null, format: NameTagFormat): Promise<Buffer | null> {
  if (!pictureId) return null;
  const { width, height } = tagSheets[format].tags[0]![0]!;
  const kept = await readSize(tx, pictureId, 1600, 'jpg');
  if (!kept) throw notFound('This picture');
  const wide = 1200;
  const sharp = await loadSharp();
  return sharp(Buffer.from(kept.content, 'base64'))
    .resize({ width: wide, height: Math.round((wide * height) / width), fit: 'cover' })
    .jpeg({ quality: 82 })
    .toBuffer();
}

/** Which seats are printed: those chosen, or all that a filter leaves. */
interface Printed {
  seatIds: readonly string[] | null;
  only: SeatFilter;
}

type By = { tx: Queries; staff: SignedIn; now: string };

/** Those with a confirmed seat among the ones asked for, by last name. */
async function confirmedSeats(
  { tx, now }: By,
  event: EventRow,
  facts: ReadonlySet<EventFact>,
  { seatIds, only }: Printed,
) {
  const chosen = seatIds && new Set(seatIds);
  const seats = byName(
    (await listedSeats(tx, event, now, facts, only)).filter(
      (s) => s.state === 'confirmed' && (!chosen || chosen.has(s.id)),
    ),
  );
  if (!seats.length) throw refused('nobody-to-print');
  return seats;
}

/** Name tags of those with a confirmed seat. What is sensitive never stands on one. */
export async function nameTagsOf(
  by: By,
  event: EventRow,
  asked: Printed & { format: NameTagFormat; pictureId: string | null; lines: readonly string[] },
): Promise<Buffer> {
  const { tx, staff, now } = by;
  const facts = factsOf(staff, event, now);
  const columns = await askedColumns(tx, event.id, facts);
  const seats = await confirmedSeats(by, event, facts, asked);
  const codes = new Map(
    (
      await tx.query<{ id: string; passCode: string | null }>(
        'select id, pass_code from registrations where event_id = $1',
        [event.id],
      )
    ).map((r) => [r.id, r.passCode]),
  );
  const { name: organization } = await theOrganization(tx);
  await keepTagged(
    tx,
    seats.map((s) => s.id),
    now,
  );
  return nameTagsPdf(
    seats.map((s) => ({
      ...(fullName(s) ? { given: s.given, family: s.family } : { given: '', family: `Guest of ${s.buyer}` }),
      lines: asked.lines.flatMap((line) => {
        if (line === 'offer') return [s.offer];
        const answer = columns.some((q) => q.id === line) ? s.answers[line] : undefined;
        const said = answer ? sayAnswer(answer.value, answer.file?.name) : '';
        return said ? [said] : [];
      }),
      code: asked.lines.includes('code') ? (codes.get(s.id) ?? null) : null,
    })),
    {
      format: asked.format,
      title: event.publicTitle,
      above: `${organization} · ${event.publicTitle}`,
      picture: await behind(tx, asked.pictureId, asked.format),
    },
  );
}

/** A list for the door, to tick by hand. It says nothing about anybody's health: paper is left lying about. */
export async function doorListOf(by: By, event: EventRow, asked: Printed): Promise<Buffer> {
  const { staff, now } = by;
  const facts = factsOf(staff, event, now);
  const seats = await confirmedSeats(by, event, facts, asked);
  const open = (s: (typeof seats)[number]) =>
    [
      s.waiver === 'self' || s.waiver === 'guardian' ? 'waiver to sign' : '',
      s.balance > 0 ? `${sayAmount(s.balance, event.paidIn)} to pay` : '',
    ]
      .filter(Boolean)
      .join(', ');
  return listPdf(
    {
      title: event.publicTitle,
      about: `${sayWhen(event, 'en')} · ${seats.length} expected · printed ${sayLongDate(wallOf(now, event.zone), 'en')}`,
    },
    [
      { heading: 'Name', width: 175 },
      { heading: 'Booked by', width: 120 },
      { heading: 'Ticket', width: 90 },
      { heading: 'Order', width: 42, right: true },
      { heading: '   To settle', width: 83 },
    ],
    seats.map((s) => [
      listedName(s) || 'Guest to be named',
      s.buyer === fullName(s) ? '' : s.buyer,
      s.offer,
      String(s.orderNumber),
      open(s) && `   ${open(s)}`,
    ]),
  );
}

const words = {
  en: {
    heading: 'Confirmation of your booking',
    waiting: 'Your booking, not confirmed yet',
    people: 'Who comes',
    money: 'What it comes to',
    booking: 'Booking',
    by: 'booked by',
    unnamed: 'Guest to be named',
    discount: 'Discount',
    tax: 'Tax',
    gift: 'Gift',
    kept: 'Kept of seats given up',
    due: 'In all',
    received: 'Received',
    balance: 'Still to pay',
    back: 'To be paid back',
  },
  fr: {
    heading: 'Confirmation de votre réservation',
    waiting: 'Votre réservation, pas encore confirmée',
    people: 'Qui vient',
    money: 'Montants',
    booking: 'Réservation',
    by: 'faite par',
    unnamed: 'Place à nommer',
    discount: 'Rabais',
    tax: 'Taxes',
    gift: 'Don',
    kept: 'Retenu sur les places rendues',
    due: 'En tout',
    received: 'Reçu',
    balance: 'Reste à payer',
    back: 'À rembourser',
  },
} as const;

/** What somebody booked and what it comes to, in their language. */
export async function confirmationOf(tx: Queries, order: OrderRow): Promise<Buffer> {
  const event = await readEvent(tx, order.eventId);
  const { name: organization } = await theOrganization(tx);
  const offers = await readOffers(tx, event.id);
  const seats = (await readSeats(tx, order.id)).filter((s) => standing.includes(s.state));
  const t = words[order.language];
  const money = (amount: number) => sayAmount(amount, order.currency, order.language);
  const lines = await linesShown(tx, order);
  const kept = await keptFrom(tx, order.id);
  const sum = (pick: (l: (typeof lines)[number]) => number) => lines.reduce((all, l) => all + pick(l), 0);
  const [discount, tax] = [sum((l) => l.discount), sum((l) => l.tax)];
  const row = (name: string, amount: number) => (amount ? [{ name, amount: money(amount) }] : []);
  return confirmationPdf({
    organization,
    title: titleFor(event, order.language),
    when: sayWhen(event, order.language),
    place: sayPlace(event, order.language),
    about: `${t.booking} ${order.number}, ${sayLongDate(wallOf(order.placedAt, event.zone), order.language)}, ${t.by} ${fullName({ given: order.buyerGiven, family: order.buyerFamily })}`,
    seats: seats.map((s) => ({
      name: fullName({ given: s.givenName, family: s.familyName }) || t.unnamed,
      offer: offers.find((o) => o.id === s.offerId)?.name ?? '',
    })),
    lines: [
      ...lines.map((l) => ({
        name: l.units > 1 ? `${l.units} × ${l.name}` : l.name,
        amount: money(l.amount),
      })),
      ...row(t.discount, -discount),
      ...row(t.tax, tax),
      ...row(t.gift, order.donation),
      ...row(t.kept, kept),
      { name: t.due, amount: money(order.due), strong: true },
      ...row(t.received, order.received),
      ...row(t.balance, Math.max(0, order.balance)),
      ...row(t.back, Math.max(0, -order.balance)),
    ],
    afterwards: seats.some((s) => s.state === 'confirmed') ? readTexts(event.afterwards, order.language) : '',
    words: {
      heading: seats.some((s) => s.state === 'confirmed') ? t.heading : t.waiting,
      people: t.people,
      money: t.money,
    },
  });
}
