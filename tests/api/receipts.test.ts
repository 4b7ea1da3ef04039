import { inflateSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plainExtra, plainOffer } from '#core/offers/offer.ts';
import { codeOf } from '#core/receipts/year.ts';
import { writeLot } from '#server/receipts/batches.ts';
import { type Caller, linkTo, makeWorld, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { type OpenEvent, openEvent, orderFor, pay } from './scenes.ts';
import { wordsOf } from './wordsOf.ts';

let world: World;
let odalys: Caller;
let marit: Caller;
let general: string;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  marit = await world.as('marit');
  const { funds } = await marit.call('GET /api/giving/choices');
  general = funds.find((f) => f.name === 'General')!.id;
});
afterAll(() => world.close());

const settings = {
  legalName: 'Brackenmere Wetland Trust',
  addressLines: '4 Sluice Lane\nPort Ansley NS',
  registration: '12345 6789 RR0001',
  place: 'Port Ansley',
  signer: 'Marit Solvang',
  signerRole: 'Treasurer',
  thanks: { en: 'The herons thank you.' },
  indexed: [],
};
const setUp = async () => {
  const { version } = await marit.call('GET /api/receipts/settings');
  await marit.call('PUT /api/receipts/settings', { body: { ...settings, version } });
};
let n = 0;
/** Somebody on record, with an address where that is said. */
async function person(address = '12 Reed Row'): Promise<{ id: string; name: string }> {
  n += 1;
  const given = `Recia${n}`;
  const { id } = await odalys.call('POST /api/contacts', {
    body: { kind: 'person', given, family: 'Marlowe', email: `recia${n}@fenmail.example` } as never,
  });
  if (address)
    await world.app.db.query("update contacts set street = $2, postal_code = 'B0J 1A0' where id = $1", [
      id,
      address,
    ]);
  return { id, name: `${given} Marlowe` };
}
const give = async (contactId: string, amount: number, more: object = {}) =>
  marit.call('POST /api/gifts', {
    body: {
      contactId,
      person: null,
      kind: 'money',
      method: 'cheque',
      amount,
      fundId: general,
      ...more,
    } as never,
  });
const due = async (year = 2026) => marit.call('GET /api/receipts/due', { query: { year } });
const mine = (rows: { contactId: string }[], id: string) =>
  rows.find((r) => r.contactId === id) as never as {
    amount: number;
    advantage: number;
    eligible: number;
    left: { why: string; amount: number }[];
  };
const write = (contactId: string, more: object = {}) =>
  marit.try('POST /api/receipts', { body: { contactId, year: 2026, ...more } });
const later = (days: number) =>
  world.moveTo(new Date(Date.parse(world.app.clock.now()) + days * 86_400_000).toISOString());

/** The text of a PDF made here: what its content streams write, as far as the fonts map it back. */
const streamsOf = (pdf: Buffer): string => {
  const text: string[] = [];
  let at = 0;
  for (;;) {
    const begin = pdf.indexOf('stream\n', at);
    if (begin < 0) break;
    const end = pdf.indexOf('endstream', begin);
    try {
      text.push(inflateSync(pdf.subarray(begin + 7, end)).toString('latin1'));
    } catch {
      // A font, or a picture.
    }
    at = end + 9;
  }
  return text.join('\n');
};
const pagesOf = (pdf: Buffer): number => (pdf.toString('latin1').match(/\/Type \/Page\b/gu) ?? []).length;

test('nothing is written before the organization has said what a receipt has to say of it', async () => {
  const { id } = await person();
  await give(id, 5000);
  expect((await write(id)).problem.code).toBe('receipts-not-set-up');
  expect(
    (await marit.try('POST /api/receipts/batches', { body: { year: 2026, mail: false } })).problem.code,
  ).toBe('receipts-not-set-up');
  const { missing, known } = await marit.call('GET /api/receipts', { query: { year: 2026 } });
  expect(missing).toEqual(['legalName', 'address', 'registration', 'place', 'signer']);
  expect(known).toBe(true);
  await setUp();
  expect((await marit.call('GET /api/receipts', { query: { year: 2026 } })).missing).toEqual([]);
  expect(
    (await marit.try('PUT /api/receipts/settings', { body: { ...settings, version: 1 } })).problem.code,
  ).toBe('changed-by-somebody');
  const two = { year: 2026, smallMost: 1, lowCostMost: 1, lowCostFrom: 1 };
  expect(
    (
      await marit.try('PUT /api/receipts/settings', {
        body: { ...settings, indexed: [two, two], version: 2 },
      })
    ).problem.fields?.[0]?.path,
  ).toBe('indexed');
});

