import { everybody } from '#core/admission/admission.ts';
import { answered as factsOf } from '#core/clearance/facts.ts';
import { usualQuiet } from '#core/messages/hours.ts';
import { plainCode } from '#core/offers/offer.ts';
import { plainQuestion } from '#core/questions/question.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { shiftDate } from '#core/time/dates.ts';
import { ageDecides, plainRule } from '#core/waivers/asking.ts';
import { shownIn } from '#core/waivers/form.ts';
import { because } from '#core/words/reasons.ts';
import { type Actor, type App, inTransaction } from '#server/app/app.ts';
import { readBook } from '#server/clearance/book.ts';
import { decide } from '#server/clearance/deciding.ts';
import { changeRules } from '#server/clearance/ruling.ts';
import { say as write } from '#server/clearance/said.ts';
import { submit } from '#server/clearance/sending.ts';
import { readSteps } from '#server/clearance/steps.ts';
import { takeAllOver } from '#server/contacts/own.ts';
import { putOnShift, signUp } from '#server/crew/commands.ts';
import { readShifts } from '#server/crew/store.ts';
import { first, insert } from '#server/db/database.ts';
import { readEvent, readQuestions } from '#server/events/store.ts';
import type { Runner } from '#server/jobs/runner.ts';
import { receive } from '#server/money/paying.ts';
import { keepPlace } from '#server/places/booking.ts';
import { placeOrder } from '#server/registration/ordering.ts';
import type { OrderRequest } from '#server/registration/request.ts';
import { readOrder, readSeats } from '#server/registration/store.ts';
import { withdrawSeats } from '#server/registration/withdrawing.ts';
import { beginSeries } from '#server/series/commands.ts';
import { keepQuiet } from '#server/staff/commands.ts';
import { theOrganization } from '#server/staff/store.ts';
import { makeMove } from '#server/stages/commands.ts';
import { signForSeats } from '#server/waivers/signing.ts';
import { signingAt } from '#server/waivers/store.ts';
import { answersTo, questionsOf } from './asking.ts';
import { asStaff } from './asStaff.ts';
import { type Recurring, recurring } from './calendar.ts';
import { firstOf, planRows } from './history.ts';
import type { Founded } from './organization.ts';
import { bornOf, type Person } from './people.ts';
import { makeRandom, type Random } from './random.ts';

interface Scripted {
  at: string;
  run: () => Promise<void>;
}

/**
 * Plays the weeks before the demonstration begins through the product itself: plans are sent and cleared, people
 * register and pay, seats run out, shifts fill, messages go out as the clock passes.
 */
