import type { GivingPageFields } from '#contract/giving.ts';
import { type App, inTransaction, systemActor } from '#server/app/app.ts';
import { first, insert } from '#server/db/database.ts';
import { addToRegister } from '#server/events/registers.ts';
import { readEvent } from '#server/events/store.ts';
import { beginGift, payGift, recordGift } from '#server/giving/giving.ts';
import { makePage } from '#server/giving/pages.ts';
import { recordCost } from '#server/money/eventAccount.ts';
import { beginBatch, writeLot } from '#server/receipts/batches.ts';
import { saveSettings } from '#server/receipts/store.ts';

const nobody = { phone: '', street: '', town: '', postalCode: '', country: null };

/** Pages to give on, with gifts: once, every month, in memory, unnamed, by cheque and in kind. */
export async function playGiving(app: App): Promise<void> {
  const id = async (sql: string): Promise<string> => (await first<{ id: string }>(app.db, sql))!.id;
  const hide = await id("select id from funds where name = 'Hide Appeal'");
  const young = await id("select id from funds where name = 'Young Naturalists'");
  const general = await id("select id from funds where name = 'General'");
  const water = await first<{ id: string }>(
    app.db,
    "select id from events where public_title = 'Open Water Day' and state = 'open' order by starts_at limit 1",
  );
  const initiatives = await inTransaction(app, systemActor, async (w) => ({
    water: (await addToRegister(w, 'initiatives', { name: 'Clear Water by 2028' })).id,
    hide: (await addToRegister(w, 'initiatives', { name: 'Hide Appeal' })).id,
  }));
  const page = (fields: Partial<GivingPageFields> & Pick<GivingPageFields, 'title' | 'words' | 'fundId'>) =>
    inTransaction(app, systemActor, (w) =>
      makePage(w, {
        thanks: { en: '', fr: '' },
        initiativeId: null,
        eventId: null,
        goal: null,
        untilOn: null,
        suggested: [2500, 5000, 10_000],
        monthly: true,
        showsGivers: true,
        open: true,
        ...fields,
      }),
    );
  const appeal = await page({
    title: { en: 'A hide by the reedbed', fr: 'Un observatoire près de la roselière' },
    words: {
      en: 'From the new hide everybody will see the herons come in: a ramp instead of steps, low windows for children, a bench for those who stay long.',
      fr: 'Du nouvel observatoire, tout le monde verra arriver les hérons : une rampe au lieu de marches, des fenêtres basses pour les enfants, un banc pour qui reste longtemps.',
    },
    thanks: {
      en: 'Every board of the ramp is somebody’s gift. Come and see it this autumn.',
      fr: 'Chaque planche de la rampe est un don. Venez la voir cet automne.',
    },
    fundId: hide,
    initiativeId: initiatives.hide,
    goal: 1_800_000,
    untilOn: '2026-12-31',
  });
  await page({
    title: {
      en: 'Cannot paddle? Send a child in your place',
      fr: 'Vous ne pagayez pas ? Offrez une place à un enfant',
    },
    words: {
      en: 'A gift of 40 pays for a place, a life jacket and lunch for one of the Mudlarks.',
      fr: 'Un don de 40 paie une place, un gilet de sauvetage et un dîner pour l’un des Mudlarks.',
    },
    fundId: young,
    eventId: water?.id ?? null,
    suggested: [4000, 8000],
    monthly: false,
  });
  type Extra = { words?: string; monthly?: boolean; anonymous?: boolean; memory?: string };
  const gifts: readonly [string, string, number, Extra][] = [
    ['Hanne', 'Whitfield', 25_000, { words: 'For the herons' }],
    ['Rosalind', 'Teague', 5000, { monthly: true }],
    ['Anselm', 'Corrigan', 120_000, { memory: 'Winifred Corrigan', words: 'She counted every one of them' }],
    ['Petra', 'Lindqvist', 10_000, { anonymous: true }],
    ['Yusuf', 'Adeyemi', 2500, { monthly: true, words: 'A little every month' }],
    ['Maud', 'Pelletier', 50_000, {}],
    ['Caspian', 'Roy', 4000, { anonymous: true, words: 'See you on the boardwalk' }],
    ['Beatriz', 'Amaral', 7500, { memory: 'Joaquim Amaral' }],
  ];
  for (const [given, family, amount, { words = '', monthly = false, anonymous = false, memory }] of gifts) {
    const { giftId } = await inTransaction(app, systemActor, async (w) => {
      const { number } = await beginGift(w, appeal.slug, {
        amount,
        monthly,
        giver: { ...nobody, given, family, email: `${given}.${family}@harbourpost.example`.toLowerCase() },
        tribute: memory ? { kind: 'memory', to: memory, tellName: '', tellEmail: '' } : null,
        words,
        anonymous,
        language: 'en',
      });
      return (await first<{ giftId: string }>(w.tx, 'select id as gift_id from gifts where number = $1', [
        number,
      ]))!;
    });
    await payGift(app, systemActor, giftId, { card: '9000 0000 0000 0001', expiry: '08/29' });
  }
  const byHand = (
    given: string,
    family: string,
    amount: number,
    method: 'cheque' | 'in kind',
    row: object,
    reference = '',
  ) =>
    inTransaction(app, systemActor, (w) =>
      recordGift(w, {
        who: { given, family, email: null, language: 'en' },
        contactId: null,
        row: { currency: 'CAD', initiativeId: null, anonymous: false, ...row },
        amount,
        method,
        reference,
        by: 'Marit Solvang',
      }),
    );
  await byHand('Ottoline', 'Marsh', 40_000, 'cheque', { fundId: general, kind: 'money' }, 'No. 118');
  await byHand('Ludovic', 'Ferreira', 160_000, 'in kind', {
    fundId: young,
    kind: 'in kind',
    thing: 'Two cedar canoes',
    appraisedBy: 'Harbour Boats',
    initiativeId: initiatives.water,
  });
}

