import { answered } from '#core/clearance/facts.ts';
import { hoursOf } from '#core/crew/shift.ts';
import { passCode } from '#core/doors/passCode.ts';
import { firstLines } from '#core/messages/firstTexts.ts';
import type { Survey } from '#core/surveys/survey.ts';
import { docOf } from '#core/text/doc.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { ageOn, shiftDate } from '#core/time/dates.ts';
import { sayRange } from '#core/time/say.ts';
import { instantOf, shiftWall } from '#core/time/wallTime.ts';
import { plainRule } from '#core/waivers/asking.ts';
import { shownIn } from '#core/waivers/form.ts';
import { signedText } from '#core/waivers/signing.ts';
import { insert, type Queries } from '#server/db/database.ts';
import { type Ids, sha256 } from '#server/db/ids.ts';
import { carryLater } from '#server/money/carrying.ts';
import type { Recurring } from './calendar.ts';
import type { Founded } from './organization.ts';
import { bornOf, type Person } from './people.ts';
import type { Random } from './random.ts';
import { answersTo, surveysOf } from './surveying.ts';
import type { WaiverWritten } from './waivers.ts';

const zone = 'America/Halifax';

/** Rows gathered by table, written together: a year of events in a few statements. */
class Gathered {
  private readonly tables = new Map<string, object[]>();
  add(table: string, row: object): void {
    const rows = this.tables.get(table);
    if (rows) rows.push(row);
    else this.tables.set(table, [row]);
  }
  async write(tx: Queries): Promise<void> {
    const order = [
      'events',
      'event_states',
      'offers',
      'message_lines',
      'surveys',
      'shifts',
      'clearances',
      'clearance_steps',
      'orders',
      'registrations',
      'registration_states',
      'attendance',
      'attendance_marks',
      'payment_attempts',
      'payments',
      'donations',
      'signatures',
      'assignments',
      'messages',
      'survey_asks',
      'survey_responses',
      'survey_slips',
    ];
    for (const table of order) await insert(tx, table, this.tables.get(table) ?? []);
  }
}

export interface Planned {
  id: string;
  offers: { id: string; price: number; seatsPerUnit: number; quantity: number | null; name: string }[];
  lines: Record<string, string>;
}

/** The rows of one event's plan: event, offers, messages, survey, shifts. */
export function planRows(
  of: Recurring,
  date: string,
  founded: Founded,
  ids: Ids,
  now: string,
  extra: object = {},
): {
  event: object & { id: string };
  planned: Planned;
  lines: object[];
  surveys: (Survey & { id: string; eventId: string; position: number })[];
  shifts: (object & { id: string; startsAt: string; endsAt: string; wished: number })[];
  offers: object[];
} {
  const id = ids.id();
  const startsLocal = `${date}T${of.starts}`;
  const endsLocal = shiftWall(startsLocal, { minutes: Math.round(of.hours * 60) });
  const doorsLocal = shiftWall(startsLocal, { minutes: -30 });
  const at = (wall: string) => instantOf(wall, zone);
  const event = {
    id,
    slug: `${of.title.toLowerCase().replace(/[^a-z0-9]+/gu, '-')}-${date}`,
    publicTitle: of.title,
    teamTitle: '',
    summary: of.summary,
    description: docOf(
      `Meet at ${of.venue}, and come a little early. Dress for the weather; it is wetter than you think.\n\nQuestions? Write to hello@brackenmere.example.`,
    ),
    category: of.category,
    draws: of.draws,
    unitId: founded.units[of.unit],
    visibility: 'everyone',
    listed: true,
    state: 'wrapped',
    isTemplate: false,
    startsLocal,
    endsLocal,
    doorsLocal,
    zone,
    startsAt: at(startsLocal),
    endsAt: at(endsLocal),
    doorsAt: at(doorsLocal),
    registrationClosesLocal: shiftWall(startsLocal, { hours: -2 }),
    registrationClosesAt: at(shiftWall(startsLocal, { hours: -2 })),
    absencesAt: at(endsLocal),
    ...founded.places[of.venue],
    capacity: of.capacity,
    facts: answered(...of.so),
    giftFunds: of.giving > 0 ? Object.values(founded.funds) : [],
    waivers: of.waiver ? [{ ...plainRule, id: ids.id(), waiverId: founded.waivers[of.waiver] }] : [],
    copiedFrom: null,
    firstOf: firstOf(of.key, id),
    copiedFromTitle: null,
    leftBehind: [],
    version: 3,
    createdBy: founded.staff['Odalys Ferrant'],
    createdAt: now,
    updatedAt: now,
    ...extra,
  };
  const offers = of.offers.map(({ worth = 0, ...o }, position) => ({
    id: ids.id(),
    eventId: id,
    position,
    mostPerOrder: o.seatsPerUnit > 1 ? 2 : 8,
    valueReceived: worth,
    ...o,
  }));
  const lines = firstLines.map((s, position) => ({ id: ids.id(), eventId: id, position, ...s }));
  const shifts = of.shifts.map((s) => {
    const from = shiftWall(startsLocal, { minutes: Math.round(s.from * 60) });
    const to = shiftWall(from, { minutes: Math.round(s.hours * 60) });
    return {
      id: ids.id(),
      eventId: id,
      role: s.role,
      place: s.place,
      startsLocal: from,
      endsLocal: to,
      startsAt: at(from),
      endsAt: at(to),
      least: s.wished,
      wished: s.wished,
      publicSignUp: true,
    };
  });
  const surveys = surveysOf(of.key, date).map((survey, position) => ({
    id: ids.id(),
    eventId: id,
    position,
    ...survey,
  }));
  return {
    event,
    offers,
    lines,
    surveys,
    shifts,
    planned: { id, offers, lines: Object.fromEntries(lines.map((l) => [l.name, l.id])) },
  };
}

