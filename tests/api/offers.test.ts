import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import type { OrderBody } from '#contract/registration.ts';
import { plainCode, plainExtra, plainOffer } from '#core/offers/offer.ts';
import { plainQuestion } from '#core/questions/question.ts';
import { plusMinutes } from '#core/time/clock.ts';
import type { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor, signedInAs, surveyOf } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

type Offer = EventPlan['offers'][number];
const offer = (name: string, of: Partial<Offer> = {}): Offer => ({
  ...plainOffer,
  id: crypto.randomUUID(),
  name,
  ...of,
});
const extra = (name: string, of: Partial<EventPlan['extras'][number]> = {}): EventPlan['extras'][number] => ({
  ...plainExtra,
  id: crypto.randomUUID(),
  name,
  ...of,
});
const code = (written: string, of: Partial<EventPlan['codes'][number]> = {}): EventPlan['codes'][number] => ({
  ...plainCode,
  id: crypto.randomUUID(),
  code: written,
  ...of,
});
const page = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
async function save(id: string, change: Partial<EventPlan>) {
  const { version } = await page(id);
  return odalys.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}
/** An open event that sells what is said. */
async function selling(
  title: string,
  sold: Partial<Pick<EventPlan, 'offers' | 'extras' | 'codes' | 'taxes'>>,
  more: Parameters<typeof openEvent>[1] = {},
): Promise<OpenEvent> {
  const event = await openEvent(world, { title, capacity: null, ...more });
  expect((await save(event.id, sold)).status).toBe(200);
  return { ...event, offers: sold.offers ?? event.offers };
}
const seen = (slug: string, by: Caller = world.anyone) =>
  by.call('GET /api/public/events/:slug', { params: { slug } });
const person = (given: string) => ({ given, family: 'Sedge' });
/** Orders one unit each of some offers, and whatever else is said. */
const orderOf = (
  event: OpenEvent,
  offers: [Offer, number][],
  more: Partial<OrderBody> = {},
  given = 'Ida',
) => ({
  ...orderFor(event, [person(given)]),
  lines: offers.map(([o, units]) => ({ offerId: o.id, units })),
  attendees: [],
  ...more,
});
const place = (event: OpenEvent, body: OrderBody, by: Caller = world.anyone) =>
  by.try('POST /api/public/events/:slug/orders', { params: { slug: event.slug }, body });
const booked = (token: string) => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
const pay = (token: string) =>
  world.anyone.try('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000 0000 0000 0001', expiry: '12/30' },
  });
const enter = (event: OpenEvent, typed: string, by: Caller = world.anyone) =>
  by.try('POST /api/public/events/:slug/code', { params: { slug: event.slug }, body: { code: typed } });
const signedIn = (email: string) => signedInAs(world.origin, email);
const contact = async (given: string, more: object = {}) =>
  (
    await odalys.call('POST /api/contacts', {
      body: { given, family: 'Sedge', email: `${given.toLowerCase()}@sedge.example`, ...more },
    })
  ).id;