export async function playComing(
  app: App,
  runner: Runner,
  people: readonly Person[],
  founded: Founded,
  random: Random,
  until: string,
): Promise<void> {
  const script: Scripted[] = [];
  const actor: Actor = {
    name: 'Odalys Ferrant',
    staffId: founded.staff['Odalys Ferrant'] ?? null,
    requestId: null,
  };
  const say = (at: string, run: () => Promise<void>) => script.push({ at, run });
  const kind = (key: string): Recurring => recurring.find((r) => r.key === key)!;
  const work = <T>(run: Parameters<typeof inTransaction<T>>[2]) => inTransaction(app, actor, run);
  await work((w) => keepQuiet(w, usualQuiet));

  /** Writes a plan as a draft. */
  const plan = (
    of: Recurring,
    date: string | null,
    extra: object = {},
  ): Promise<{ id: string; of: Recurring }> =>
    work(async (w) => {
      const { event, offers, lines, surveys, shifts } = planRows(
        of,
        date ?? '2026-12-01',
        founded,
        app.ids,
        w.now,
        {
          state: 'draft',
          absencesAt: null,
          version: 1,
          ...(date
            ? {}
            : {
                startsLocal: null,
                endsLocal: null,
                doorsLocal: null,
                startsAt: null,
                endsAt: null,
                doorsAt: null,
                registrationClosesLocal: null,
                registrationClosesAt: null,
              }),
          ...extra,
        },
      );
      await insert(w.tx, 'events', event);
      await insert(w.tx, 'event_states', {
        id: app.ids.id(),
        eventId: event.id,
        state: 'draft',
        at: w.now,
        actor: actor.name,
        words: '',
      });
      await insert(w.tx, 'offers', offers);
      await insert(
        w.tx,
        'questions',
        questionsOf(of.key, app.ids).map((q, position) => ({ ...q, eventId: event.id, position })),
      );
      await insert(w.tx, 'message_lines', lines);
      await insert(w.tx, 'surveys', surveys);
      if (date) await insert(w.tx, 'shifts', shifts);
      await keepPlace(w, event.id, null);
      return { id: event.id, of };
    });

  const approver = (name: string, approves: string) =>
    asStaff(founded.staff[name]!, name, { roles: ['approver'], approves: [approves] });
  const approvers = {
    safety: approver('Tobias Wren-Achebe', 'safety'),
    finance: approver('Marit Solvang', 'finance'),
  };

  /** Whoever waits for a decision decides, one after the other; safety may have a condition. */
  const clear = async (eventId: string, words = '') => {
    for (const step of await readSteps(app.db, eventId)) {
      const by = step.approves === 'safety' ? approvers.safety : approvers.finance;
      const condition = step.approves === 'safety' ? words : '';
      const decision = condition ? 'clear with conditions' : 'clear';
      await inTransaction(app, { name: by.name, staffId: by.id, requestId: null }, (w) =>
        decide(w, by, step.id, {
          decision,
          words: '',
          questions: [],
          conditions: condition
            ? [
                {
                  what: condition,
                  ownerId: founded.staff['Odalys Ferrant']!,
                  dueOn: '2026-07-31',
                  blocks: false,
                },
              ]
            : [],
        }),
      );
    }
  };

  const open = (eventId: string) => work((w) => makeMove(w, eventId, 'open', ''));

  const adults = people.filter((p) => !p.child && p.email && p.since < '2026-06-01');
  const used = new Map<string, Set<string>>();
  // What is answered has chances of its own, so that it changes nobody else's.
  const saying = makeRandom(39);

  /** Somebody registers with whoever they bring, pays where something is due, and signs where asked. */
  const register = (eventId: string, of: Recurring, minutesToPay: number | null) =>
    (async () => {
      const seen = used.get(eventId) ?? new Set<string>();
      used.set(eventId, seen);
      const close = adults.filter(
        (p) => !seen.has(p.id) && (p.leans.includes(of.unit) || random.chance(0.15)),
      );
      const p = close.length ? random.pick(close) : random.pick(adults);
      seen.add(p.id);
      const offers = await app.db.query<{ id: string; seatsPerUnit: number; name: string }>(
        'select id, seats_per_unit, name from offers where event_id = $1 order by position',
        [eventId],
      );
      const questions = await readQuestions(app.db, eventId);
      const answered = (scope: 'order' | 'attendee') =>
        answersTo(
          questions.filter((q) => q.scope === scope),
          saying,
        );
      const asksAge = ageDecides({
        waivers: of.waiver ? [{ ...plainRule, id: of.waiver, waiverId: of.waiver }] : [],
        facts: factsOf(...of.so),
      });
      const family = of.so.includes('minors') && p.children.length > 0;
      const offer = family
        ? (offers.find((o) => o.seatsPerUnit === 4) ?? offers[0]!)
        : random.pick(offers.filter((o) => o.seatsPerUnit === 1));
      const party = family
        ? [p, ...p.children].slice(0, offer.seatsPerUnit > 1 ? offer.seatsPerUnit : 4)
        : [p];
      const seats = offer.seatsPerUnit > 1 ? offer.seatsPerUnit : party.length + (random.chance(0.2) ? 1 : 0);
      const request: OrderRequest = {
        buyer: { given: p.given, family: p.family, email: p.email!, phone: p.phone ?? '' },
        lines: [{ offerId: offer.id, units: Math.ceil(seats / offer.seatsPerUnit), price: null }],
        extras: [],
        code: '',
        expects: null,
        from: '',
        invited: '',
        zone: '',
        attendees: party.map((m) => ({
          given: m.given,
          family: m.family,
          birthDate: asksAge ? bornOf(m) : m.birthDate,
          contactId: null,
          email: '',
          answers: answered('attendee'),
        })),
        answers: answered('order'),
        donation: random.chance(of.giving)
          ? {
              amount: random.pick([500, 1000, 2000, 5000]),
              fundId: random.pick(Object.values(founded.funds)),
              anonymous: false,
            }
          : { amount: 0, fundId: null, anonymous: false },
        language: random.chance(0.1) ? 'fr' : 'en',
        waitlist: true,
      };
      const placed = await work((w) =>
        placeOrder(
          { ...w, actor: { name: 'public', staffId: null, requestId: null } },
          eventId,
          request,
          'public',
        ),
      );
      if (placed.standing === 'held' && minutesToPay !== null)
        await work(async (w) =>
          receive(
            w,
            await readOrder(w.tx, placed.orderId),
            placed.total,
            'card',
            `CH-${Buffer.from(app.ids.bytes(6)).toString('hex').toUpperCase()}`,
          ),
        );
      if (placed.standing !== 'waitlisted' && random.chance(0.86)) await sign(placed.orderId, eventId, p);
      return placed.orderId;
    })();

  /** The buyer signs for everybody for whom it is asked, as far as they are named. */
  const sign = (orderId: string, eventId: string, buyer: Person) =>
    work(async (w) => {
      const event = await readEvent(w.tx, eventId);
      const { ageOfMajority } = await theOrganization(w.tx);
      const at = await signingAt(w.tx, event, ageOfMajority, w.now.slice(0, 10), orderId);
      if (!at.waivers.length) return;
      for (const seat of await readSeats(w.tx, orderId)) {
        const { standing: need, toSign } = at.need(seat.id);
        if (seat.state !== 'confirmed' || !seat.givenName || (need !== 'self' && need !== 'guardian'))
          continue;
        const own = `${seat.givenName} ${seat.familyName}`;
        // Who is under age and books for themselves has a guardian sign later, from the link.
        if (need === 'guardian' && own === `${buyer.given} ${buyer.family}`) continue;
        for (const { id, version, text } of at.waivers.filter((x) => toSign.includes(x.id)))
          await signForSeats(
            w,
            [{ ...seat, relation: need, answers: {} }],
            {
              waiverId: id,
              version,
              typedName: need === 'guardian' ? `${buyer.given} ${buyer.family}` : own,
              ticked: shownIn(text, 'en').clauses.map((c) => c.id),
              initials: {},
              chosen: {},
              declared: need === 'guardian',
              drawn: null,
            },
            {
              way: 'link',
              mayKnow: (contactId) => contactId !== null && contactId === seat.contactId,
              signer: null,
              copyTo: null,
              language: 'en',
              address: '198.51.100.24',
              device: 'Firefox on a telephone',
            },
          );
      }
    });

  const fillShifts = (eventId: string, share: number, among = 30) =>
    work(async (w) => {
      const shifts = await readShifts(w.tx, eventId);
      const volunteers = random.some(
        adults.filter((p) => p.volunteers),
        among,
      );
      const taken = new Set<string>();
      for (const s of shifts) {
        for (let n = 0; n < s.wished; n += 1) {
          if (!random.chance(share)) continue;
          for (const who of volunteers) {
            if (taken.has(who.id)) continue;
            // Whoever something speaks against is left where they are.
            const { assigned } = await putOnShift(w, { ...s, eventId }, who.id, '');
            if (!assigned) continue;
            taken.add(who.id);
            break;
          }
        }
      }
    });

  /** Registrations spread over the days from one to another. */
  const spread = (eventId: string, of: Recurring, count: number, from: string, to: string) => {
    for (let n = 0; n < count; n += 1) {
      const at = new Date(
        Date.parse(from) + (Date.parse(to) - Date.parse(from)) * random.next(),
      ).toISOString();
      say(at, async () => {
        await register(eventId, of, 3);
      });
    }
  };

  const water = await plan(kind('open-water'), '2026-08-08', {
    refunds: [
      { days: 14, percent: 100 },
      { days: 3, percent: 50 },
    ],
    copiedFromTitle: 'Open Water Day 2025',
    leftBehind: [because('left: registrations'), because('left: clearance')],
  });
  const cutAugust = await plan(kind('reed-cut'), '2026-08-05');
  const cutSeptember = await plan(kind('reed-cut'), '2026-09-02');
  const boats = await plan(kind('boat-evening'), '2026-07-16');
  const boatsSoon = await plan(kind('boat-evening'), '2026-07-09');
  const talk = await plan(kind('fen-talk'), '2026-07-22', {
    publicTitle: 'Fen Talk: Otters',
    slug: 'fen-talk-otters',
  });
  const submitAt = (e: { id: string }, at: string) => say(at, () => work((w) => submit(w, e.id)));
  const clearAt = (e: { id: string }, at: string, words = '') => say(at, () => clear(e.id, words));
  const openAt = (e: { id: string }, at: string) =>
    say(at, async () => {
      await open(e.id);
    });
  for (const e of [water, cutAugust, cutSeptember, boats, boatsSoon]) submitAt(e, '2026-06-15T12:10:00.000Z');
  clearAt(water, '2026-06-15T17:00:00.000Z', 'A second safety boat from 13:00.');
  for (const e of [cutAugust, cutSeptember, boats, boatsSoon]) clearAt(e, '2026-06-15T18:00:00.000Z');
  for (const e of [water, cutAugust, boats, boatsSoon]) openAt(e, '2026-06-16T12:00:00.000Z');
  openAt(cutSeptember, '2026-07-02T12:00:00.000Z');
  spread(water.id, water.of, 66, '2026-06-16T13:00:00.000Z', '2026-07-09T11:30:00.000Z');
  spread(cutAugust.id, cutAugust.of, 12, '2026-06-20T13:00:00.000Z', '2026-07-09T11:00:00.000Z');
  spread(cutSeptember.id, cutSeptember.of, 3, '2026-07-03T13:00:00.000Z', '2026-07-08T20:00:00.000Z');
  spread(boats.id, boats.of, 19, '2026-06-22T13:00:00.000Z', '2026-07-08T20:00:00.000Z');
  spread(boatsSoon.id, boatsSoon.of, 11, '2026-06-20T13:00:00.000Z', '2026-07-08T20:00:00.000Z');
  say('2026-06-24T15:00:00.000Z', () => fillShifts(water.id, 0.82, 110).then(() => undefined));
  // Somebody asks for first aid of whom nobody has seen a certificate.
  say('2026-07-07T19:30:00.000Z', () =>
    work(async (w) => {
      const open = (await readShifts(w.tx, water.id)).filter(
        (s) => s.role === 'First aid' && s.filled < s.wished,
      );
      const helpful = adults.filter((p) => !p.volunteers && p.phone).slice(40);
      for (const [n, s] of open.entries())
        await signUp(
          w,
          { ...s, eventId: water.id },
          {
            given: helpful[n]!.given,
            family: helpful[n]!.family,
            email: helpful[n]!.email!,
            phone: '',
            language: 'en',
          },
        );
    }),
  );
  say('2026-06-28T15:00:00.000Z', () => fillShifts(boatsSoon.id, 1).then(() => undefined));
  say('2026-07-01T15:00:00.000Z', () => fillShifts(cutAugust.id, 1).then(() => undefined));

  // The household of five books a canoe and has not signed for the children yet.
  say('2026-06-30T22:10:00.000Z', async () => {
    const canoe = await first<{ id: string }>(
      app.db,
      "select id from offers where event_id = $1 and name = 'Family canoe'",
      [water.id],
    );
    const child = (given: string, birthDate: string) => ({
      given,
      family: 'Delacroix-Nguyen',
      birthDate,
      contactId: null,
      email: '',
      answers: {},
    });
    const request: OrderRequest = {
      buyer: {
        given: 'Mai',
        family: 'Delacroix-Nguyen',
        email: 'delacroix-nguyen@harbourpost.example',
        phone: '',
      },
      lines: [{ offerId: canoe!.id, units: 1, price: null }],
      extras: [],
      code: '',
      expects: null,
      from: '',
      invited: '',
      zone: '',
      attendees: [
        child('Mai', '1984-03-09'),
        child('Théo', '2015-05-02'),
        child('Linh', '2017-09-30'),
        child('Odette', '2019-01-14'),
      ],
      answers: {},
      donation: { amount: 2000, fundId: founded.funds['Young Naturalists']!, anonymous: false },
      language: 'fr',
      waitlist: true,
    };
    const placed = await work((w) => placeOrder(w, water.id, request, 'public'));
    if (placed.standing === 'held')
      await work(async (w) =>
        receive(w, await readOrder(w.tx, placed.orderId), placed.total, 'card', 'CH-0D1E7A'),
      );
  });
  // Somebody pays, then gives the seats up: the treasurer owes them.
  say('2026-07-07T16:00:00.000Z', async () => {
    const order = await first<{ id: string }>(
      app.db,
      "select o.id from orders o where o.event_id = $1 and o.state = 'paid' and o.seats = 1 and o.due >= 2500 and exists (select 1 from registrations r where r.order_id = o.id and r.state = 'confirmed') order by o.placed_at limit 1",
      [water.id],
    );
    if (order)
      await work(async (w) =>
        withdrawSeats(
          w,
          order.id,
          (await readSeats(w.tx, order.id)).map((s) => s.id),
          'withdrawn by the registrant',
          'terms',
        ),
      );
  });

  const symposium = await plan(kind('symposium'), '2026-09-18');
  submitAt(symposium, '2026-06-22T14:00:00.000Z');
  say('2026-06-30T14:00:00.000Z', () =>
    work((w) =>
      write(w, {
        eventId: symposium.id,
        kind: 'word',
        body: 'The caterer brings their own insurance; the certificate comes on Friday.',
      }),
    ).then(() => undefined),
  );
  const mudlarks = await plan(
    {
      ...kind('overnight'),
      title: 'Mudlarks Pond Day',
      starts: '10:00',
      hours: 5,
      shifts: [{ role: 'Leader', place: 'Pond', from: 0, hours: 5, wished: 3 }],
    },
    '2026-07-25',
  );
  submitAt(mudlarks, '2026-06-18T14:00:00.000Z');
  clearAt(mudlarks, '2026-06-25T14:00:00.000Z');
  submitAt(talk, '2026-06-17T14:00:00.000Z');
  openAt(talk, '2026-06-19T14:00:00.000Z');
  spread(talk.id, talk.of, 9, '2026-06-20T14:00:00.000Z', '2026-07-08T20:00:00.000Z');

  script.sort((a, b) => (a.at < b.at ? -1 : 1));
  for (const { at, run } of script) {
    if (at > until) break;
    await runner.moveTo(at);
    await run();
    await runner.run();
  }
  await runner.moveTo(plusMinutes(until, -60));
  // Birth dates that people gave with their bookings were looked through; a few other matters wait.
  await work((w) => takeAllOver(w, 'birthDate'));
  // What recurs by a rule goes on by itself.
  for (const { key, series, starts, dates } of recurring) {
    if (!series) continue;
    await work(async (w) => {
      const newest = await first<{ id: string }>(
        w.tx,
        `select id from events where first_of = $1 and starts_local is not null and not is_template order by starts_local desc limit 1`,
        [firstOf(key, '')],
      );
      await beginSeries(w, await readEvent(w.tx, newest!.id), {
        rule: series.rule,
        startsLocal: `${dates[0]}T${starts}`,
        extra: (series.extra ?? []).map((startsLocal) => ({ startsLocal, endsLocal: null })),
        skipped: series.skipped ?? [],
        horizon: series.horizon,
        opens: false,
      });
    });
  }
  const supper = await plan(kind('fen-supper'), '2026-10-17', {
    refunds: [
      { days: 21, percent: 100 },
      { days: 7, percent: 50 },
    ],
    balanceDays: 14,
    copiedFromTitle: 'Fen Supper 2025',
    leftBehind: [
      because('left: registrations'),
      because('left: clearance'),
      because('left: crew', { count: 3 }),
    ],
  });
  // A supper has its early price, tables that are paid later, and a code for those who helped at the last one.
  await work(async ({ tx }) => {
    await tx.query("update offers set prices = $2::jsonb where event_id = $1 and name = 'One place'", [
      supper.id,
      JSON.stringify([
        { kind: 'early', price: 3900, untilLocal: '2026-09-05T23:59', fromUnits: null, mostUnits: null },
      ]),
    ]);
    await tx.query("update offers set pricing = 'later' where event_id = $1 and name = 'Table of eight'", [
      supper.id,
    ]);
    await insert(tx, 'codes', {
      ...plainCode,
      id: app.ids.id(),
      eventId: supper.id,
      position: 0,
      code: 'KITCHEN',
      note: 'for who cooked in 2025',
      off: { percent: 25_000 },
      most: 20,
      mostPerPerson: 1,
    });
  });
  await plan(kind('heron-count'), null, {
    publicTitle: 'Autumn Heron Count',
    slug: 'autumn-heron-count',
    summary: '',
  });
  // One for members: they see it once they are signed in.
  const evening = await plan(kind('fen-talk'), '2026-08-20', {
    publicTitle: 'Members’ Evening at the Hide',
    slug: 'members-evening',
    summary: 'Lamps out, kettle on: what the year brought, and what the next one may.',
    visibility: 'members',
  });
  await work(async (w) => {
    await submit(w, evening.id);
    await makeMove(w, evening.id, 'open', '');
  });
  // One where people are accepted: some have asked.
  const of = { ...kind('fen-talk'), giving: 0 };
  const watch = await plan(of, '2026-08-27', {
    publicTitle: 'Night Watch at the Hide',
    slug: 'night-watch',
    summary: 'Ten of us sit in the dark and count what comes to drink. Tell us why you would like to.',
    capacity: 10,
    admission: { ...everybody, accepts: true },
  });
  await work(async (w) => {
    await insert(w.tx, 'questions', {
      ...plainQuestion,
      id: app.ids.id(),
      eventId: watch.id,
      position: 0,
      scope: 'order',
      kind: 'one of',
      prompt: { en: 'How long can you sit still?', fr: 'Combien de temps tenez-vous en place ?' },
      choices: ['an hour', 'half the night', 'till dawn'],
    });
    await submit(w, watch.id);
    await makeMove(w, watch.id, 'open', '');
  });
  for (let n = 0; n < 6; n += 1) await register(watch.id, of, null);
  // A third step, and a fact of the organization's own: plans from now on are asked about it.
  await work(async (w) => {
    const { version, rules, names } = await readBook(w.tx);
    const fire = { id: app.ids.id(), name: 'There is an open fire', kind: 'yes or no' as const };
    await changeRules(w, {
      version,
      facts: [...names.facts, fire],
      rules: [
        ...rules.map((rule) => ({
          ...rule,
          documents: [...rule.documents],
          questions: [...rule.questions],
          after: [...rule.after],
          when: [
            ...rule.when.map((group) => [...group]),
            ...(rule.step === 'Safety' ? [[{ fact: fire.id, is: true }]] : []),
          ],
        })),
        {
          id: app.ids.id(),
          step: 'Premises',
          when: [[{ fact: 'off-site', is: true }], [{ fact: 'late', is: true }]],
          approves: 'premises',
          approverId: null,
          after: rules.filter((r) => r.step === 'Safety').map((r) => r.id),
          workingDays: 4,
          asks: 'Is the place ours to use until then, and who locks up?',
          documents: [{ id: app.ids.id(), name: 'Agreement with the owner of the place' }],
          questions: [{ id: app.ids.id(), prompt: 'Who has the key?', required: true }],
          meanwhile: 'stays open',
        },
      ],
    });
  });
  for (const [key, title] of [
    ['boat-evening', 'Paddle evening'],
    ['reed-cut', 'Working party'],
    ['fen-supper', 'Supper'],
  ] as const)
    await plan(kind(key), shiftDate(until.slice(0, 10), -30), {
      publicTitle: title,
      slug: null,
      isTemplate: true,
    });
  await runner.moveTo(until);
}