/** Writes one past event with everybody who came, did not come, paid, gave, signed, served and answered. */
export async function writePastEvent(
  tx: Queries,
  of: Recurring,
  date: string,
  people: readonly Person[],
  founded: Founded,
  random: Random,
  ids: Ids,
  waivers: readonly WaiverWritten[],
  open = false,
): Promise<void> {
  const g = new Gathered();
  const asked = {
    attendees: [] as { person: Person; newcomer: boolean }[],
    absent: [] as { person: Person; newcomer: boolean }[],
    crew: [] as { person: Person; newcomer: boolean }[],
    guardians: [] as { person: Person; newcomer: boolean }[],
  };
  const planAt = `${shiftDate(date, -random.whole(45, 90))}T13:00:00.000Z`;
  const openAt = `${shiftDate(date, -random.whole(28, 40))}T14:00:00.000Z`;
  const { event, offers, lines, surveys, shifts, planned } = planRows(
    of,
    date,
    founded,
    ids,
    planAt,
    open ? { state: 'closed' } : {},
  );
  const e = event as typeof event & {
    startsAt: string;
    endsAt: string;
    doorsAt: string;
    startsLocal: string;
    endsLocal: string;
    waivers: readonly { waiverId: string }[];
    publicTitle: string;
  };
  g.add('events', event);
  for (const o of offers) g.add('offers', o);
  for (const line of lines) g.add('message_lines', line);
  for (const survey of surveys) g.add('surveys', survey);
  for (const s of shifts) g.add('shifts', s);
  const history: [string, string][] = [
    ['draft', planAt],
    ['in clearance', plusMinutes(planAt, 4320)],
    ['cleared', plusMinutes(openAt, -2000)],
    ['open', openAt],
    ['closed', plusMinutes(e.startsAt, -120)],
  ];
  if (!open) history.push(['wrapped', plusMinutes(e.endsAt, 4000)]);
  for (const [state, at] of history)
    g.add('event_states', { id: ids.id(), eventId: e.id, state, at, actor: 'Odalys Ferrant', words: '' });
  writeClearance();

  const known = people.filter((p) => p.since <= date && !p.child);
  const wanted = random.whole(...of.usual);
  const order = [...known]
    .map((p) => ({ p, pull: random.next() * (p.leans.includes(of.unit) ? 3 : 1) * (0.25 + p.zeal) }))
    .sort((a, b) => b.pull - a.pull);
  let seats = 0;
  const unitsLeft = new Map(planned.offers.map((o) => [o.id, o.quantity ?? Infinity]));
  for (const { p } of order) {
    if (seats >= wanted) break;
    seats += writeOrder(p);
  }
  writeCrew();
  for (const survey of surveys)
    answersTo(survey, { key: of.key, date, who: asked }, ids, (table, row) => g.add(table, row));
  for (const { person } of asked.attendees) seen.add(person.id);
  await g.write(tx);
  await tx.query('select carry_orders_over($1)', [e.id]);
  await carryLater(tx, e.id);

  function writeClearance(): void {
    const clearanceId = ids.id();
    const steps = [
      ...(of.so.some((f) => ['minors', 'boats', 'tools'].includes(f))
        ? [['Safety', 'safety', 'Tobias Wren-Achebe'] as const]
        : []),
      ...(of.offers.some((o) => o.price > 0) ? [['Finance', 'finance', 'Marit Solvang'] as const] : []),
    ];
    g.add('clearances', {
      id: clearanceId,
      eventId: e.id,
      submittedAt: plusMinutes(planAt, 4320),
      submittedBy: founded.staff['Odalys Ferrant'],
      lateByDays: 0,
      current: true,
    });
    for (const [step, approves, by] of steps)
      g.add('clearance_steps', {
        id: ids.id(),
        clearanceId,
        step,
        approves,
        ruleId: founded.rules[step],
        stepOrder: 1,
        asks: '',
        because: [],
        dueOn: shiftDate(planAt.slice(0, 10), 10),
        state: 'cleared',
        decidedAt: plusMinutes(openAt, -2000),
        decidedBy: founded.staff[by],
        words: '',
      });
  }

  function writeOrder(p: Person): number {
    const children =
      of.key === 'overnight'
        ? p.children.filter((c) => ageOn(c.birthDate!, date) >= 7)
        : of.so.includes('minors') && random.chance(0.7)
          ? p.children
          : [];
    if (of.key === 'overnight' && !children.length) return 0;
    const party: (Person | null)[] = of.key === 'overnight' ? children : [p, ...children];
    const free = planned.offers.filter((o) => (unitsLeft.get(o.id) ?? 0) >= 1);
    let offer = random.pick(free.length ? free : planned.offers);
    if (party.length > 1 && of.key === 'open-water')
      offer = planned.offers.find((o) => o.seatsPerUnit === 4 && (unitsLeft.get(o.id) ?? 0) >= 1) ?? offer;
    while (party.length < offer.seatsPerUnit) party.push(null);
    if (offer.seatsPerUnit === 1 && random.chance(0.12)) party.push(null);
    const units = Math.ceil(party.length / offer.seatsPerUnit);
    unitsLeft.set(offer.id, (unitsLeft.get(offer.id) ?? 0) - units);
    const placedAt = new Date(
      Date.parse(openAt) + (Date.parse(e.startsAt) - Date.parse(openAt) - 7_200_000) * random.next() ** 1.3,
    ).toISOString();
    const withdrawn = random.chance(0.05);
    const gift =
      !withdrawn && random.chance(of.giving) ? random.pick([500, 1000, 1000, 2000, 2500, 5000]) : 0;
    const price = withdrawn ? 0 : units * offer.price;
    const orderId = ids.id();
    const fund = random.pick(Object.values(founded.funds));
    g.add('orders', {
      id: orderId,
      number: nextNumber(),
      eventId: e.id,
      buyerContactId: p.id,
      buyerGiven: p.given,
      buyerFamily: p.family,
      buyerEmail: p.email,
      buyerPhone: p.phone,
      language: 'en',
      currency: 'CAD',
      due: price + gift,
      donation: gift,
      donationFund: gift ? fund : null,
      donationAnonymous: gift > 0 && random.chance(0.1),
      lines: [{ offerId: offer.id, units }],
      seats: party.length,
      state: withdrawn ? 'void' : 'paid',
      placedAt,
    });
    pay(orderId, p.id, price, gift, fund, placedAt);
    for (const [at, who] of party.entries())
      writeSeat(
        orderId,
        p,
        who,
        offer.id,
        Math.floor(at / offer.seatsPerUnit) + 1,
        at + 1,
        placedAt,
        withdrawn,
      );
    if (p.email && !withdrawn) writeMessages(orderId, p, placedAt);
    return withdrawn ? 0 : party.length;
  }

  function pay(
    orderId: string,
    contactId: string,
    price: number,
    gift: number,
    fund: string,
    at: string,
  ): void {
    if (!price && !gift) return;
    const attemptId = ids.id();
    const ref = `CH-${Buffer.from(ids.bytes(6)).toString('hex').toUpperCase()}`;
    g.add('payment_attempts', {
      id: attemptId,
      orderId,
      amount: price + gift,
      state: 'succeeded',
      askedAt: at,
      answeredAt: at,
      processorRef: ref,
      words: '',
    });
    const base = {
      orderId,
      eventId: e.id,
      contactId,
      attemptId,
      chargeId: attemptId,
      method: 'card',
      currency: 'CAD',
      reason: ref,
      at,
    };
    if (price) g.add('payments', { id: ids.id(), ...base, kind: 'seats', amount: price });
    if (!gift) return;
    const paymentId = ids.id();
    g.add('payments', { id: paymentId, ...base, kind: 'donation', amount: gift });
    g.add('donations', {
      id: ids.id(),
      contactId,
      orderId,
      eventId: e.id,
      paymentId,
      fundId: fund,
      currency: 'CAD',
      amount: gift,
      anonymous: false,
      at,
    });
  }

  function writeSeat(
    orderId: string,
    buyer: Person,
    who: Person | null,
    offerId: string,
    unitNumber: number,
    seatNumber: number,
    placedAt: string,
    withdrawn: boolean,
  ): void {
    const id = ids.id();
    const ended = plusMinutes(placedAt, random.whole(60, 4000));
    g.add('registrations', {
      id,
      orderId,
      eventId: e.id,
      offerId,
      unitNumber,
      seatNumber,
      contactId: who?.id ?? null,
      givenName: who?.given ?? '',
      familyName: who?.family ?? '',
      birthDate: who && e.waivers.length ? bornOf(who) : (who?.birthDate ?? null),
      saidMinor: false,
      state: withdrawn ? 'withdrawn' : 'confirmed',
      passCode: passCode(ids.bytes(12)),
      linkReasons: [],
      walkIn: false,
      createdAt: placedAt,
      confirmedAt: placedAt,
      endedAt: withdrawn ? ended : null,
    });
    g.add('registration_states', {
      id: ids.id(),
      registrationId: id,
      state: 'confirmed',
      at: placedAt,
      reason: 'registered',
    });
    if (withdrawn) {
      g.add('registration_states', {
        id: ids.id(),
        registrationId: id,
        state: 'withdrawn',
        at: ended,
        reason: 'withdrawn by the registrant',
      });
      return;
    }
    const came = random.chance(0.78 + 0.18 * (who?.zeal ?? buyer.zeal));
    const arrivedAt = plusMinutes(e.doorsAt, random.whole(2, 50));
    g.add('attendance', {
      registrationId: id,
      eventId: e.id,
      contactId: who?.id ?? null,
      state: came ? 'arrived' : 'missed',
      arrivedAt: came ? arrivedAt : null,
      leftAt: null,
    });
    if (came)
      g.add('attendance_marks', {
        // Nothing else is called so in that table, and nothing is drawn for it.
        id,
        registrationId: id,
        state: 'arrived',
        at: arrivedAt,
        actor: 'Door team',
        toldAt: arrivedAt,
      });
    const waiver = waivers.find((w) => w.id === e.waivers[0]?.waiverId);
    if (waiver && who && (came || random.chance(0.7))) {
      const minor = who.birthDate ? ageOn(who.birthDate, date) < 19 : false;
      if (of.waiver === 'children' && !minor) return;
      const signedAt =
        plusMinutes(placedAt, random.whole(2, 2000)) < e.startsAt
          ? plusMinutes(placedAt, random.whole(2, 120))
          : placedAt;
      const signing = {
        participant: {
          name: `${who.given} ${who.family}`,
          relation: minor ? ('guardian' as const) : ('self' as const),
        },
        typedName: minor ? `${buyer.given} ${buyer.family}` : `${who.given} ${who.family}`,
        ticked: waiver.text.clauses.map((c) => c.id),
        initials: {},
        chosen: {},
        declared: minor,
      };
      const text = signedText(
        { ...shownIn(waiver.text, 'en'), version: waiver.version },
        signing,
        { event: { title: e.publicTitle, when: sayRange(e.startsLocal, e.endsLocal) }, until: null },
        signedAt,
        { address: null, device: '' },
      );
      const signatureId = ids.id();
      g.add('signatures', {
        id: signatureId,
        act: signatureId,
        waiverId: waiver.id,
        versionId: waiver.versionId,
        eventId: e.id,
        registrationId: id,
        contactId: who.id,
        relation: signing.participant.relation,
        typedName: signing.typedName,
        signedText: text,
        sha256: sha256(text),
        state: 'valid',
        at: signedAt,
        knownAt: signedAt,
      });
    }
    if (who) {
      (came ? asked.attendees : asked.absent).push({ person: who, newcomer: !seen.has(who.id) });
      // Whoever looks after a child is asked for it.
      if (came && who.child && !asked.guardians.some((a) => a.person.id === buyer.id))
        asked.guardians.push({ person: buyer, newcomer: false });
    }
  }

  function writeMessages(orderId: string, p: Person, placedAt: string): void {
    const row = (kind: string, key: string, at: string, subject: string) =>
      g.add('messages', {
        id: ids.id(),
        eventId: e.id,
        lineId: planned.lines[kind === 'registration made' ? 'Confirmation' : 'Reminder, a day before'],
        recipientKey: key,
        kind,
        contactId: p.id,
        name: `${p.given} ${p.family}`,
        address: p.email,
        language: 'en',
        state: 'sent',
        reason: kind,
        plannedFor: at,
        nextTryAt: null,
        attempts: 1,
        subject,
        body: `Hello ${p.given},\n\n${subject}\n\nBrackenmere Wetland Trust`,
        sentAt: at,
        createdAt: placedAt,
      });
    row('registration made', orderId, placedAt, `You are registered: ${e.publicTitle}`);
    const dayBefore = plusMinutes(e.startsAt, -1440);
    if (placedAt < dayBefore) row('start', `order ${orderId}`, dayBefore, `Tomorrow: ${e.publicTitle}`);
  }

  function writeCrew(): void {
    const free = random.some(
      known.filter((p) => p.volunteers),
      40,
    );
    for (const s of shifts) {
      const taken: string[] = [];
      for (let n = 0; n < s.wished; n += 1) {
        const who = free.find((p) => !taken.includes(p.id) && !busy.has(`${p.id} ${s.startsAt}`));
        if (!who || random.chance(0.06)) continue;
        free.push(...free.splice(free.indexOf(who), 1));
        taken.push(who.id);
        busy.add(`${who.id} ${s.startsAt}`);
        const served = !open && random.chance(0.94);
        const state = open ? 'agreed' : served ? 'served' : 'missed';
        if (served && !asked.crew.some((a) => a.person.id === who.id))
          asked.crew.push({ person: who, newcomer: false });
        g.add('assignments', {
          id: ids.id(),
          shiftId: s.id,
          contactId: who.id,
          state,
          source: random.chance(0.5) ? 'public' : 'staff',
          overrideReason: null,
          clashes: [],
          madeAt: plusMinutes(openAt, random.whole(60, 20_000)),
          hours: served ? hoursOf(s.startsAt, s.endsAt) : null,
        });
      }
    }
  }
}

const busy = new Set<string>();
/** Those who came to something already. */
const seen = new Set<string>();
let lastNumber = 0;
/** Order numbers of the past; those the product gives out come after them. */
const nextNumber = (): number => {
  lastNumber += 1;
  return lastNumber;
};
/** Begins the numbers afresh, for a process that fills more than one organization. */
export const resetNumbers = (): void => {
  lastNumber = 0;
  busy.clear();
  seen.clear();
  firsts.clear();
};
const firsts = new Map<string, string>();
/** The first event of a kind, which is this one when there was none before. */
export function firstOf(key: string, id: string): string {
  const first = firsts.get(key) ?? id;
  firsts.set(key, first);
  return first;
}
export const ordersWritten = (): number => lastNumber;