describe('what an event sells, as it is planned', () => {
  test('is kept with all it says, and comes along with a copy, dated around its own start', async () => {
    const single = offer('Single', {
      price: 6000,
      opensLocal: '2026-07-10T09:00',
      closesLocal: '2026-08-07T12:00',
      prices: [
        { kind: 'early', price: 5000, untilLocal: '2026-08-01T00:00', fromUnits: null, mostUnits: null },
      ],
    });
    const codes = [
      code('FEN', { offerIds: [single.id], off: { percent: 10_000 }, untilLocal: '2026-08-02T00:00' }),
    ];
    const extras = [
      extra('Shirt', { options: [{ id: world.app.ids.id(), name: 'small', french: '', quantity: 3 }] }),
    ];
    const taxes = [{ id: world.app.ids.id(), name: 'HST', rate: 15_000, included: false }];
    const event = await selling('Sold Well', { offers: [single], extras, codes, taxes });
    const { plan } = await page(event.id);
    expect(plan).toMatchObject({ offers: [single], extras, codes, taxes });
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Sold Again', from: event.id, date: '2027-08-07' },
    });
    const copy = (await page(id)).plan;
    expect(copy.offers[0]).toMatchObject({ opensLocal: '2027-07-09T09:00', closesLocal: '2027-08-06T12:00' });
    expect(copy.offers[0]!.prices[0]!.untilLocal).toBe('2027-07-31T00:00');
    expect(copy.codes[0]).toMatchObject({
      code: 'FEN',
      untilLocal: '2027-08-01T00:00',
      offerIds: [copy.offers[0]!.id],
    });
    expect(copy.extras[0]).toMatchObject({ name: 'Shirt', options: [{ name: 'small', quantity: 3 }] });
    expect(copy.taxes).toEqual(taxes);
    // Without a date it waits around the start it had.
    const later = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Some Day', from: event.id },
    });
    await save(later.id, { startsLocal: '2028-08-05T09:00' });
    expect((await page(later.id)).plan.offers[0]!.closesLocal).toBe('2028-08-04T12:00');
  });

  test.each<[string, Partial<EventPlan>, string, string]>([
    [
      'two codes alike',
      { codes: [code('FEN-1', { opens: true }), code('fen 1', { opens: true })] },
      'codes.1.code',
      'code-twice',
    ],
    ['a code that does nothing', { codes: [code('NOTHING')] }, 'codes.0.off', 'code-does-nothing'],
    [
      'a code too short to be one',
      { codes: [code('A-', { opens: true })] },
      'codes.0.code',
      'code-too-short',
    ],
    [
      'an early price without an end',
      {
        offers: [
          offer('A', {
            price: 100,
            prices: [{ kind: 'early', price: 50, untilLocal: null, fromUnits: null, mostUnits: null }],
          }),
        ],
      },
      'offers.0.prices.0.untilLocal',
      'early-until-when',
    ],
    [
      'a group price from no number',
      {
        offers: [
          offer('A', {
            price: 100,
            prices: [{ kind: 'group', price: 50, untilLocal: null, fromUnits: null, mostUnits: null }],
          }),
        ],
      },
      'offers.0.prices.0.fromUnits',
      'group-from-how-many',
    ],
    [
      'another price that is no lower',
      {
        offers: [
          offer('A', {
            price: 100,
            prices: [{ kind: 'members', price: 100, untilLocal: null, fromUnits: null, mostUnits: null }],
          }),
        ],
      },
      'offers.0.prices.0.price',
      'price-no-lower',
    ],
    [
      'a deposit as high as the price',
      { offers: [offer('A', { price: 100, pricing: 'deposit', deposit: 100 })] },
      'offers.0.deposit',
      'deposit-too-much',
    ],
    [
      'a window that ends before it begins',
      { offers: [offer('A', { opensLocal: '2026-08-01T10:00', closesLocal: '2026-08-01T10:00' })] },
      'offers.0.closesLocal',
      'closes-before-opens',
    ],
    [
      'ages the wrong way round',
      { offers: [offer('A', { fromAge: 12, toAge: 8 })] },
      'offers.0.toAge',
      'ages-turned',
    ],
    [
      'more at least than at most',
      { offers: [offer('A', { leastPerOrder: 11 })] },
      'offers.0.leastPerOrder',
      'least-above-most',
    ],
    [
      'one kind of an extra twice',
      {
        extras: [
          extra('Shirt', {
            options: [
              { id: crypto.randomUUID(), name: 'S', french: '', quantity: null },
              { id: crypto.randomUUID(), name: 's ', french: '', quantity: null },
            ],
          }),
        ],
      },
      'extras.0.options.1.name',
      'option-twice',
    ],
  ])('%s is refused at its field', async (_, change, path, problem) => {
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Refused' } });
    const refused = await save(id, change);
    expect(refused.status).toBe(422);
    expect(refused.problem.fields).toContainEqual(expect.objectContaining({ path, code: problem }));
  });
});