describe('a supper with tables and single seats', () => {
  let supper: OpenEvent;
  const book = async (offer: number, given: string, units = 1, seatsPerUnit = 1, more: object = {}) => {
    const people = Array.from({ length: units * seatsPerUnit }, (_, at) => ({
      given: at ? `Guest${at}` : given,
      family: at ? `Of${given}` : 'Supperly',
    }));
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: supper.slug },
      body: {
        ...orderFor(supper, people, { email: `${given}@fenmail.example`.toLowerCase() }),
        lines: [{ offerId: supper.offers[offer]!.id, units }],
        ...more,
      },
    });
    await pay(world, token);
    const [row] = await world.app.db.query<{ id: string; contactId: string }>(
      'select id, buyer_contact_id as contact_id from orders order by number desc limit 1',
    );
    await world.app.db.query(
      "update contacts set street = '7 Weir Street', postal_code = 'B0J 1A0' where id = $1",
      [row!.contactId],
    );
    return { token, ...row! };
  };
  beforeAll(async () => {
    supper = await openEvent(world, {
      title: 'Fen Supper',
      price: 12_000,
      startsLocal: '2026-07-25T18:00',
      endsLocal: '2026-07-25T22:00',
      capacity: 100,
    });
    const table = crypto.randomUUID();
    const cheap = crypto.randomUUID();
    await saveIt(odalys, supper.id, {
      refunds: [],
      offers: [
        { ...plainOffer, id: supper.offers[0]!.id, name: 'Seat', price: 12_000, valueReceived: 4500 },
        { ...plainOffer, id: table, name: 'Table', price: 90_000, valueReceived: 36_000, seatsPerUnit: 8 },
        { ...plainOffer, id: cheap, name: 'Gallery', price: 6000, valueReceived: 4900 },
      ],
    });
    supper.offers.push({ id: table, price: 90_000 }, { id: cheap, price: 6000 });
  });

  test('each is receipted as worked by hand, once it is over', async () => {
    const seat = await book(0, 'Una', 1, 1, { donation: { amount: 2000, fundId: null, anonymous: false } });
    const table = await book(1, 'Tabor', 1, 8);
    const gallery = await book(2, 'Gala');
    // Still to come: the seats wait, the gift does not.
    expect(mine((await due()).get, seat.contactId)).toMatchObject({
      amount: 2000,
      eligible: 2000,
      left: [{ why: 'still to come' }],
    });
    await later(20);
    const { get, none } = await due();
    expect(mine(get, seat.contactId)).toMatchObject({
      amount: 14_000,
      advantage: 4500,
      eligible: 9500,
      left: [],
    });
    expect(mine(get, table.contactId)).toMatchObject({ amount: 90_000, advantage: 36_000, eligible: 54_000 });
    expect(mine(none, gallery.contactId)).toMatchObject({
      eligible: 0,
      left: [{ why: 'mostly advantage', amount: 6000 }],
    });
    // A favour of 9.00 a seat is small beside a table, 9.50 is not.
    const favours = (beside: number) =>
      marit.call('PUT /api/events/:id/favours', {
        params: { id: supper.id },
        body: { itselfWhat: 'Supper and music', besideWhat: 'a jar of honey', beside, nearCash: 0 },
      });
    await favours(900);
    expect(mine((await due()).get, table.contactId)).toMatchObject({ advantage: 36_000, eligible: 54_000 });
    await favours(950);
    expect(mine((await due()).get, table.contactId)).toMatchObject({ advantage: 43_600, eligible: 46_400 });
    for (const [body, path] of [
      [{ itselfWhat: '', besideWhat: '', beside: 10, nearCash: 0 }, 'besideWhat'],
      [{ itselfWhat: '', besideWhat: 'x', beside: 10, nearCash: 11 }, 'nearCash'],
    ] as const)
      expect(
        (await marit.try('PUT /api/events/:id/favours', { params: { id: supper.id }, body })).problem
          .fields?.[0]?.path,
      ).toBe(path);
    await favours(0);
    // Two of eight seats are given up, and 225.00 goes back.
    const seats = await world.app.db.query<{ id: string }>(
      'select id from registrations where order_id = $1 order by seat_number desc limit 2',
      [table.id],
    );
    await world.app.db.query("update registrations set state = 'withdrawn' where id = any($1)", [
      seats.map((s) => s.id),
    ]);
    await marit.call('POST /api/orders/:id/refunds', {
      params: { id: table.id },
      body: { amount: 22_500, reason: 'two seats' },
    });
    expect(mine((await due()).get, table.contactId)).toMatchObject({
      amount: 67_500,
      advantage: 27_000,
      eligible: 40_500,
    });

    const { number } = (await write(seat.contactId)).body;
    expect(number).toBe('2026-00001');
    // It is receipted once.
    expect(mine((await due()).get, seat.contactId)).toBeUndefined();
    expect((await write(seat.contactId)).problem.code).toBe('nothing-to-receipt');
  });

  test('a seat its guest paid for is theirs to be receipted, and together a table comes to what it was, to the cent', async () => {
    const events = await openEvent(world, {
      title: 'Cents Supper',
      startsLocal: '2026-07-31T18:00',
      endsLocal: '2026-07-31T22:00',
      capacity: 100,
    });
    const raffle = crypto.randomUUID();
    const quilt = crypto.randomUUID();
    await saveIt(odalys, events.id, {
      // 700.01 and 280.03 are not to be shared out evenly by seven.
      offers: [
        {
          ...plainOffer,
          id: events.offers[0]!.id,
          name: 'Table',
          price: 70_001,
          valueReceived: 28_003,
          seatsPerUnit: 7,
        },
      ],
      extras: [
        { ...plainExtra, id: raffle, name: 'Raffle ticket', price: 500, chance: true },
        { ...plainExtra, id: quilt, name: 'Quilt', price: 20_000, valueReceived: 15_000 },
      ],
    });
    supper = events;
    const table = await book(0, 'Centa', 1, 7, {
      extras: [
        { extraId: raffle, optionId: null, units: 4 },
        { extraId: quilt, optionId: null, units: 1 },
      ],
    });
    await later(4);
    const seats = await world.app.db.query<{ id: string; contactId: string }>(
      'select id, contact_id from registrations where order_id = $1 order by seat_number',
      [table.id],
    );
    await world.app.db.query(
      "update contacts set street = '8 Weir Street', postal_code = 'B0J 1A0' where id = any($1)",
      [seats.slice(2, 4).map((s) => s.contactId)],
    );
    const own = (id: string, is: boolean, by = marit) =>
      by.try('PUT /api/registrations/:id/receipt', { params: { id }, body: { own: is } });
    expect((await own(seats[0]!.id, true)).problem.code).toBe('nobody-else-paid');
    expect((await own(seats[2]!.id, true, await world.as('door'))).status).toBe(403);
    const of = async (contactId: string) => {
      const { get, none } = await due();
      return mine(get, contactId) ?? mine(none, contactId);
    };
    // The quilt is 150.00 worth of 200.00: 50.00 is a gift. The raffle is none at all.
    const whole = await of(table.contactId);
    expect(whole).toMatchObject({
      amount: 90_001,
      advantage: 28_003 + 15_000,
      eligible: 70_001 - 28_003 + 5000,
      left: [{ why: 'a chance', amount: 2000 }],
    });
    for (const seat of seats.slice(2, 4)) expect((await own(seat.id, true)).status).toBe(200);
    const parts = await Promise.all([table.contactId, seats[2]!.contactId, seats[3]!.contactId].map(of));
    expect(parts[1]).toMatchObject({ amount: 10_000, advantage: 4001, eligible: 5999 });
    for (const figure of ['amount', 'advantage', 'eligible'] as const)
      expect(parts.reduce((sum, p) => sum + p[figure], 0)).toBe(whole[figure]);
    // Another guest on the seat has not paid for it; taken back, it is whoever booked's again.
    await odalys.call('PATCH /api/registrations/:id', {
      params: { id: seats[2]!.id },
      body: { given: 'Someone', family: 'Else', birthDate: null },
    });
    await own(seats[3]!.id, false);
    expect(await of(table.contactId)).toEqual(whole);
  });

  test('where nobody said what a seat is worth, none is written and it is said why', async () => {
    const plain = await openEvent(world, {
      title: 'Plain evening',
      price: 3000,
      startsLocal: '2026-08-20T18:00',
      endsLocal: '2026-08-20T20:00',
    });
    const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: plain.slug },
      body: orderFor(plain, [{ given: 'Valda', family: 'Unvalued' }]),
    });
    await pay(world, token);
    await later(30);
    const { none } = await due();
    const of = none.find((p) => p.name === 'Valda Unvalued')!;
    expect(of.left).toMatchObject([{ why: 'value unknown', amount: 3000 }]);
    const { offers } = await marit.call('GET /api/events/:id/favours', { params: { id: plain.id } });
    expect(offers).toMatchObject([{ price: 3000, valueReceived: 0 }]);
  });
});

