import type { Request } from 'express';
import type { Extra, Offer } from '#contract/plan.ts';
import type { PublicEvent, PublicExtra, PublicOffer, PublicQuestion } from '#contract/publicEvent.ts';
import type { PublicOrder } from '#contract/registration.ts';
import { maySee, type Visitor } from '#core/access/visitor.ts';
import { onShift } from '#core/crew/states.ts';
import { hasFrench, offerIn, textFor } from '#core/events/french.ts';
import { goalAt } from '#core/events/goal.ts';
import { shownTimes } from '#core/events/shown.ts';
import { lives, shownToPublic, silentStates } from '#core/events/states.ts';
import { balanceDue } from '#core/money/balanceDue.ts';
import { stillNow } from '#core/money/lines.ts';
import { sayableSteps } from '#core/money/refundPolicy.ts';
import { gazetteer } from '#core/places/portAnsley.ts';
import { sketchOf } from '#core/places/sketch.ts';
import { isDetail } from '#core/questions/details.ts';
import {
  freeExtras,
  freeOnline,
  freeSeats,
  freeUnits,
  type Limits,
  limitsOf,
  type Taken,
} from '#core/registration/capacity.ts';
import { mayJoin } from '#core/registration/joining.ts';
import { namesUntil } from '#core/registration/namesUntil.ts';
import { standing as standingStates } from '#core/registration/states.ts';
import { inLine } from '#core/registration/waitlist.ts';
import { dateOf, wallOf } from '#core/time/wallTime.ts';
import { ageDecides, offerAsksAge, type WaiverRule } from '#core/waivers/asking.ts';
import { readTexts } from '#core/words/texts.ts';
import type { App } from '../app/app.ts';
import { visitorOf } from '../contacts/visitor.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { eventBefore } from '../events/addresses.ts';
import { shownAgenda } from '../events/agenda.ts';
import { givingOf } from '../events/giving.ts';
import { picturesOf } from '../events/picturing.ts';
import { inShort } from '../events/saying.ts';
import {
  type EventRow,
  readEvent,
  readEventBySlug,
  readOffers,
  readProgramme,
  readQuestions,
  readSold,
} from '../events/store.ts';
import { notFound } from '../http/problem.ts';
import { logoOf } from '../pictures/store.ts';
import { passShown } from '../print/code.ts';
import { theOrganization } from '../staff/store.ts';
import { type MayKnow, signingAt } from '../waivers/store.ts';
import { questionsOf } from './accepting.ts';
import { admissionShown } from './admitting.ts';
import { answersOf } from './answers.ts';
import { isMemberAt, unitsOf } from './asking.ts';
import { addressOf, peopleOf } from './household.ts';
import { invitedVisitor } from './invited.ts';
import { tenthsFor } from './odds.ts';
import { takesRegistrations } from './ordering.ts';
import {
  countConfirmed,
  type OrderRow,
  readOrder,
  readOwedSince,
  readSeats,
  readTaken,
  readWaiting,
} from './store.ts';

/** Who asks for something of the public side: nobody in particular, or somebody who is signed in there. */
export interface Asking {
  app: App;
  tx: Queries;
  now: string;
  request?: Request;
}

/**
 * An event that whoever asks may see; 404 for every other, so that neither drafts show nor what is for others.
 */
export async function publicEventRow(
  { app, tx, now, request }: Asking,
  slug: string,
  /** The link of an invitation, for whoever comes by one. */
  invited = '',
): Promise<EventRow> {
  const event =
    (await readEventBySlug(tx, slug)) ?? (await readEventBySlug(tx, (await eventBefore(tx, slug)) ?? ''));
  if (!event || event.isTemplate || !shownToPublic.includes(event.state)) throw notFound('This event');
  if (event.visibility !== 'everyone' && event.visibility !== 'link')
    if (
      !(await invitedVisitor(tx, invited, event.id)) &&
      !maySee(event, await visitorOf({ app, tx }, request), dateOf(now, event.zone))
    )
      throw notFound('This event');
  return event;
}