describe('choices of a question', () => {
  test('a blank one stays on the plan while it is written, and is none to anybody else; one alone is refused, in a survey too', async () => {
    const event = await selling('Choices', {});
    const question = (choices: string[]): EventPlan['questions'][number] => ({
      ...plainQuestion,
      id: world.app.ids.id(),
      offerId: null,
      scope: 'order',
      kind: 'one of',
      prompt: { en: 'How do you come?' },
      required: false,
      choices,
    });
    expect((await save(event.id, { questions: [question(['on foot', '', 'by bus'])] })).status).toBe(200);
    expect((await page(event.id)).plan.questions[0]!.choices).toEqual(['on foot', '', 'by bus']);
    expect((await seen(event.slug)).questions[0]!.choices).toEqual(['on foot', 'by bus']);
    expect((await save(event.id, { questions: [question(['on foot', ' '])] })).problem.fields).toMatchObject([
      { code: 'two-choices-needed' },
    ]);
    const surveys = (choices: string[]) => [surveyOf([{ id: 'again', kind: 'one of', choices }])] as never;
    expect((await save(event.id, { surveys: surveys(['yes']) })).problem.fields).toMatchObject([
      { path: expect.stringContaining('surveys.0.pages.0.questions.0.choices'), code: 'two-choices-needed' },
    ]);
    expect((await save(event.id, { surveys: surveys(['yes', 'no', 'perhaps']) })).status).toBe(200);
  });
});

describe('what somebody pays', () => {
  test('is written down unit by unit: the early price, a code to the last cent, tax; and stays when prices change', async () => {
    const seat = offer('Seat', {
      price: 4000,
      prices: [
        { kind: 'early', price: 3333, untilLocal: '2026-07-20T00:00', fromUnits: null, mostUnits: null },
      ],
    });
    const event = await selling('Reckoned', {
      offers: [seat],
      codes: [code('THIRD', { off: { percent: 33_333 } })],
      taxes: [{ id: world.app.ids.id(), name: 'HST', rate: 15_000, included: false }],
    });
    expect(await seen(event.slug)).toMatchObject({ codes: true, taxes: [{ name: 'HST' }], you: null });
    expect(JSON.stringify(await seen(event.slug))).not.toContain('THIRD');
    const { body } = await place(
      event,
      orderOf(event, [[seat, 3]], { code: 'third', donation: { amount: 500, fundId: null } }),
    );
    // 99.99 less 33.33 is 66.66; 15 % of it is 10.00 to the cent; and 5.00 given.
    expect(body).toMatchObject({ standing: 'held', total: 6666 + 1000 + 500 });
    const lines = await world.app.db.query(
      `select kind, unit_price, discount, tax from order_lines l join orders o on o.id = l.order_id where o.event_id = $1 order by position`,
      [event.id],
    );
    expect(lines).toEqual([
      { kind: 'seats', unitPrice: 3333, discount: 1111, tax: 334 },
      { kind: 'seats', unitPrice: 3333, discount: 1111, tax: 333 },
      { kind: 'seats', unitPrice: 3333, discount: 1111, tax: 333 },
      { kind: 'gift', unitPrice: 500, discount: 0, tax: 0 },
    ]);
    await save(event.id, { offers: [{ ...seat, price: 9000, prices: [] }] });
    expect(await booked(body.token)).toMatchObject({
      due: 8166,
      payNow: 8166,
      lines: [{ name: 'Seat', units: 3, amount: 9999, discount: 3333, tax: 1000 }],
    });
    expect((await pay(body.token)).body).toMatchObject({ outcome: 'succeeded' });
    expect(await booked(body.token)).toMatchObject({ received: 8166, balance: 0, payment: 'paid' });
  });

  test('what it came to when it was looked over is what is booked, or nothing is', async () => {
    const seat = offer('Seat', { price: 2500 });
    const event = await selling('Changed Meanwhile', { offers: [seat] });
    const body = orderOf(event, [[seat, 1]], { expects: 2500 });
    await save(event.id, { offers: [{ ...seat, price: 3000 }] });
    const refused = await place(event, body);
    expect(refused).toMatchObject({ status: 409, problem: { code: 'price-changed' } });
    expect(refused.problem.title).toContain('$30');
    expect(await world.app.db.query('select 1 as x from orders where event_id = $1', [event.id])).toEqual([]);
    await save(event.id, { offers: [] });
    expect((await place(event, body)).problem.fields).toMatchObject([
      { path: 'lines.0.offerId', code: 'ticket-gone' },
    ]);
  });

  test('what somebody can: from the least on, by their own word', async () => {
    const seat = offer('Talk', { price: 1500, pricing: 'pay what you can', least: 500 });
    const event = await selling('What You Can', { offers: [seat] });
    const paying = (price: number | null) => ({
      ...orderOf(event, []),
      lines: [{ offerId: seat.id, units: 2, price }],
    });
    expect((await place(event, paying(499))).problem.fields).toMatchObject([
      { path: 'lines.0.price', code: 'least-amount' },
    ]);
    expect((await place(event, paying(null))).problem.fields).toMatchObject([{ code: 'amount-needed' }]);
    expect((await place(event, paying(800))).body).toMatchObject({ total: 1600 });
  });

  test('a deposit confirms the seats; the rest is owed, and paid by the same link', async () => {
    const weekend = offer('Weekend', { price: 30_000, pricing: 'deposit', deposit: 5000 });
    const event = await selling('Deposit', { offers: [weekend] });
    const { token } = (await place(event, orderOf(event, [[weekend, 2]]))).body;
    expect(await booked(token)).toMatchObject({
      standing: 'held',
      due: 60_000,
      payNow: 10_000,
      payment: 'needed',
    });
    await pay(token);
    expect(await booked(token)).toMatchObject({
      standing: 'confirmed',
      received: 10_000,
      balance: 50_000,
      payNow: 50_000,
      payment: 'needed',
    });
    await pay(token);
    expect(await booked(token)).toMatchObject({ balance: 0, payment: 'paid' });
  });

  test('members pay theirs when they are known, and only those whose membership holds on the day', async () => {
    const seat = offer('Seat', {
      price: 4000,
      prices: [{ kind: 'members', price: 2500, untilLocal: null, fromUnits: null, mostUnits: 2 }],
    });
    const event = await selling('For Members Less', { offers: [seat] });
    const memberOf = async (given: string, endsOn: string) => {
      const id = await contact(given);
      await odalys.call('POST /api/contacts/:id/ties', {
        params: { id },
        body: { kind: 'membership', from: '2026-01-01', until: endsOn },
      });
      return signedIn(`${given.toLowerCase()}@sedge.example`);
    };
    const holds = await memberOf('Merrin', '2026-12-31');
    const ended = await memberOf('Endor', '2026-08-07');
    expect((await seen(event.slug, holds)).you).toMatchObject({ member: true, has: [] });
    expect((await seen(event.slug, ended)).you).toMatchObject({ member: false });
    expect((await place(event, orderOf(event, [[seat, 3]]), holds)).body.total).toBe(9000);
    expect((await place(event, orderOf(event, [[seat, 3]]), ended)).body.total).toBe(12_000);
    expect((await place(event, orderOf(event, [[seat, 3]]))).body.total).toBe(12_000);
  });
});