describe('a receipt', () => {
  test('says where its giver lives by their record, whatever a stranger types with a gift in their name', async () => {
    const page = await marit.call('POST /api/giving/pages', {
      body: {
        title: { en: 'Reeds' },
        words: { en: '' },
        thanks: { en: '' },
        fundId: general,
        initiativeId: null,
        eventId: null,
        goal: null,
        untilOn: null,
        suggested: [],
        monthly: false,
        showsGivers: false,
        open: true,
      },
    });
    const giveAs = async (who: { name: string }, more: object) => {
      const { token } = await world.anyone.call('POST /api/public/giving/:slug/gifts', {
        params: { slug: page.slug },
        body: {
          amount: 2000,
          giver: {
            given: who.name.split(' ')[0]!,
            family: 'Marlowe',
            email: `recia${n}@fenmail.example`,
            country: 'CA',
            ...more,
          },
        },
      });
      await world.anyone.call('POST /api/public/gifts/:token/pay', {
        params: { token },
        body: { card: '9000 0000 0000 0001', expiry: '08/29' },
      });
    };
    const addressOn = async (id: string) => {
      const { body } = await write(id);
      const [row] = await world.app.db.query<{ content: { giver: { address: string } } }>(
        'select content from receipts where id = $1',
        [body.id],
      );
      return row!.content.giver.address;
    };
    const known = await person('12 Reed Row');
    await giveAs(known, { street: '99 Elsewhere Road', town: 'Farhaven', postalCode: 'B0J 1A0' });
    expect(await addressOn(known.id)).toBe('12 Reed Row\nB0J 1A0');
    // The town that the record does not have is taken from a gift that names the same street.
    await giveAs(known, { street: '12 reed row', town: 'Port Ansley', postalCode: 'B0J 1A0' });
    expect(await addressOn(known.id)).toBe('12 reed row\nPort Ansley B0J 1A0');
    // Who has moved away does not live there.
    await giveAs(known, { street: '12 Reed Row', town: 'Port Ansley', postalCode: 'B0J 1A0' });
    await world.app.db.query("update contacts set moved_on = '2026-05-01' where id = $1", [known.id]);
    expect(mine((await due()).none, known.id)?.left).toMatchObject([{ why: 'no address' }]);
    const bare = await person('');
    await giveAs(bare, { street: '99 Elsewhere Road', town: 'Farhaven', postalCode: 'Z9Z 9Z9' });
    expect(mine((await due()).none, bare.id)?.left).toMatchObject([{ why: 'no address' }]);
  });

  test('says all it has to, keeps that, and is verified by number and code', async () => {
    const { id, name } = await person();
    await give(id, 50_000, { advantage: 1200, advantageWhat: 'a mug' });
    await give(id, 10_000, { advantage: 1200, advantageWhat: 'a book' });
    await give(id, 160_000, { kind: 'in kind', thing: 'Two cedar canoes', appraisedBy: 'Harbour Boats' });
    expect(mine((await due()).get, id)).toMatchObject({
      amount: 220_000,
      advantage: 1200,
      eligible: 218_800,
    });
    const receipt = (await write(id, { mail: true })).body;
    const [row] = await world.app.db.query<{ content: Record<string, unknown>; sha256: string }>(
      'select content, sha256 from receipts where id = $1',
      [receipt.id],
    );
    expect(row!.content).toMatchObject({
      number: receipt.number,
      country: 'CA',
      issuer: {
        legalName: 'Brackenmere Wetland Trust',
        registration: '12345 6789 RR0001',
        place: 'Port Ansley',
        signer: 'Marit Solvang',
      },
      giver: { name, address: '12 Reed Row\nB0J 1A0' },
      amount: 220_000,
      advantage: 1200,
      eligible: 218_800,
      replaces: null,
    });
    const pdf = await marit.try('GET /api/receipts/:id/receipt.pdf', { params: { id: receipt.id } });
    expect(pdf.headers.get('content-type')).toBe('application/pdf');
    expect(pagesOf(pdf.body as never as Buffer)).toBe(1);
    const [paper] = await wordsOf(pdf.body as never as Buffer);
    expect(paper!.split('\n').slice(0, -1)).toEqual([
      'Official receipt for income tax purposes',
      `Receipt no. ${receipt.number}`,
      'Issued by',
      'Brackenmere Wetland Trust',
      '4 Sluice Lane',
      'Port Ansley NS',
      'Registration no. 12345 6789 RR0001',
      'Given by',
      name,
      '12 Reed Row',
      'B0J 1A0',
      'Date For Amount Advantage Eligible',
      '2026-09-01 General $500.00 – $500.00',
      '2026-09-01 General $100.00 $12.00 $88.00',
      '2026-09-01 Two cedar canoes $1,600.00 – $1,600.00',
      'In all $2,200.00 $12.00 $2,188.00',
      'Received in return: a book, worth $12.00.',
      'Given in kind: Two cedar canoes, received Tuesday 1 September 2026, worth $1,600.00 as appraised by',
      'Harbour Boats.',
      'Issued Tuesday 1 September 2026 in Port Ansley',
      'Marit Solvang, Treasurer',
      'Authorized signature',
      'Canada Revenue Agency, canada.ca/charities-giving',
    ]);
    expect(paper!.split('\n').at(-1)).toBe(
      `To verify it: ${world.origin}/verify, with its number and the code ${codeOf(row!.sha256)}.`,
    );
    expect(streamsOf(pdf.body as never as Buffer).length).toBeGreaterThan(2000);
    const verify = (number: string, code: string) =>
      world.anyone.call('GET /api/public/verify', { query: { number, code } });
    const code = codeOf(row!.sha256);
    expect(await verify(receipt.number, code)).toMatchObject({
      found: true,
      state: 'issued',
      eligible: 218_800,
    });
    expect(await verify(receipt.number, code.toLowerCase().replaceAll('-', ' '))).toMatchObject({
      found: true,
    });
    for (const [number, typed] of [
      [receipt.number, '0000-0000-0000-0000'],
      [receipt.number, ''],
      [receipt.number, code.slice(0, 9)],
      ['2026-99999', code],
    ] as const)
      expect(await verify(number, typed)).toEqual({
        found: false,
        state: null,
        issuedOn: null,
        eligible: null,
        currency: null,
        replacedBy: null,
      });
    // What was written is never changed.
    for (const change of ["content = '{}'", 'eligible = 1', "number = 'x'", "sha256 = 'x'"])
      await expect(
        world.app.db.query(`update receipts set ${change} where id = $1`, [receipt.id]),
      ).rejects.toThrow('never changed');
    await expect(world.app.db.query('delete from receipts where id = $1', [receipt.id])).rejects.toThrow(
      'never changed',
    );
    // By its link the giver has it too, with thanks.
    await world.runner.run();
    const [mail] = await world.app.db.query<{ subject: string; body: string }>(
      "select subject, body from standin_mail where address = $1 and subject like 'Your receipt%'",
      [`recia${n}@fenmail.example`],
    );
    expect(mail!.subject).toBe(`Your receipt ${receipt.number}`);
    expect(mail!.body).toContain('The herons thank you.');
    const token = /\/receipt\/(\S+)/u.exec(mail!.body)![1]!;
    expect(await world.anyone.call('GET /api/public/receipts/:token', { params: { token } })).toMatchObject({
      number: receipt.number,
      name,
      eligible: 218_800,
    });
    expect(
      pagesOf(
        (await world.anyone.call('GET /api/public/receipts/:token/receipt.pdf', {
          params: { token },
        })) as never as Buffer,
      ),
    ).toBe(1);
    expect(
      (await world.anyone.try('GET /api/public/receipts/:token', { params: { token: 'x'.repeat(30) } }))
        .status,
    ).toBe(404);
  });

  test('is voided, never deleted, and replaced by one that names it', async () => {
    const { id } = await person();
    const gift = await give(id, 8000);
    const first = (await write(id)).body;
    const replaced = (
      await marit.try('POST /api/receipts/:id/replace', {
        params: { id: first.id },
        body: { why: 'name misspelt' },
      })
    ).body;
    const { rows } = await marit.call('GET /api/receipts', { query: { year: 2026 } });
    const row = (of: string) => rows.find((r) => r.id === of)!;
    expect(row(first.id)).toMatchObject({ state: 'void', why: 'name misspelt', replacedBy: replaced.number });
    expect(row(replaced.id)).toMatchObject({ state: 'issued', replaces: first.number, eligible: 8000 });
    // Each says so on paper too: the one that it stands no more, the other in whose place it is.
    const paperOf = async (of: string) =>
      (
        await wordsOf(
          (
            await marit.try('GET /api/receipts/:id/receipt.pdf', { params: { id: of } })
          ).body as never as Buffer,
        )
      )
        .join('\n')
        .split('\n');
    const [voided, valid] = [await paperOf(first.id), await paperOf(replaced.id)];
    expect(voided).toContain(`This receipt is void. It was replaced by no. ${replaced.number}.`);
    expect(voided.some((line) => line.includes('VOID'))).toBe(true);
    expect(valid).toContain(`It cancels and replaces receipt no. ${first.number}.`);
    expect(valid.join()).not.toMatch(/void/iu);
    for (const move of ['void', 'replace'] as const)
      expect(
        (
          await marit.try(`POST /api/receipts/:id/${move}`, {
            params: { id: first.id },
            body: { why: 'again' },
          })
        ).problem.code,
      ).toBe('receipt-void');
    expect(
      (await marit.try('POST /api/receipts/:id/void', { params: { id: replaced.id }, body: { why: '' } }))
        .problem.fields?.[0]?.path,
    ).toBe('why');
    // Part of it goes back: the receipt says more than there is, and is shown as such.
    await marit.call('POST /api/gifts/:id/refunds', {
      params: { id: gift.id },
      body: { amount: 3000, reason: 'a mistake', by: null },
    });
    const stale = (await marit.call('GET /api/receipts', { query: { year: 2026 } })).rows.find(
      (r) => r.id === replaced.id,
    )!;
    expect(stale.stale).toBe(true);
    const again = (
      await marit.try('POST /api/receipts/:id/replace', {
        params: { id: replaced.id },
        body: { why: 'part went back' },
      })
    ).body;
    const last = (await marit.call('GET /api/receipts', { query: { year: 2026 } })).rows.find(
      (r) => r.id === again.id,
    )!;
    expect(last).toMatchObject({ eligible: 5000, stale: false });
    // All of it goes back: nothing can be written in its place, and the old one stands until it is voided.
    await marit.call('POST /api/gifts/:id/refunds', {
      params: { id: gift.id },
      body: { amount: 5000, reason: 'all', by: null },
    });
    expect(
      (
        await marit.try('POST /api/receipts/:id/replace', {
          params: { id: again.id },
          body: { why: 'all back' },
        })
      ).problem.code,
    ).toBe('nothing-to-receipt');
    expect(
      (await marit.call('GET /api/receipts', { query: { year: 2026 } })).rows.find((r) => r.id === again.id)!
        .state,
    ).toBe('issued');
    await expect(
      world.app.db.query("update receipts set state = 'issued', voided_at = null where id = $1", [first.id]),
    ).rejects.toThrow('never changed');
  });

  test('is for nobody without an address, nobody who is erased, and whoever a merge left', async () => {
    const homeless = await person('');
    await give(homeless.id, 4000);
    expect(mine((await due()).none, homeless.id).left).toMatchObject([{ why: 'no address' }]);
    const gone = await person();
    await give(gone.id, 4100);
    await odalys.call('POST /api/contacts/:id/erase', { params: { id: gone.id }, body: { name: gone.name } });
    expect(mine((await due()).none, gone.id).left).toMatchObject([{ why: 'erased' }]);
    const [kept, merged] = [await person(), await person()];
    await give(kept.id, 1000);
    await give(merged.id, 2000);
    await odalys.call('POST /api/contacts/:id/merge', {
      params: { id: kept.id },
      body: { other: merged.id, choices: {} } as never,
    });
    expect(mine((await due()).get, kept.id)).toMatchObject({ eligible: 3000 });
    expect(mine((await due()).get, merged.id)).toBeUndefined();
    // Taken apart again, each has given what they gave, and a receipt that has both of it is shown.
    const [one, other] = [await person(), await person()];
    await give(one.id, 1100);
    await give(other.id, 2200);
    const { mergeId } = await odalys.call('POST /api/contacts/:id/merge', {
      params: { id: one.id },
      body: { other: other.id, choices: {} } as never,
    });
    const both = (await write(one.id)).body;
    const staleOf = async (id: string) =>
      (await marit.call('GET /api/receipts', { query: { year: 2026 } })).rows.find((r) => r.id === id)!.stale;
    expect(await staleOf(both.id)).toBe(false);
    await odalys.call('POST /api/merges/:id/undo', { params: { id: mergeId } });
    expect(await staleOf(both.id)).toBe(true);
    expect(mine((await due()).get, other.id)).toBeUndefined();
    await marit.call('POST /api/receipts/:id/void', {
      params: { id: both.id },
      body: { why: 'two people' },
    });
    expect(mine((await due()).get, one.id)).toMatchObject({ eligible: 1100 });
    expect(mine((await due()).get, other.id)).toMatchObject({ eligible: 2200 });
    // Who died gave all the same: it is written, and nobody is written to.
    const dead = await person();
    await give(dead.id, 5200);
    await world.app.db.query("update contacts set deceased_on = '2026-07-20' where id = $1", [dead.id]);
    expect((await write(dead.id, { mail: true })).status).toBe(201);
    await world.runner.run();
    expect(
      await world.app.db.query(
        "select 1 from standin_mail where address = $1 and subject like 'Your receipt%'",
        [`recia${n}@fenmail.example`],
      ),
    ).toEqual([]);
  });

  test('for one gift alone, while the rest waits', async () => {
    const { id } = await person();
    const one = await give(id, 1500);
    await give(id, 2500);
    const receipt = (await write(id, { giftId: one.id })).body;
    const { rows } = await marit.call('GET /api/receipts', { query: { year: 2026 } });
    expect(rows.find((r) => r.id === receipt.id)).toMatchObject({ eligible: 1500 });
    expect(mine((await due()).get, id)).toMatchObject({ eligible: 2500 });
  });

  test('two asked for at the same moment are one, and numbers have no gaps', async () => {
    const people: { id: string }[] = [];
    for (let at = 0; at < 6; at += 1) people.push(await person());
    for (const p of people) await give(p.id, 2000);
    const replies = await Promise.all(people.flatMap((p) => [write(p.id), write(p.id)]));
    expect(replies.filter((r) => r.status === 201)).toHaveLength(6);
    expect(replies.filter((r) => r.status !== 201).map((r) => r.problem.code)).toEqual(
      Array.from({ length: 6 }, () => 'nothing-to-receipt'),
    );
    // Some are refused after their number was taken: it is there again.
    await Promise.all(people.map((p) => write(p.id)));
    const numbers = (
      await world.app.db.query<{ number: string }>(
        'select number from receipts where year = 2026 order by number',
      )
    ).map((r) => Number(r.number.slice(5)));
    expect(numbers).toEqual(Array.from({ length: numbers.length }, (_, at) => at + 1));
  });
});