const placeOf = (event: EventRow) =>
  event.venueName
    ? {
        name: event.venueName,
        address: event.venueAddress ?? '',
        access: event.venueAccess ?? '',
        latitude: event.latitude,
        longitude: event.longitude,
        pictureId: event.venuePictureId,
        sketch: sketchOf(event, gazetteer),
      }
    : null;

/** Whether the public can register now, and whether there is room. */
export const registrationNow = (
  event: Pick<
    EventRow,
    'state' | 'registrationClosesAt' | 'startsAt' | 'endsAt' | 'capacity' | 'venueCapacity' | 'onlineCapacity'
  >,
  offers: readonly Offer[],
  taken: Taken,
  now: string,
): PublicEvent['registration'] => {
  if (!takesRegistrations(event, now)) return 'closed';
  // What only a code shows says nothing to everybody else, unless there is nothing else.
  const shown = offers.some((o) => !o.hidden) ? offers.filter((o) => !o.hidden) : offers;
  return shown.every((o) => freeUnits(o, limitsOf(event), taken) === 0) ? 'full' : 'open';
};

/** Who people turn to, as far as that is told. */
function organizerOf({ organizer }: EventRow): PublicEvent['organizer'] {
  if (!organizer || (!organizer.name && !organizer.email)) return null;
  const shown = organizer.how === 'shown';
  return {
    name: organizer.name,
    email: (shown && organizer.email) || null,
    phone: (shown && organizer.phone) || null,
    form: !shown && organizer.email !== '',
  };
}

/** What a French reader is shown; null where there is nothing in French. */
function frenchOf(event: EventRow): PublicEvent['french'] {
  if (!hasFrench(event.french)) return null;
  const { publicTitle: title, subtitle, summary, description } = textFor(event, event.french, 'fr');
  return { title, subtitle, summary, description };
}

/** An offer as the public sees it. */
export const publicOfferOf = (
  { quantity, valueReceived: _, ...offer }: Offer,
  event: Limits,
  taken: Taken,
  rules: readonly WaiverRule[],
): PublicOffer => ({
  ...offer,
  asksAge: offerAsksAge(offer, rules),
  left: freeUnits({ ...offer, quantity }, event, taken),
});

const publicExtraOf = (
  { quantity, valueReceived: _, chance: __, options, ...extra }: Extra,
  taken: Taken,
): PublicExtra => {
  const of = { id: extra.id, quantity, options };
  return {
    ...extra,
    left: freeExtras(of, null, taken),
    options: options.map(({ id, name, french }) => ({ id, name, french, left: freeExtras(of, id, taken) })),
  };
};