describe('codes', () => {
  test('one says what it does to whoever enters it; what it opens is hidden from everybody else', async () => {
    const seat = offer('Seat', { price: 1000 });
    const crew = offer('Crew seat', { hidden: true });
    const event = await selling('Hidden', {
      offers: [seat, crew],
      codes: [
        code('CREW-26', { opens: true, offerIds: [crew.id] }),
        code('SPRING', { off: { amount: 100 }, untilLocal: '2026-06-01T00:00' }),
      ],
    });
    expect((await seen(event.slug)).offers.map((o) => o.name)).toEqual(['Seat']);
    expect(JSON.stringify(await seen(event.slug))).not.toContain('Crew seat');
    expect((await place(event, orderOf(event, [[crew, 1]]))).problem.fields).toMatchObject([
      { code: 'ticket-gone' },
    ]);
    expect((await enter(event, ' crew 26')).body).toMatchObject({
      code: 'CREW-26',
      opens: true,
      // Nothing limits it but what the place holds.
      offers: [{ name: 'Crew seat', hidden: true, left: (await seen(event.slug)).seatsLeft }],
    });
    expect((await place(event, orderOf(event, [[crew, 1]], { code: 'crew26' }))).body).toMatchObject({
      standing: 'confirmed',
      total: 0,
    });
    expect((await enter(event, 'spring')).problem.fields).toMatchObject([
      { path: 'code', code: 'code-over' },
    ]);
    // The team books what is hidden without one.
    const desk = await odalys.try('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderOf(event, [[crew, 1]]),
    });
    expect(desk.status).toBe(201);
  });

  test('tried many times, one is refused for a while, right or wrong; at another event it is not', async () => {
    const sold = { offers: [offer('Seat')], codes: [code('RIGHT', { off: { amount: 100 } })] };
    const event = await selling('Guessed', sold);
    const other = await selling('Not Guessed', {
      ...sold,
      offers: [offer('Seat')],
      codes: [code('RIGHT', { off: { amount: 100 } })],
    });
    const answers = new Set<number>();
    for (let n = 0; n < 12; n += 1) answers.add((await enter(event, `WRONG${n}`)).status);
    expect([...answers].sort()).toEqual([422, 429]);
    expect((await enter(event, 'RIGHT')).status).toBe(429);
    expect((await place(event, orderOf(event, [[sold.offers[0]!, 1]], { code: 'RIGHT' }))).status).toBe(429);
    expect((await place(event, orderOf(event, [[sold.offers[0]!, 1]]))).status).toBe(201);
    expect((await enter(other, 'RIGHT')).status).toBe(201);
  });

  test('one tried in an order counts as one entered', async () => {
    const sold = { offers: [offer('Seat')], codes: [code('RIGHT', { off: { amount: 100 } })] };
    const event = await selling('Guessed by Ordering', sold);
    const order = (entered: string) =>
      place(event, orderOf(event, [[sold.offers[0]!, 1]], { code: entered }));
    const answers = new Set<number>();
    for (let n = 0; n < 12; n += 1) answers.add((await order(`WRONG${n}`)).status);
    expect([...answers].sort()).toEqual([422, 429]);
    expect((await enter(event, 'RIGHT')).status).toBe(429);
  });

  test('used as often as it may be, in all and by one person; given up, it can be used again', async () => {
    const seat = offer('Seat', { price: 1000 });
    const event = await selling('Used Up', {
      offers: [seat],
      codes: [
        code('TWICE', { off: { amount: 1000 }, most: 2 }),
        code('ONCE-EACH', { off: { amount: 500 }, mostPerPerson: 1 }),
      ],
    });
    const twice = () => place(event, orderOf(event, [[seat, 1]], { code: 'TWICE' }));
    const first = await twice();
    expect([first.status, (await twice()).status]).toEqual([201, 201]);
    expect((await twice()).problem.fields).toMatchObject([{ path: 'code', code: 'code-used-up' }]);
    const { seats } = await booked(first.body.token);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token: first.body.token },
      body: { seats: seats.map((s) => s.id) },
    });
    expect((await twice()).status).toBe(201);

    // Nobody is told what some address used: whoever wants it says who they are first.
    const once = (by: Caller, given: string) =>
      place(event, orderOf(event, [[seat, 1]], { code: 'ONCE-EACH' }, given), by);
    expect((await once(world.anyone, 'Orla')).problem.fields).toMatchObject([
      { path: 'code', code: 'sign-in-first' },
    ]);
    await contact('Orla');
    const orla = await signedIn('orla@sedge.example');
    const hers = await once(orla, 'Orla');
    expect(hers.body).toMatchObject({ standing: 'held', total: 500 });
    await pay(hers.body.token);
    expect((await once(orla, 'Orla')).problem.fields).toMatchObject([
      { path: 'code', code: 'code-used-by-you' },
    ]);
  });
});