/** What receipts say of the organization, and those of last year, written in one run. */
export async function writeLastYear(app: App): Promise<void> {
  const marit = { ...systemActor, name: 'Marit Solvang' };
  await inTransaction(app, marit, (w) =>
    saveSettings(
      w.tx,
      {
        legalName: 'Brackenmere Wetland Trust',
        addressLines: '4 Sluice Lane\nPort Ansley NS  B0J 1A0',
        registration: '80012 3456 RR0001',
        place: 'Port Ansley',
        signer: 'Marit Solvang',
        signerRole: 'Treasurer',
        thanks: {
          en: 'Thank you. What you gave kept the boardwalk open and the counters warm.',
          fr: 'Merci. Grâce à vous, la passerelle est restée ouverte et les compteurs au chaud.',
        },
        indexed: [],
      },
      2,
      w.now,
    ),
  );
  await app.db.query(
    `insert into event_favours (event_id, itself_what, beside_what, beside)
     select id, 'Supper and music', 'a jar of fen honey', 400 from events where public_title = 'Fen Supper' and not is_template`,
  );
  const { id } = await inTransaction(app, marit, (w) => beginBatch(w, 2025, false));
  while (
    (await app.db.query("select 1 from receipt_batches where id = $1 and state = 'running'", [id])).length
  )
    await writeLot(app, id);
}

/** What last year’s supper was planned to bring and to cost, and what it cost. */
export async function accountForSupper(app: App): Promise<void> {
  const supper = (await first<{ id: string }>(
    app.db,
    "select id from events where public_title = 'Fen Supper' and starts_local >= '2025-10-01' and starts_local < '2025-11-01'",
  ))!;
  const plan: readonly [kind: 'income' | 'cost', name: string, amount: number, perHead: boolean][] = [
    ['income', 'seats', 4000, true],
    ['income', 'gifts', 60_000, false],
    ['cost', 'Hall', 45_000, false],
    ['cost', 'Kitchen', 1400, true],
    ['cost', 'Music', 30_000, false],
  ];
  const marit = { ...systemActor, name: 'Marit Solvang' };
  await inTransaction(app, marit, async (w) => {
    await insert(
      w.tx,
      'event_budget',
      plan.map(([kind, name, amount, perHead], position) => ({
        id: app.ids.id(),
        eventId: supper.id,
        position,
        kind,
        name,
        amount,
        perHead,
      })),
    );
    const event = await readEvent(w.tx, supper.id);
    for (const [what, line, amount, on, paidFrom] of [
      ['Town Hall, Main Hall', 'Hall', 45_000, '2025-10-20', 'bank'],
      ['Vegetables and fish', 'Kitchen', 98_450, '2025-10-17', 'bank'],
      ['Bread and candles', 'Kitchen', 21_300, '2025-10-18', 'cash'],
      ['The Marsh Fiddles', 'Music', 30_000, '2025-10-18', 'bank'],
      ['A broken urn', '', 8900, '2025-10-21', 'bank'],
    ] as const)
      await recordCost(w, event, { what, line, amount, on, paidFrom });
  });
}