/** One event as the public sees it now. */
export async function publicEventOf(
  tx: Queries,
  event: EventRow,
  now: string,
  series: PublicEvent['series'] = null,
  visitor: Visitor | null = null,
): Promise<PublicEvent> {
  const { offers, extras, codes } = await readSold(tx, event.id);
  const taken = await readTaken(tx, event.id);
  const limits = limitsOf(event);
  // Without a picture of its own it has that of its kind.
  const bannerId = event.bannerId ?? event.kind?.pictureId ?? null;
  const asked = await first<{ n: number; follow: boolean; board: boolean; help: string | null }>(
    tx,
    `select count(*)::int as n, exists (select 1 from message_lines l where l.event_id = $1 and l.removed_at is null
         and l.audience = 'following' and not l.off) as follow,
       exists (select 1 from event_boards b where b.event_id = $1) as board,
       (select k.slug from calls k where k.event_id = $1 and k.open) as help from shifts s where s.event_id = $1 and s.removed_at is null and s.public_sign_up and s.starts_at > $2
       and (select count(*) from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}) < s.wished`,
    [event.id, now],
  );
  return {
    slug: event.slug!,
    title: event.publicTitle,
    summary: event.summary,
    subtitle: event.subtitle,
    description: event.description,
    bannerId,
    gallery: event.gallery,
    faqs: event.faqs,
    buttons: event.buttons,
    fullWords: event.fullWords,
    registerAt: event.registerAt,
    organizer: organizerOf(event),
    goal: goalAt(event.goal, event.goal.length ? await countConfirmed(tx, event.id) : 0),
    look: event.look,
    search: { title: event.searchTitle, text: event.searchText },
    pictures: await picturesOf(tx, { ...event, bannerId, venuePictureId: event.venuePictureId }),
    french: frenchOf(event),
    category: event.category,
    draws: event.draws,
    mark: markOf(event),
    inFrench: event.inFrench,
    unit: event.unitName,
    logo: event.unitId ? await logoOf(tx, event.unitId) : null,
    state: event.state as PublicEvent['state'],
    ...shownTimes(event),
    doorsLocal: event.doorsLocal,
    startsAt: event.startsAt,
    zone: event.zone,
    place: placeOf(event),
    registration: registrationNow(event, offers, taken, now),
    closesAt: event.registrationClosesAt,
    offers: offers.filter((o) => !o.hidden).map((o) => publicOfferOf(o, limits, taken, event.waivers)),
    extras: extras.map((e) => publicExtraOf(e, taken)),
    currency: event.paidIn,
    taxes: event.taxes.map(({ name, rate, included }) => ({ name, rate, included })),
    refunds: sayableSteps(event.refunds, event.startsLocal?.slice(0, 10) ?? null),
    restBy: dayOf(balanceDue(event, now), event),
    codes: codes.length > 0,
    admission: await admissionShown({ tx, now }, event, visitor),
    you: visitor && (await youOf(tx, event, visitor, now)),
    nowLocal: wallOf(now, event.zone),
    questions: await questionsShown(tx, event.id),
    needsBirthDate: ageDecides(event),
    seatsLeft: freeSeats(limits, taken),
    online: event.online !== null,
    ofRoom: limits.ofRoom ?? false,
    onlineLeft: freeOnline(limits, taken),
    whenFull: event.whenFull,
    openShifts: asked?.n ?? 0,
    help: asked?.help ?? null,
    follow: asked?.follow ?? false,
    board: asked?.board ?? false,
    series,
    agenda: await shownAgenda(tx, event, dateOf(now, event.zone)),
    funds: await tx.query<{ id: string; name: string }>(
      'select id, name from funds where id = any($1::uuid[]) order by name',
      [event.giftFunds],
    ),
    giving: await givingOf(tx, event.id, dateOf(now, event.zone)),
  };
}

/** The questions of an event as people are asked them. A choice that is still to be written is none. */
export const questionsShown = async (tx: Queries, eventId: string): Promise<PublicQuestion[]> =>
  (await readQuestions(tx, eventId)).map(({ seenBy: _, sensitive: __, ...q }) => ({
    ...q,
    choices: q.choices.filter((choice) => choice.trim()),
    // Which field of a record it fills is nobody's business.
    keeps: isDetail(q.keeps) ? q.keeps : null,
  }));

/** What whoever is signed in is told of themselves. */
async function youOf(
  tx: Queries,
  event: EventRow,
  visitor: Visitor,
  now: string,
): Promise<NonNullable<PublicEvent['you']>> {
  const people = await peopleOf(tx, visitor);
  const { given = '', family = '' } = people.find((p) => p.contactId === visitor.contactId) ?? {};
  return {
    member: isMemberAt(visitor, event, now),
    has: await unitsOf(tx, event.id, visitor.contactId),
    person: { given, family, email: (await addressOf(tx, visitor.contactId)) ?? '' },
    people: people.map(({ theirs, birthDate, ...p }) => ({
      ...p,
      birthDate: theirs ? birthDate : null,
      hasBirthDate: birthDate !== null,
    })),
  };
}

const markOf = ({ kind }: EventRow): PublicEvent['mark'] =>
  kind && { shape: kind.shape, colour: kind.colour };