describe('limits', () => {
  test('least, most, windows and ages hold for the public; how many one has already is told only to them', async () => {
    const pair = offer('Pair', { leastPerOrder: 2, mostPerOrder: 4 });
    const soon = offer('Soon', { opensLocal: '2026-07-20T09:00' });
    const child = offer('Child', { fromAge: 7, toAge: 13 });
    const own = offer('Own', { mostPerPerson: 2 });
    const event = await selling('Limited', { offers: [pair, soon, child, own] });
    const wrong = async (of: [Offer, number][], more: Partial<OrderBody> = {}, by?: Caller) =>
      (await place(event, orderOf(event, of, more), by)).problem.fields?.map((f) => [f.path, f.code]);
    expect(await wrong([[pair, 1]])).toEqual([['lines.0.units', 'least-per-order']]);
    expect(await wrong([[pair, 5]])).toEqual([['lines.0.units', 'most-per-order']]);
    expect(await wrong([[soon, 1]])).toEqual([['lines.0.units', 'ticket-not-yet']]);
    const aged = (birthDate: string | null) => ({
      attendees: [{ given: 'Kit', family: 'Sedge', birthDate }],
    });
    expect(await wrong([[child, 1]], aged(null))).toEqual([['attendees.0.birthDate', 'birth-date-needed']]);
    // Seven on the very day; fourteen on the very day.
    expect(await wrong([[child, 1]], aged('2019-08-09'))).toEqual([['attendees.0.birthDate', 'too-young']]);
    expect(await wrong([[child, 1]], aged('2012-08-08'))).toEqual([['attendees.0.birthDate', 'too-old']]);
    expect((await place(event, orderOf(event, [[child, 1]], aged('2019-08-08')))).status).toBe(201);
    expect(await wrong([[own, 1]])).toEqual([['lines.0.units', 'sign-in-first']]);
    await contact('Wren');
    const wren = await signedIn('wren@sedge.example');
    expect(
      (
        await place(
          event,
          orderOf(
            event,
            [[own, 2]],
            { buyer: { given: 'Wren', family: 'Sedge', email: 'wren@sedge.example' } },
            'Wren',
          ),
          wren,
        )
      ).status,
    ).toBe(201);
    expect((await seen(event.slug, wren)).you!.has).toEqual([{ offerId: own.id, units: 2 }]);
    expect(await wrong([[own, 1]], {}, wren)).toEqual([['lines.0.units', 'most-per-person']]);
  });

  test('what somebody books in another name counts as theirs, of an offer and of a code', async () => {
    const own = offer('Own', { mostPerPerson: 1 });
    const free = offer('Seat', { price: 500 });
    const event = await selling('In Another Name', {
      offers: [own, free],
      codes: [code('ONE-FOR-YOU', { off: { amount: 500 }, mostPerPerson: 1 })],
    });
    await contact('Linnea');
    const linnea = await signedIn('linnea@sedge.example');
    const another = (given: string) => ({
      buyer: { given, family: 'Alder', email: `${given.toLowerCase()}@alder.example` },
    });
    const wrong = async (of: Offer, typed: string, given: string) =>
      (
        await place(event, orderOf(event, [[of, 1]], { code: typed, ...another(given) }), linnea)
      ).problem.fields?.map((f) => f.code);
    expect((await place(event, orderOf(event, [[own, 1]], another('Moss')), linnea)).status).toBe(201);
    expect((await seen(event.slug, linnea)).you!.has).toEqual([{ offerId: own.id, units: 1 }]);
    expect(await wrong(own, '', 'Fern')).toEqual(['most-per-person']);
    const coded = { code: 'ONE-FOR-YOU', ...another('Rush') };
    expect((await place(event, orderOf(event, [[free, 1]], coded), linnea)).status).toBe(201);
    expect(await wrong(free, 'ONE-FOR-YOU', 'Teal')).toEqual(['code-used-by-you']);
  });

  test('extras: of each kind as many as there are, also for two who ask at once; given up they are there again', async () => {
    const small = { id: world.app.ids.id(), name: 'small', french: 'petit', quantity: null };
    const large = { id: world.app.ids.id(), name: 'large', french: 'grand', quantity: 2 };
    const shirt = extra('Shirt', { price: 2000, quantity: 3, options: [small, large] });
    const seat = offer('Seat');
    const event = await selling('Shirts', { offers: [seat], extras: [shirt] });
    const shirts = (optionId: string | null, units: number) => ({
      extras: [{ extraId: shirt.id, optionId, units }],
    });
    const wants = (optionId: string | null, units: number) =>
      place(event, orderOf(event, [[seat, 1]], shirts(optionId, units)));
    expect((await wants(null, 1)).problem.fields).toMatchObject([
      { path: 'extras.0.optionId', code: 'option-needed' },
    ]);
    expect((await wants(large.id, 3)).problem.fields).toMatchObject([
      { path: 'extras.0.units', code: 'extra-short', params: { left: 2 } },
    ]);
    const both = await Promise.all([wants(large.id, 2), wants(large.id, 2)]);
    expect(both.map((b) => b.status).sort()).toEqual([201, 422]);
    const { token } = both.find((b) => b.status === 201)!.body;
    expect((await seen(event.slug)).extras).toMatchObject([{ left: 1, options: [{ left: 1 }, { left: 0 }] }]);
    expect(await booked(token)).toMatchObject({
      due: 4000,
      lines: [{ name: 'Seat' }, { name: 'Shirt, large', units: 2, amount: 4000 }],
    });
    await pay(token);
    const { seats } = await booked(token);
    await world.anyone.call('POST /api/public/orders/:token/withdraw', {
      params: { token },
      body: { seats: seats.map((s) => s.id) },
    });
    // What was paid for them is owed back with the last seat.
    expect(await booked(token)).toMatchObject({ balance: -4000 });
    expect((await seen(event.slug)).extras).toMatchObject([{ left: 3, options: [{ left: 3 }, { left: 2 }] }]);
  });

  test('what is held and not paid within its time is free again, extras and uses of a code with it', async () => {
    const seat = offer('Seat', { price: 1000 });
    const mug = extra('Mug', { price: 500, quantity: 1 });
    const event = await selling('Held', {
      offers: [seat],
      extras: [mug],
      codes: [code('ONE', { off: { amount: 100 }, most: 1 })],
    });
    const ask = () =>
      place(event, orderOf(event, [[seat, 1]], { code: 'ONE', extras: [{ extraId: mug.id, units: 1 }] }));
    const held = await ask();
    expect(held.body).toMatchObject({ standing: 'held', total: 1400 });
    expect((await ask()).status).toBe(422);
    await world.moveTo(plusMinutes(world.app.clock.now(), 16));
    expect((await ask()).body).toMatchObject({ standing: 'held' });
    expect((await pay(held.body.token)).problem.code).toBe('nothing-held');
  });
});