describe('the receipts of a year in one run', () => {
  test('go on where they were stopped, say who gets none, and are printed in one', async () => {
    const people: { id: string }[] = [];
    for (let at = 0; at < 60; at += 1) people.push(await person(at % 10 === 0 ? '' : '3 Batch Street'));
    for (const p of people) await give(p.id, 3300);
    const before = await due();
    // Nothing is done but what is asked for here.
    const { wake } = world.app;
    world.app.wake = () => undefined;
    await world.runner.run();
    const { id } = await marit.call('POST /api/receipts/batches', { body: { year: 2026, mail: false } });
    expect(
      (await marit.try('POST /api/receipts/batches', { body: { year: 2026, mail: false } })).problem.code,
    ).toBe('batch-running');
    await writeLot(world.app, id);
    await marit.call('POST /api/receipts/batches/:id/stop', { params: { id } });
    await world.runner.run();
    const batch = async () =>
      (await marit.call('GET /api/receipts', { query: { year: 2026 } })).batches.find((b) => b.id === id)!;
    const stopped = await batch();
    expect(stopped.written + stopped.left).toBe(25);
    expect(stopped).toMatchObject({ state: 'stopped', all: before.get.length + before.none.length });
    await marit.call('POST /api/receipts/batches/:id/go', { params: { id } });
    await world.runner.run();
    world.app.wake = wake;
    expect(await batch()).toMatchObject({
      state: 'done',
      written: before.get.length,
      left: before.none.length,
    });
    expect((await marit.try('POST /api/receipts/batches/:id/go', { params: { id } })).problem.code).toBe(
      'batch-done',
    );
    const after = await due();
    expect(after.get).toEqual([]);
    const [sum] = await world.app.db.query<{ eligible: number; count: number }>(
      'select sum(eligible)::bigint as eligible, count(*)::int as count from receipts where batch_id = $1',
      [id],
    );
    expect(sum).toEqual({ eligible: before.totals[0]!.eligible, count: before.get.length });
    const why = await world.app.db.query<{ why: { why: string }[] }>(
      "select why from receipt_batch_people where batch_id = $1 and state = 'left'",
      [id],
    );
    expect(why.filter((w) => w.why.some((x) => x.why === 'no address')).length).toBeGreaterThanOrEqual(6);
    const pdf = (await marit.call('GET /api/receipts/batches/:id/receipts.pdf', {
      params: { id },
    })) as never as Buffer;
    expect(pagesOf(pdf)).toBe(before.get.length);
    // Nobody is left who could get one: there is nothing to begin.
    expect(
      (await marit.try('POST /api/receipts/batches', { body: { year: 2019, mail: false } })).problem.code,
    ).toBe('nothing-to-receipt');
  });

  test('are for those who see all money', async () => {
    const piers = await world.as('piers');
    expect((await piers.try('GET /api/receipts/settings')).status).toBe(403);
    expect(
      (await piers.try('POST /api/receipts/batches', { body: { year: 2026, mail: false } })).status,
    ).toBe(403);
    await world.app.db.query(
      "update staff set unit_id = (select id from units limit 1) where email like 'marit%'",
    );
    expect((await marit.try('GET /api/receipts/due', { query: { year: 2026 } })).status).toBe(403);
    await world.app.db.query("update staff set unit_id = null where email like 'marit%'");
  });
});

test('in a country whose rules are not known none is written', async () => {
  const { id } = await person();
  await give(id, 7000);
  await world.app.db.query("update organization set country = 'FR'");
  expect(mine((await due()).none, id).left).toMatchObject([{ why: 'no rules for the country' }]);
  expect((await marit.call('GET /api/receipts', { query: { year: 2026 } })).known).toBe(false);
  // In the United States a gift in Canadian dollars is not reckoned either.
  await world.app.db.query("update organization set country = 'US'");
  expect(mine((await due()).none, id).left).toMatchObject([{ why: 'another currency' }]);
  await world.app.db.query("update organization set country = 'CA'");
  expect(await linkTo(world.app, 'receipt', id)).toContain('/receipt/');
});