/** What a seat is called to a reader. */
const seatOffer = (offers: readonly Offer[], id: string, language: string): string => {
  const offer = offers.find((o) => o.id === id);
  return offer ? offerIn(offer, language).name : '';
};

/** What an order asks for by now, line by line: units of one offer or extra at one price together. */
export const linesShown = (tx: Queries, order: OrderRow): Promise<PublicOrder['lines']> =>
  tx.query<PublicOrder['lines'][number]>(
    `select coalesce(case when $2 = 'fr' then nullif(f.french ->> 'name', '') end, f.name,
         case when $2 = 'fr' then nullif(e.french ->> 'name', '') end, e.name) || coalesce(', ' || (select case when $2 = 'fr' and x ->> 'french' <> ''
           then x ->> 'french' else x ->> 'name' end from jsonb_array_elements(e.options) x where x ->> 'id' = l.option_id::text), '') as name,
       count(*)::int as units, sum(l.unit_price)::bigint as amount, sum(l.discount)::bigint as discount, sum(l.tax)::bigint as tax
     from order_lines l left join offers f on f.id = l.offer_id left join extras e on e.id = l.extra_id
     where l.order_id = $1 and l.kind in ('seats', 'extra') and exists (select 1 from registrations r where r.order_id = l.order_id and r.state in ${among(standingStates)}
       and (l.kind = 'extra' or (r.offer_id = l.offer_id and r.unit_number = l.unit_number)))
     group by 1, l.offer_id, l.extra_id, l.option_id, l.unit_price order by min(l.position)`,
    [order.id, order.language],
  );

/** What was kept of seats of an order that were given up. */
export const keptFrom = async (tx: Queries, orderId: string): Promise<number> =>
  Number(
    (await first<{ kept: number }>(
      tx,
      "select coalesce(sum(unit_price), 0)::float8 as kept from order_lines where order_id = $1 and kind = 'kept'",
      [orderId],
    ))!.kept,
  );

/** True where it matters how old whoever sits on a seat of an offer is. */
export const asksAge = (event: EventRow, offers: readonly Offer[], offerId: string): boolean =>
  ageDecides(event) || offers.some((o) => o.id === offerId && offerAsksAge(o, event.waivers));