test('a gift is asked for where the plan says so, for its funds and no other', async () => {
  const event = await openEvent(world, { title: 'With a gift' });
  const { funds } = await odalys.call('GET /api/choices');
  const [one, other] = funds;
  const book = (given: string, fundId: string | null, amount = 700) =>
    world.anyone.try('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [person(given)], { donation: { amount, fundId } }),
    });
  expect((await save(event.id, { giftFunds: [other!.id] })).status).toBe(200);
  expect((await seen(event.slug)).funds).toEqual([other]);
  const elsewhere = await book('Ada', one!.id);
  expect([elsewhere.status, elsewhere.problem.fields?.map((f) => f.path)]).toEqual([
    422,
    ['donation.fundId'],
  ]);
  // Without one named it is that of the plan, whichever fund else would come first.
  expect((await book('Bea', null)).status).toBe(201);
  const given = await world.app.db.query<{ fund: string; amount: number }>(
    `select o.donation_fund as fund, o.donation as amount from orders o where o.event_id = $1 and o.donation > 0`,
    [event.id],
  );
  expect(given).toEqual([{ fund: other!.id, amount: 700 }]);

  expect((await save(event.id, { giftFunds: [] })).status).toBe(200);
  expect((await seen(event.slug)).funds).toEqual([]);
  const unasked = await book('Cleo', other!.id);
  expect([unasked.status, unasked.problem.fields?.map((f) => f.path)]).toEqual([422, ['donation.amount']]);
  expect((await book('Cleo', other!.id, 0)).status).toBe(201);
  // A fund that is not there cannot be planned, and a new event asks for nothing by itself.
  const gone = await save(event.id, { giftFunds: [crypto.randomUUID()] });
  expect([gone.status, gone.problem.fields?.map((f) => f.path)]).toEqual([422, ['giftFunds']]);
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Begun now' } });
  expect((await page(id)).plan.giftFunds).toEqual([]);
});