/** An order as its buyer sees it: seats, money, passes, waivers. */
export async function publicOrderOf(
  tx: Queries,
  orderId: string,
  now: string,
  mayKnow: MayKnow,
): Promise<PublicOrder> {
  const order = await readOrder(tx, orderId);
  const event = await readEvent(tx, order.eventId);
  const seats = await readSeats(tx, orderId);
  const offers = await readOffers(tx, event.id);
  const { ageOfMajority, zone } = await theOrganization(tx);
  const signing = await signingAt(tx, event, ageOfMajority, dateOf(now, zone), orderId, mayKnow);
  const questions = await questionsOf(tx, orderId);
  const given = await answersOf(tx, orderId);
  const until = namesUntil(event);
  const has = (...states: string[]) => seats.some((s) => states.includes(s.state));
  const standing = has('confirmed')
    ? 'confirmed'
    : has('held')
      ? 'held'
      : has('offered')
        ? 'offered'
        : has('waitlisted')
          ? 'waitlisted'
          : has('asked')
            ? 'asked'
            : 'ended';
  const attempt = await first<{ state: string; words: string }>(
    tx,
    'select state, words from payment_attempts where order_id = $1 order by asked_at desc, id desc limit 1',
    [orderId],
  );
  const fund = order.donationFund
    ? await first<{ name: string }>(tx, 'select name from funds where id = $1', [order.donationFund])
    : null;
  const waiting =
    standing === 'waitlisted' ? inLine(await readWaiting(tx, event.id, offers), event.waitRule) : [];
  const unknown = attempt?.state === 'unknown' || attempt?.state === 'asked';
  return {
    number: order.number,
    language: order.language,
    event: {
      ...inShort(event, order.language),
      startsAt: event.startsAt,
      dayFiles:
        standing === 'confirmed' && !silentStates.includes(event.state)
          ? event.dayFiles.map((f) => ({ ...f, label: readTexts(f.label, order.language) }))
          : [],
      online: mayJoin(
        event,
        offers,
        seats.filter((s) => s.state === 'confirmed').map((s) => s.offerId),
      )
        ? { link: event.online!.link, instructions: readTexts(event.online!.instructions, order.language) }
        : null,
      afterwards: standing === 'confirmed' ? readTexts(event.afterwards, order.language) : '',
    },
    buyer: { given: order.buyerGiven, family: order.buyerFamily, email: order.buyerEmail },
    standing,
    form: {
      questions: await questionsShown(tx, event.id),
      answers: given.get(null) ?? {},
    },
    namesUntil: lives(event.state) && until && until > now ? until : null,
    questions,
    heldUntil: order.heldUntil,
    offeredUntil: order.offeredUntil,
    queuePlace: standing === 'waitlisted' ? waiting.findIndex((p) => p.orderId === orderId) + 1 : null,
    odds: standing === 'waitlisted' ? await tenthsFor(tx, event, waiting, orderId, now) : null,
    currency: order.currency,
    due: order.due,
    received: order.received,
    balance: order.balance,
    payNow: standing === 'confirmed' ? Math.max(0, order.balance) : stillNow(order),
    lines: await linesShown(tx, order),
    kept: await keptFrom(tx, order.id),
    refunds: sayableSteps(event.refunds, event.startsLocal?.slice(0, 10) ?? null),
    payBy: order.balance > 0 && standing === 'confirmed' ? await payByOf(tx, event, orderId, now) : null,
    donation: order.donation,
    donationFund: fund?.name ?? null,
    // Nobody is asked to pay for what does not take place.
    payment: unknown
      ? 'unknown'
      : order.balance <= 0 && order.due > 0
        ? 'paid'
        : silentStates.includes(event.state)
          ? 'none'
          : standing === 'held' || (standing === 'confirmed' && order.balance > 0)
            ? attempt?.state === 'declined' || attempt?.state === 'step'
              ? attempt.state
              : 'needed'
            : 'none',
    paymentWords: attempt?.state === 'declined' ? attempt.words : '',
    seats: await Promise.all(
      seats.map(async (s) => ({
        id: s.id,
        offer: seatOffer(offers, s.offerId, order.language),
        offerId: s.offerId,
        given: s.givenName,
        family: s.familyName,
        hasBirthDate: s.birthDate !== null,
        needsBirthDate: asksAge(event, offers, s.offerId),
        // What a guest said of themselves is not whoever booked's to read.
        answers: s.guestFilledAt ? {} : (given.get(s.id) ?? {}),
        guest: s.guestEmail ? { email: s.guestEmail, filled: s.guestFilledAt !== null } : null,
        state: s.state,
        pass:
          s.state === 'confirmed' && s.passCode && !silentStates.includes(event.state)
            ? await passShown(s.passCode)
            : null,
        ...signing.of(s),
      })),
    ),
    toldSigned: mayKnow(order.buyerContactId),
    waivers: signing.texts(
      seats.flatMap((s) => signing.of(s).toSign),
      order.language,
    ),
    sessions: (await readProgramme(tx, event.id)).sessions.some((s) => s.signUp),
    mayWithdraw: event.state !== 'called off' && (!event.startsAt || event.startsAt > now),
  };
}

const dayOf = (at: string | null, { zone }: EventRow): string | null => at && dateOf(at, zone);

/** Until when a confirmed order is paid. */
async function payByOf(
  tx: Queries,
  event: EventRow,
  orderId: string,
  now: string,
): Promise<PublicOrder['payBy']> {
  const since = await readOwedSince(tx, orderId);
  const at = since && balanceDue(event, since);
  return !at ? null : { on: dateOf(at, event.zone), overdue: at < now };
}
